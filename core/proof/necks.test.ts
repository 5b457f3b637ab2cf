import { describe, expect, it } from 'vitest'
import type { Part, Step } from '../document/index.ts'
import { built, onFace, partOf, pointsOf, seeded, step, testKernel } from '../testing/index.ts'
import { sampled } from '../testing/sample.ts'
import { type Finding, proofOf } from './index.ts'

const kernel = await testKernel()
const { lineWidth } = partOf([]).printer
const { stiffness, strainOnce, acrossLayers } = partOf([]).material
/** MPa */
const [along, across] = [(stiffness * strainOnce) / 100, (stiffness * strainOnce * acrossLayers!) / 10_000]

async function necks(steps: readonly Step[], change: Partial<Part> = {}): Promise<readonly Finding[]> {
  const found = await proofOf(kernel, await built(kernel, partOf(steps, change), 0.02), { only: ['necks'] })
  expect(found.length).toBeGreaterThan(0)
  return found
}
const block = (id: string, [w, d, h]: readonly number[], place: object = {}) =>
  step(id, 'plate', { width: `${w}`, depth: `${d}`, height: `${h}` }, { place } as never)
/** Two blocks one on the other, with a post between them. */
const stacked = (wide: number, long: number, [w, d, h]: readonly number[]) => [
  block('low', [21.3, 19.7, 8.1]),
  block('neck', [wide, wide, long], onFace('low', 'top')),
  block('high', [w!, d!, h!], onFace('neck', 'top')),
]
/** Two blocks beside each other on the bed, with a bar between them, on the bed as well. */
const beside = (wide: number, high: number, long: number, turn = 0) => {
  const out = (far: number) => {
    const [x, y] = [Math.cos, Math.sin].map((of) => of((turn * Math.PI) / 180) * far)
    const off = (by: number) => ({ from: 'centre', to: 'centre', by: `${by}` })
    return { turn: `${turn}`, across: off(x!), along: off(y!) }
  }
  return [
    block('left', [18.3, 17.1, 9.3], out(0)),
    block('neck', [long + 2, wide, high], out((18.3 + long) / 2)),
    block('right', [18.3, 17.1, 9.3], out(18.3 + long)),
  ]
}
const only = (found: readonly Finding[]) => {
  expect(found.map(({ code }) => code)).toHaveLength(1)
  return found[0]!
}

describe('a neck between layers', () => {
  it.each(sampled(30))('breaks at what its section bears across them (%i)', async (i) => {
    const random = seeded(97 * i)
    const [wide, long] = [1.8 + 2.4 * random(), 2 + 5 * random()]
    const size = [11 + 9 * random(), 10 + 7 * random(), 7 + 9 * random()]
    const modulus = wide ** 3 / (6 * Math.SQRT2)
    const corner = (z: number) => Math.hypot(size[0]! / 2, size[1]! / 2, z)
    // The neck is as narrow all along: the arm may begin anywhere in it.
    const [most, least] = [(across * modulus) / corner(size[2]!), (across * modulus) / corner(size[2]! + long + 1)]
    const found = await necks(stacked(wide, long, size))
    if (least > 10.5) return expect(found.map(({ rank }) => rank)).toEqual(['pass'])
    if (most > 9.5) return
    const { rank, values, about, marks } = only(found)
    expect(rank).toBe(most < 2 ? 'warning' : 'advice')
    // Only whole lines of it count.
    const lines = Math.floor(wide / lineWidth + 0.02) * lineWidth
    expect(values.force).toBeLessThan(1.08 * most)
    expect(values.force).toBeGreaterThan(0.85 * least * (lines / wide) ** 2)
    expect(about.map(({ id }) => id)).toEqual(expect.arrayContaining(['neck']))
    const points = pointsOf(marks![0]!)
    for (let k = 0; k < points.length; k += 3) {
      expect(points[k + 2]!).toBeGreaterThan(8.1 - 1e-3)
      expect(points[k + 2]!).toBeLessThan(8.1 + long + 1e-3)
    }
  })
  it('bears more where the material holds more between its layers', async () => {
    const force = async (share: number) => {
      const { material } = partOf([])
      const found = await necks(stacked(2.2, 3.3, [15.3, 12.1, 11.7]), {
        material: { ...material, acrossLayers: share },
      })
      return only(found).values.force as number
    }
    expect((await force(60)) / (await force(20))).toBeCloseTo(3, 0)
  })
})

describe('a neck along layers', () => {
  it.each([0, 37.3, 111.9])('breaks at what it bears along them, turned by %f', async (turn) => {
    const [wide, high, long] = [3.3, 1.2, 4.7]
    const { values } = only(await necks(beside(wide, high, long, turn)))
    expect(values.strength).toBe(Math.round(along))
    const size = (values.area as { readonly of: readonly number[] }).of[0]!
    expect(Math.abs(size / (wide * high) - 1)).toBeLessThan(0.01)
    expect(values.layers).toEqual({ sentences: [] })
  })
  it('of less than two lines each way is a fault, however long: what is laid counts, in whole lines and layers', async () => {
    // 1.9 lines wide and 0.9 high: one line of it is laid.
    const { rank, values, text } = only(await necks(beside(1.9 * lineWidth, 0.9, 1.3)))
    expect(rank).toBe('fault')
    expect((values.laid as { readonly of: readonly number[] }).of[0]!).toBeCloseTo(lineWidth * 0.9, 1)
    expect(text).toContain('less than two lines')
  })
})

it('is offered to be made as wide as a hand needs, and is then', async () => {
  const { Builder } = await import('../solids/index.ts')
  const trials = new Builder(kernel)
  const part = partOf(beside(2.3, 1.4, 5.3, 15.3))
  const found = await proofOf(kernel, await built(kernel, part, 0.02), {
    only: ['sheet', 'bodies', 'necks'],
    build: (changed) => trials.build(changed, { fineness: 0.02 }),
  })
  const cures = found.flatMap(({ cures: own = [] }) => own)
  expect(cures.map(({ label }) => label)).toEqual([expect.stringMatching(/^Set the height of plate to /)])
})

describe('nothing is told', () => {
  it('of a sound block, which passes with how closely it was looked at', async () => {
    const { rank, text } = only(await necks([block('a', [31.7, 20.3, 12.9])]))
    expect(rank).toBe('pass')
    expect(text).toContain('looked at in steps of')
  })
  it('of what bends on purpose, and has a flex test', async () => {
    const steps = beside(2.3, 1.2, 9.7)
    const flex = {
      id: 'f',
      name: 'Test',
      of: 'neck',
      held: [],
      pushed: [],
      way: '0',
      by: 'distance',
      distance: '1',
      force: '1',
      finer: 0,
    }
    expect(only(await necks(steps)).rank).not.toBe('pass')
    expect(only(await necks(steps, { flexes: [flex as never] })).rank).toBe('pass')
  })
})

it.each([0.05, 0.02, 0.01])(
  'what narrows where two steps meet is told of both of them (flats of %d mm)',
  async (fineness) => {
    const part = partOf([
      step('a', 'plate', { width: '31.3', depth: '27.7', height: '5.1' }, { place: { turn: '37.3' } } as never),
      step('k', 'ball', { diameter: '11.3' }, { place: { ...onFace('a', 'top'), lift: '-0.07' } } as never),
    ])
    const found = await proofOf(kernel, await built(kernel, part, fineness), { only: ['necks'] })
    const own = found.find(({ code }) => code === 'necks-weak' || code === 'necks-thread')
    expect(own?.about.flatMap(({ kind, id }) => (kind === 'step' ? [id] : [])).sort()).toEqual(['a', 'k'])
  },
)
