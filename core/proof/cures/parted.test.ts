import { describe, expect, it } from 'vitest'
import { applyEdit, newPiece, type Part, type Step } from '../../document/index.ts'
import { fieldKindOf, printPoseOf } from '../../planning/index.ts'
import { Builder, motionsIn, movedBy } from '../../solids/index.ts'
import { built, partOf, seeded, step, testKernel } from '../../testing/index.ts'
import { sampled } from '../../testing/sample.ts'
import { type Finding, proofOf } from '../index.ts'

const kernel = await testKernel()
const trials = new Builder(kernel)
const off = (by: number) => ({ from: 'centre', to: 'centre', by: `${by}` })
const open = (found: readonly Finding[]) => found.filter(({ rank }) => rank !== 'pass')

function block(id: string, [w, d, h]: readonly number[], at: readonly number[], turn: number, more: object = {}): Step {
  const [x, y, lift] = at
  const place = { across: off(x!), along: off(y!), rest: 'on', turn: `${turn}`, lift: `${lift}` }
  return step(id, 'plate', { width: `${w}`, depth: `${d}`, height: `${h}` }, { place, ...more } as never)
}

async function offered(part: Part): Promise<readonly Finding[]> {
  const build = (changed: Part) => trials.build(changed, { fineness: 0.02 })
  return proofOf(kernel, await built(kernel, part, 0.02), { build })
}

/** Proves a part, takes the split that is offered for some finding, and proves what comes of it as it is printed. */
async function parted(part: Part, code: RegExp) {
  const drawn = await built(kernel, part, 0.02)
  const found = await offered(part)
  const own = found.find((each) => code.test(each.code))
  const [cure] = own?.cures ?? []
  if (!cure) return { found, own, cure }
  const after = cure.edits.reduce((so, edit) => applyEdit(so, edit, fieldKindOf), part)
  const split = await built(kernel, after, 0.02)
  const posed = movedBy(kernel, split, motionsIn(kernel, split, printPoseOf(after)!))
  const boxes = posed.built.pieces.map(({ solid }) => solid!.bounds()!)
  const then = await proofOf(kernel, posed.built)
  const volumes = [drawn, posed.built].map(({ pieces }) => pieces.reduce((sum, { solid }) => sum + solid!.volume(), 0))
  posed.release()
  return { found, own, cure, after, boxes, then, volumes }
}

describe('what hangs where nothing else helps', () => {
  it.each(sampled(20, 1, 10))('is split level with its top, and the upper half printed on the cut (%i)', async (i) => {
    const random = seeded(9001 * i)
    const size = (low: number, high: number) => low + (high - low) * random()
    const [x, y, turn] = [size(-30, 30), size(-30, 30), size(-90, 90)]
    // A post with a rim all round at half its height, too far out and too low for a bevel: whichever way it lies it hangs.
    const [foot, rim, tall] = [size(13, 19), size(34, 46), size(9, 12)]
    const part = partOf([
      block('post', [foot, foot, 2.2 * tall], [x, y, 0], turn),
      block('rim', [rim, rim, size(3, 5)], [x, y, tall], turn),
    ])
    const { cure, own, then, boxes, volumes } = await parted(part, /^overhangs-/)
    expect(cure?.label ?? own!.tried).toMatch(/^Split .* at a height of .* with two pegs$/)
    expect(open(then!).map(({ text }) => text)).toEqual([])
    expect(boxes!.length).toBe(2)
    for (const { min } of boxes!) expect(Math.abs(min[2])).toBeLessThan(1e-5)
    // But for the room round the pegs.
    expect(Math.abs(volumes![0]! - volumes![1]!)).toBeLessThan(100)
    expect(volumes![1]!).toBeLessThan(volumes![0]!)
  })
  it('is put beside the other pieces, none of which moves', async () => {
    const part = partOf([
      block('post', [15.3, 15.3, 24.1], [3.3, 0, 0], 0),
      block('rim', [41.7, 41.7, 4.1], [3.3, 0, 10.7], 0),
    ])
    const other = { ...newPiece('p2', 'Other', 'sand'), steps: [block('b', [20, 20, 5], [60, 0, 0], 15.3)] }
    const { after, boxes, then } = await parted({ ...part, pieces: [...part.pieces, other] }, /^overhangs-/)
    expect(printPoseOf(after!)!.laid.map(({ piece }) => piece)).toEqual(['p1.2'])
    expect(open(then!).map(({ text }) => text)).toEqual([])
    const [lower, upper, beside] = boxes!
    expect(lower!.min[0]).toBeCloseTo(3.3 - 15.3 / 2, 6)
    expect(upper!.min[0]).toBeGreaterThan(beside!.max[0] + 3)
  })
  it.each(sampled(10))(
    'is split upright, and both halves lie on the cut, where its roof is closed in (%i)',
    async (i) => {
      const random = seeded(9011 * i)
      const size = (low: number, high: number) => low + (high - low) * random()
      // As large each way, so that no other way to lie helps.
      const wide = size(40, 50)
      const [x, y] = [size(-20, 20), size(-20, 20)]
      const part = partOf([
        block('box', [wide, wide, wide], [x, y, 0], 0),
        block('room', [wide - 18, wide - 18, wide - 18], [x, y, 9], 0, { operation: 'cut' }),
      ])
      const { own, cure, then, boxes } = await parted(part, /^bridges-long/)
      expect(cure?.label ?? own!.tried).toMatch(/^Split/)
      expect(then!.filter(({ rank, check }) => rank !== 'pass' && check === 'bridges')).toEqual([])
      for (const { min } of boxes!) expect(Math.abs(min[2])).toBeLessThan(1e-5)
    },
  )
  it('is not split where something less helps, nor what is in two already', async () => {
    const ledge = partOf([
      block('wall', [8.3, 12.7, 30.1], [0, 0, 0], 0),
      block('ledge', [13.7, 12.7, 4.3], [2.7, 0, 30.1], 0),
    ])
    const [cure] = (await offered(ledge)).flatMap(({ cures = [] }) => cures)
    expect(cure!.label).toMatch(/^Bevel/)
    const rimmed = [
      block('post', [15.3, 15.3, 24.1], [3.3, 0, 0], 0),
      block('rim', [41.7, 41.7, 4.1], [3.3, 0, 10.7], 0),
    ]
    const { after } = await parted(partOf(rimmed), /^overhangs-/)
    const again: Part = { ...after!, printPose: '', poses: [] }
    const twice = await offered(again)
    expect(twice.some(({ code }) => code.startsWith('overhangs-'))).toBe(true)
    const said = twice.flatMap(({ cures = [], tried = [] }) => [...cures.map(({ label }) => label), ...tried])
    expect(said.join()).not.toMatch(/Split/)
  })
})
