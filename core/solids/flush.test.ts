import { describe, expect, it } from 'vitest'
import { type BodyStep, kindWord, type Outline, type Part, type Place } from '../document/index.ts'
import { meshFigures } from '../mesh/index.ts'
import { bodied, built, bundleOf, onFace, partOf, repeat, seeded, step, testKernel } from '../testing/index.ts'
import { emptyOutline } from '../testing/outlines.ts'
import { sampled } from '../testing/sample.ts'
import { Builder } from './index.ts'

const kernel = await testKernel()

type Random = () => number
const pick = <T>(random: Random, from: readonly T[]): T => from[Math.floor(random() * from.length)]!

/** A size as it is typed, and its mm: tenths, hundredths, thousandths, eighths and sixty-fourths of an inch, thirds. */
function size(random: Random, low: number, high: number): { text: string; mm: number } {
  const digits = pick(random, [0, 1, 2, 3])
  if (random() < 0.6) {
    const text = (low + random() * (high - low)).toFixed(digits)
    return { text, mm: Number(text) }
  }
  const parts = pick(random, [3, 8, 64])
  const count = Math.ceil(((low + random() * (high - low)) / 25.4) * parts)
  return { text: `${count}/${parts} in`, mm: (count / parts) * 25.4 }
}

/** What something stands against: a step with the names of its flat faces. */
interface Base {
  readonly step: BodyStep
  readonly faces: readonly string[]
  readonly outline?: Outline
}
const bases: readonly ((random: Random, turned: Partial<Place>) => Base)[] = [
  (random, place) => ({
    step: step('a', 'plate', fields(random, { width: 'width', depth: 'depth', height: 'height' }), { place }),
    faces: ['left', 'right', 'front', 'back', 'top', 'bottom'],
  }),
  (random, place) => {
    const sides = pick(random, [3, 5, 6, 7, 8])
    return {
      step: step(
        'a',
        'prism',
        { sides: String(sides), ...fields(random, { size: 'size', height: 'height' }) },
        { place },
      ),
      faces: ['top', 'bottom', ...Array.from({ length: sides }, (_, i) => `flat ${i + 1}`)],
    }
  },
  (random, place) => ({
    step: step('a', 'wedge', fields(random, { length: 'length', height: 'height', thick: 'thick' }), { place }),
    faces: ['bottom', 'left', 'front', 'back', 'slope'],
  }),
  (random, place) => ({
    step: step('a', 'bar', fields(random, { diameter: 'diameter', height: 'height' }), { place }),
    faces: ['end', 'foot'],
  }),
  (random, place) => ({
    step: step(
      'a',
      'ring',
      { section: 'square', ...fields(random, { diameter: 'diameter', height: 'height' }), thick: '5.3' },
      { place },
    ),
    faces: ['top', 'bottom'],
  }),
  (random, place) => ({
    step: step('a', 'extrude', { outline: 'o', ...fields(random, { height: 'height' }) }, { place }),
    outline: pentagon(random),
    faces: ['top', 'bottom', ...[0, 1, 2, 3, 4].map((i) => `side l${i}`)],
  }),
  (random, place) => {
    const inner = step('a', 'plate', fields(random, { width: 'width', depth: 'depth', height: 'height' }), { place })
    return {
      step: bundleOf('g', [inner], { place: { turn: '11.9' } }),
      faces: ['left', 'right', 'front', 'back', 'top', 'bottom'],
    }
  },
]
const fields = (random: Random, names: Record<string, string>) =>
  Object.fromEntries(Object.keys(names).map((name) => [name, size(random, 12, 60).text]))

/** A drawing of five corners, none of them square. */
function pentagon(random: Random): Outline {
  const far = 8 + 20 * random()
  const corner = (i: number) => {
    const rad = (2 * Math.PI * (i + 0.3 * random())) / 5
    return { id: `p${i}`, at: [far * Math.cos(rad), far * Math.sin(rad)] as const }
  }
  const points = [0, 1, 2, 3, 4].map(corner)
  const curves = points.map(({ id }, i) => ({
    id: `l${i}`,
    kind: 'line',
    points: [id, points[(i + 1) % 5]!.id],
    size: 0,
    helping: false,
  }))
  return { ...emptyOutline('o'), points, curves } as unknown as Outline
}

/** Something small to stand on a face. */
const tops: readonly ((random: Random, place: Partial<Place>) => BodyStep)[] = [
  (random, place) => step('b', 'plate', small(random, ['width', 'depth', 'height']), { place }),
  (random, place) => step('b', 'bar', small(random, ['diameter', 'height']), { place }),
  (random, place) => step('b', 'prism', { sides: '6', ...small(random, ['size', 'height']) }, { place }),
  (random, place) => step('b', 'wedge', small(random, ['length', 'height', 'thick']), { place }),
]
const small = (random: Random, names: readonly string[]) =>
  Object.fromEntries(names.map((name) => [name, size(random, 1.5, 3.4).text]))

const turns = ['0', '90', '37.3', '180', '-121.7']

async function figures(part: Part, builder: Builder) {
  const made = await built(kernel, part, 0.05, builder)
  expect(made.problems.filter(({ rank }) => rank === 'fault')).toEqual([])
  return meshFigures(made.pieces[0]!.solid!.mesh())
}
/** The volume of a step alone, wherever it stands. */
async function alone({ step: one, outline }: Pick<Base, 'step' | 'outline'>, builder: Builder) {
  const there = { ...one, place: step('x', 'plate').place }
  return (await figures(partOf([there], { outlines: outline ? [outline] : [] }), builder)).volume
}

