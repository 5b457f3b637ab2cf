import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { newPiece, onBed, type Part } from '../document/index.ts'
import { built, partOf, pointsOf, step, testKernel } from '../testing/index.ts'
import { runs } from '../testing/sample.ts'
import { fusedCheck } from './fused.ts'
import { proofOf } from './index.ts'

const kernel = await testKernel()
const [first, layer, least] = [0.24, 0.2, 2]

interface Slab {
  readonly x: number
  readonly size: number
  readonly low: number
  readonly high: number
}
function slabs(...all: readonly Slab[]): Part {
  const steps = all.map(({ x, size, low, high }, i) =>
    step(
      `s${i}`,
      'plate',
      { width: `${size}`, depth: `${size}`, height: `${high - low}` },
      { place: { ...onBed, across: { from: 'centre', to: 'centre', by: `${x}` }, lift: `${low}` } },
    ),
  )
  const part = partOf([steps[0]!])
  const more = steps.slice(1).map((own, i) => ({ ...newPiece(`p${i + 2}`, `Slab ${i + 2}`, 'sand'), steps: [own] }))
  const printer = { ...part.printer, firstLayer: first, layerHeight: layer }
  return { ...part, printer, pieces: [...part.pieces, ...more] }
}
async function found(part: Part) {
  return proofOf(kernel, await built(kernel, part, 0.02), { only: [fusedCheck.id] })
}
/** Layers that a slab fills: those whose middle it holds. */
const filled = ({ low, high }: Slab) => {
  const layers = Array.from({ length: 100 }, (_, i) => i)
  const own = layers.filter((i) => {
    const middle = i === 0 ? first / 2 : first + (i - 0.5) * layer
    return low < middle && middle < high
  })
  return [own[0]!, own.at(-1)!] as const
}

describe('pieces that are printed above each other', () => {
  const slab = fc.record({
    x: fc.integer({ min: -90, max: 90 }).map((x) => x / 10),
    size: fc.integer({ min: 20, max: 117 }).map((x) => x / 10),
    // Off the middles of layers, where a hair decides.
    low: fc.integer({ min: 0, max: 40 }).map((k) => k * 0.07 + 0.013),
    thick: fc.integer({ min: 5, max: 30 }).map((k) => k * 0.09 + 0.011),
  })
  it('are told with the layers between them and how large that is, as counted by hand', async () => {
    await fc.assert(
      fc.asyncProperty(slab, slab, fc.integer({ min: 0, max: 12 }), async (a, b, up) => {
        const lower: Slab = { x: a.x, size: a.size, low: a.low, high: a.low + a.thick }
        const start = lower.high + 0.06 * up + 0.001
        const upper: Slab = { x: b.x, size: b.size, low: start, high: start + b.thick }
        const common = (i: 0 | 1) => {
          const at = (slab: Slab) => (i === 0 ? slab.x : 0)
          return (
            Math.min(at(lower) + lower.size / 2, at(upper) + upper.size / 2) -
            Math.max(at(lower) - lower.size / 2, at(upper) - upper.size / 2)
          )
        }
        const area = common(0) > 0 ? common(0) * common(1) : 0
        const empty = filled(upper)[0] - filled(lower)[1] - 1
        const told = await found(slabs(lower, upper))
        if (common(0) < 0) expect(told).toEqual([])
        else if (empty >= least || area < 2 || common(0) < 0.45) expect(told.map(({ rank }) => rank)).toEqual(['pass'])
        else {
          expect(told.map(({ rank }) => rank)).toEqual([empty === 0 ? 'warning' : 'advice'])
          const [, shown] = /over ([\d.e+]+) mm²/.exec(told[0]!.text)!
          expect(Number(shown) / area).toBeCloseTo(1, 2)
          expect(told[0]!.text).toContain(`at layer ${filled(upper)[0] + 1}`)
          const [mark] = told[0]!.marks!
          // Drawn where the upper one begins.
          expect(pointsOf(mark)[2]).toBeCloseTo(first + (filled(upper)[0] - 1) * layer, 5)
        }
      }),
      { numRuns: runs(120), seed: 5 },
    )
  })
  it('break loose where they share a strip that is narrower than a line', async () => {
    const low = { x: 0, size: 15.3, low: 0, high: 4 }
    const beside = (shared: number) => ({ x: 15.3 - shared, size: 15.3, low: 4.2, high: 6 })
    const [narrow] = await found(slabs(low, beside(0.4)))
    expect([narrow!.rank, narrow!.text]).toEqual([
      'pass',
      expect.stringMatching(/but for 6\.12 mm² that will break free\.$/),
    ])
    const [wide] = await found(slabs(low, beside(0.5)))
    expect([wide!.rank, wide!.text]).toEqual(['advice', expect.stringMatching(/over 7\.65 mm², at layer 22/)])
  })
  it('hold together on a slope, where strip lies beside strip', async () => {
    // A cone in a cone-shaped bowl: right above it all round, by less than a line in each layer.
    const cone = (id: string, more: Record<string, string>, place: object = {}) =>
      step(id, 'bar', { form: 'tapered', diameter: '4', end: '28.6', ...more }, { place: { ...onBed, ...place } })
    const bowl = [
      step('b', 'bar', { diameter: '40.3', height: '15.3' }),
      { ...cone('c', { height: '12.3' }, { lift: '3.0' }), operation: 'cut' as const },
    ]
    for (const [lift, rank] of [
      [3.05, 'warning'],
      [4.7, 'pass'],
    ] as const) {
      const part = partOf(bowl)
      const core = { ...newPiece('p2', 'Core', 'sand'), steps: [cone('k', { height: '12.3' }, { lift: `${lift}` })] }
      const [told] = await found({ ...part, pieces: [...part.pieces, core] })
      expect([lift, told!.rank]).toEqual([lift, rank])
      if (rank === 'warning') expect(Number(/over ([\d.e+]+) mm²/.exec(told!.text)![1])).toBeGreaterThan(300)
    }
  })
  it('are told from both sides, and not where they stand beside each other', async () => {
    const [low, high] = [
      { x: 0, size: 15.3, low: 0, high: 4 },
      { x: 3, size: 8.1, low: 4.2, high: 6 },
    ]
    for (const part of [slabs(low, high), slabs(high, low)])
      expect((await found(part)).map(({ rank, text }) => `${rank} ${text}`)).toEqual([
        expect.stringMatching(/^advice .* only one layer apart .* over 65\.6 mm², at layer 22;/),
      ])
    expect((await found(slabs(low, { ...high, x: 30 }))).length).toBe(0)
  })
  it('that run through each other are told by that alone, however many layers it is', async () => {
    for (const x of [0, 1.7, 20.3]) {
      const part = slabs({ x: 0, size: 37.3, low: 0, high: 5.3 }, { x, size: 21.9, low: 1.13, high: 9.7 })
      const findings = await proofOf(kernel, await built(kernel, part, 0.02), { only: ['gap', fusedCheck.id] })
      expect(findings.filter(({ check }) => check === fusedCheck.id)).toEqual([])
      expect(findings.filter(({ check }) => check === 'gap').map(({ rank, code }) => [rank, code])).toEqual([
        ['fault', 'gap-overlap'],
      ])
    }
  })
})