async function each(series: number, count: number, work: (random: Random, builder: Builder) => Promise<void>) {
  let builder = new Builder(kernel)
  for (const [i, number] of sampled(count, 1, 20).entries()) {
    // What is kept of earlier parts helps nobody here.
    if (i % 50 === 49) {
      builder.clear()
      builder = new Builder(kernel)
    }
    await work(seeded(10_000 * series + number), builder)
  }
  builder.clear()
}

describe('what stands flush is one body, whatever its sizes', () => {
  it('on any face of any solid, turned or not', () =>
    each(1, 5000, async (random, builder) => {
      const turn = pick(random, turns)
      const base = pick(random, bases)(random, { turn, lift: '30' })
      const face = pick(random, base.faces)
      const place = { ...onFace('a', face), turn: pick(random, ['0', '90', '37.3']) }
      const top = pick(random, tops)(random, place)
      // The middle of a ring's top is its eye.
      const ringed = kindWord(base.step) === 'ring'
      const moved = ringed ? { across: { from: 'low', to: 'near', by: '0.3' } as const } : {}
      const outlines = base.outline ? [base.outline] : []
      const flush = partOf([base.step, { ...top, place: { ...top.place, ...moved } }], { outlines })
      const apart = partOf([base.step, { ...top, place: { ...top.place, ...moved, lift: '0.02' } }], { outlines })
      const [one, two] = [await figures(flush, builder), await figures(apart, builder)]
      const told = JSON.stringify(
        flush.pieces[0]!.steps.map((each) => [kindWord(each), each.fields, bodied(each).place]),
      )
      expect([one.solids, one.oriented, one.cavities], told).toEqual([1, true, []])
      expect(two.solids, told).toBe(2)
      const sum = (await alone(base, builder)) + (await alone({ step: top }, builder))
      // What hangs over a ring's rounds is not cut off.
      expect(Math.abs(one.volume / sum - 1), told).toBeLessThan(1e-6)
    }))
  it('beside another step, mirrored, and in rows without a gap', () =>
    each(5, 500, async (random, builder) => {
      const turn = pick(random, turns)
      const [w, d, h] = [size(random, 5, 60), size(random, 5, 60), size(random, 5, 60)]
      const block = (id: string, place: Partial<Place> = {}) =>
        step(id, 'plate', { width: w.text, depth: d.text, height: h.text }, { place: { turn, ...place } })
      const beside = { across: { from: 'high', to: 'near', by: '0', of: 'a' } as const }
      const turned = turn === '0' || turn === '180' ? { turn: '0' } : { turn: '90' }
      const against = partOf([block('a', turned), block('b', { ...turned, ...beside })])
      expect(await figures(against, builder)).toMatchObject({ solids: 1, oriented: true })
      const row = partOf([
        {
          ...block('a', { turn: '0' }),
          repeats: [repeat('row', { count: '4', spacing: w.text, direction: 'across' })],
        },
      ])
      const one = await figures(row, builder)
      expect([one.solids, one.oriented], w.text).toEqual([1, true])
      expect(one.volume / (4 * w.mm * d.mm * h.mm)).toBeCloseTo(1, 6)
    }))
  it('half a part mirrored, on a base that is turned or not', () =>
    each(6, 500, async (random, builder) => {
      const [w, d, h] = [size(random, 20, 90), size(random, 5, 60), size(random, 5, 60)]
      const turn = pick(random, turns)
      const base = step('base', 'plate', { width: '100.7', depth: '100.7', height: '3.3' }, { place: { turn } })
      const seat = onFace('base', 'top')
      const whole = step('a', 'plate', { width: w.text, depth: d.text, height: h.text }, { place: seat })
      const right = { ...seat, rest: 'on', across: { from: 'centre', to: 'near', by: '0' } } as const
      const cutter = step('k', 'plate', { width: '90', depth: '90', height: '90' }, { operation: 'cut', place: right })
      const own = { from: 'centre', to: 'own', by: '0' } as const
      const bundle = bundleOf('g', [whole, cutter], {
        place: { ...whole.place, across: own, along: own },
        repeats: [repeat('mirror')],
      })
      const made = await figures(partOf([base, bundle]), builder)
      expect([made.solids, made.oriented, made.cavities], `${w.text} ${d.text} ${h.text} ${turn}`).toEqual([
        1,
        true,
        [],
      ])
      expect(made.volume / (100.7 * 100.7 * 3.3 + w.mm * d.mm * h.mm)).toBeCloseTo(1, 6)
      // Without the base the halves hold each other.
      const alone = await figures(
        partOf([
          { ...base, mute: false },
          { ...bundle, place: { ...bundle.place, lift: '0.5' } },
        ]),
        builder,
      )
      expect(alone.solids, `${w.text} ${turn}`).toBe(2)
    }))
  it('cut side by side leaves no fin between, the same turned as square', () =>
    each(7, 300, async (random, builder) => {
      const [w, d] = [size(random, 3, 15), size(random, 3, 15)]
      const turn = pick(random, ['90', '37.3', '-121.7'])
      const pocketed = (turned: string) => {
        const base = step(
          'base',
          'plate',
          { width: '100.7', depth: '100.7', height: '6.1' },
          { place: { turn: turned } },
        )
        const repeats = [repeat('row', { count: '3', spacing: w.text, direction: 'across' })]
        const fields = { width: w.text, depth: d.text, height: '3.3' }
        return partOf([base, step('p', 'plate', fields, { operation: 'cut', place: onFace('base', 'top'), repeats })])
      }
      const made = await figures(pocketed(turn), builder)
      expect(made.volume / (100.7 * 100.7 * 6.1 - 3 * w.mm * d.mm * 3.3)).toBeCloseTo(1, 6)
      expect(made.solids).toBe(1)
      expect(made.triangles, `${w.text} ${turn}`).toBe((await figures(pocketed('0'), builder)).triangles)
    }))
})
