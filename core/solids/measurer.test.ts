import { describe, expect, it } from 'vitest'
import type { Part, ShapeStep, Step } from '../document/index.ts'
import { centreOf, inertiaAbout, limitOf } from '../mesh/index.ts'
import { shapes } from '../shapes/index.ts'
import { built, builtTwice, bundleOf, onFace, partOf, seeded, step, testKernel } from '../testing/index.ts'
import { sampled, seed } from '../testing/sample.ts'
import { anyValues, defaults, given, met } from '../testing/shapes.ts'
import { untoldShare } from '../units/index.ts'
import { figuresOf, Measurer, type PieceFigures } from './index.ts'

const kernel = await testKernel()

const measured = async (part: Part): Promise<PieceFigures> => figuresOf(await builtTwice(kernel, part)).p1!
const alone = (one: Step) => measured(partOf([one]))
const ball = (d: number) => (Math.PI * d ** 3) / 6
const disc = (d: number) => (Math.PI * d ** 2) / 4

describe('figures are those of the true solid', () => {
  it.each<[string, ShapeStep, number, number]>([
    ['a ball', step('s', 'ball', { diameter: '20' }), ball(20), Math.PI * 400],
    ['a small ball', step('s', 'ball', { diameter: '1.3' }), ball(1.3), Math.PI * 1.69],
    ['a bar', step('s', 'bar', { diameter: '5', height: '10' }), disc(5) * 10, 2 * disc(5) + Math.PI * 50],
    [
      'a pin',
      step('s', 'bar', { diameter: '0.7', height: '31.7' }),
      disc(0.7) * 31.7,
      2 * disc(0.7) + Math.PI * 0.7 * 31.7,
    ],
    [
      'a cone',
      step('s', 'bar', { diameter: '15.3', height: '12.7', form: 'tapered', end: '0' }),
      (disc(15.3) * 12.7) / 3,
      disc(15.3) + Math.PI * 7.65 * Math.hypot(7.65, 12.7),
    ],
    [
      'a tube',
      step('s', 'bar', { diameter: '9.1', height: '1/3 in', core: 'tube', bore: '7.7' }),
      (disc(9.1) - disc(7.7)) * (25.4 / 3),
      2 * (disc(9.1) - disc(7.7)) + Math.PI * (9.1 + 7.7) * (25.4 / 3),
    ],
    [
      'a ring of round section',
      step('s', 'ring', { diameter: '31.3', thick: '4.1' }),
      2 * Math.PI ** 2 * 13.6 * 2.05 ** 2,
      4 * Math.PI ** 2 * 13.6 * 2.05,
    ],
    [
      'a plate with rounded corners',
      step('s', 'plate', { width: '20.1', depth: '12.7', height: '3.3', corner: '2.7' }),
      (20.1 * 12.7 - (4 - Math.PI) * 2.7 ** 2) * 3.3,
      2 * (20.1 * 12.7 - (4 - Math.PI) * 2.7 ** 2) + (2 * (20.1 + 12.7) - (8 - 2 * Math.PI) * 2.7) * 3.3,
    ],
  ])('%s, turned and off the origin', async (_, one, volume, area) => {
    for (const place of [
      {},
      { turn: '37.3', tilt: '21', across: { from: 'centre', to: 'centre', by: '15.3' } as const },
    ]) {
      const { mass, way, error } = await alone({ ...one, place: { ...one.place, ...place } })
      expect(way).toBe('extrapolated')
      expect(Math.abs(mass.volume / volume - 1)).toBeLessThan(1e-5)
      expect(Math.abs(mass.area / area - 1)).toBeLessThan(1e-5)
      // What it is off by is told, and is little.
      expect(Math.abs(mass.volume - volume)).toBeLessThanOrEqual(error!.volume + 1e-9 * volume)
      expect(error!.volume / volume).toBeLessThan(1e-4)
    }
  })
  it.each<[string, ShapeStep, number]>([
    ['half a ball', step('s', 'ball', { diameter: '31.1', form: 'part', from: '15.55', to: '31.1' }), ball(31.1) / 2],
    [
      'a slice of a ball',
      step('s', 'ball', { diameter: '17.3', form: 'part', from: '1.7', to: '14.9' }),
      Math.PI * (8.65 * (14.9 ** 2 - 1.7 ** 2) - (14.9 ** 3 - 1.7 ** 3) / 3),
    ],
  ])('%s', async (_, one, volume) => {
    const { mass, error } = await alone(one)
    expect(Math.abs(mass.volume / volume - 1)).toBeLessThan(1e-5)
    expect(Math.abs(mass.volume - volume)).toBeLessThanOrEqual(error!.volume)
  })
  it('of random small holes in a plate, what they remove included', async () => {
    const random = seeded(3)
    const live = kernel.live
    const measurer = new Measurer(kernel)
    for (let i = 0; i < 12; i++) {
      const [d, t] = [0.6 + 6 * random(), 0.8 + 5 * random()]
      const part = partOf([
        step('a', 'plate', { width: '20.3', depth: '20.1', height: t.toFixed(3) }),
        step('h', 'hole', { diameter: d.toFixed(3) }, { place: { ...onFace('a', 'top'), turn: '12.3' } }),
      ])
      const twice = await measurer.twice(part)
      const hole = disc(Number(d.toFixed(3))) * Number(t.toFixed(3))
      const meant = 20.3 * 20.1 * Number(t.toFixed(3)) - hole
      expect(Math.abs(figuresOf(twice).p1!.mass.volume / meant - 1)).toBeLessThan(1e-4)
      expect(Math.abs((await measurer.effectOf(twice, 'h'))! / -hole - 1)).toBeLessThan(1e-3)
    }
    measurer.clear()
    expect(kernel.live).toBe(live)
  })
  it('exact where all is flat', async () => {
    const { mass, way } = await alone(step('s', 'wedge', { length: '20.1', height: '12.7', thick: '1/3 in' }))
    expect(way).toBe('exact')
    expect(mass.volume).toBeCloseTo((20.1 * 12.7 * 25.4) / 6, 6)
    expect(centreOf(mass)!.map((x) => Number(x.toFixed(5)))).toEqual([
      Number((-20.1 / 6).toFixed(5)),
      expect.closeTo(0, 5),
      Number((12.7 / 3).toFixed(5)),
    ])
  })
  it('the centre of mass of half a ball, and the inertia of a bar about its axis and across it', async () => {
    const half = await alone(step('s', 'ball', { diameter: '31.1', form: 'part', from: '15.55', to: '31.1' }))
    expect(centreOf(half.mass)![2]).toBeCloseTo((3 * 15.55) / 8, 2)
    const place = { across: { from: 'centre', to: 'centre', by: '-85.1' } as const }
    const { mass } = await alone(step('s', 'bar', { diameter: '7.3', height: '21.7' }, { place }))
    const centre = centreOf(mass)!
    expect(centre[0]).toBeCloseTo(-85.1, 4)
    const m = disc(7.3) * 21.7
    expect(Math.abs(inertiaAbout(mass, centre, [0, 0, 1]) / ((m * 3.65 ** 2) / 2) - 1)).toBeLessThan(1e-3)
    expect(Math.abs(inertiaAbout(mass, centre, [1, 0, 0]) / (m * (3.65 ** 2 / 4 + 21.7 ** 2 / 12)) - 1)).toBeLessThan(
      1e-3,
    )
    // About the bed's own upright axis it is 85.1 mm away from (Steiner).
    expect(Math.abs(inertiaAbout(mass, [0, 0, 0], [0, 0, 1]) / (m * (3.65 ** 2 / 2 + 85.1 ** 2)) - 1)).toBeLessThan(
      1e-3,
    )
  })
  it('read-outs by name: volume and centre of mass, the same at any fineness', async () => {
    const pin = step('s', 'bar', { diameter: '5', height: '10' })
    const cap = step('t', 'plate', { width: '7', depth: '3', height: '2' }, { place: onFace('s', 'end') })
    const other = step('o', 'plate', { width: 'level', depth: 'amount / (10 mm * 10 mm)', height: '3' })
    const read = (id: string, name: string, kind: string, face: string) => ({
      ...{ id, name, kind, note: '' },
      of: [{ step: 's', face }],
    })
    const part = partOf([pin, cap], {
      readouts: [
        read('v', 'amount', 'volume', ''),
        read('c', 'level', 'centre-of-mass', 'foot'),
        read('x', 'aside', 'centre-of-mass', ''),
      ],
    })
    const both = { ...part, pieces: [...part.pieces, { ...part.pieces[0]!, id: 'p2', steps: [other] }] }
    const volume = disc(5) * 10 + 42
    const level = (disc(5) * 50 + 42 * 11) / volume
    for (const fineness of [0.03, 0.01]) {
      const made = await built(kernel, both, fineness)
      expect(made.problems.map(({ text }) => text)).toEqual([])
      const value = (id: string) => made.readouts.find(({ readout }) => readout.id === id)!.value!
      expect(value('v') / volume).toBeCloseTo(1, 4)
      expect(value('c')).toBeCloseTo(level, 3)
      expect(value('x')).toBeCloseTo(0, 4)
      expect(made.pieces[1]!.solid!.volume()).toBeCloseTo((level * volume * 3) / 100, 1)
    }
  })
})

it('a ball that is scaled', async () => {
  const fields = { scale: 'each', across: '2.3', along: '0.9', up: '1.37' }
  const one = bundleOf('s', [step('b', 'ball', { diameter: '9.3' })], { fields })
  const { mass, error } = await measured(partOf([one]))
  const volume = ball(9.3) * 2.3 * 0.9 * 1.37
  expect(Math.abs(mass.volume / volume - 1)).toBeLessThan(1e-5)
  expect(Math.abs(mass.volume - volume)).toBeLessThanOrEqual(error!.volume)
})

describe('how far figures may be off holds what finer solids show', () => {
  const known = shapes.filter(({ datum, kind }) => !datum && kind !== 'chain-mail')
  it.each(sampled(known.length, known.length).map((i) => [known[i % known.length]!.kind, i] as const))(
    'of a %s (%i)',
    (kind, i) => {
      const shape = shapes.find((each) => each.kind === kind)!
      const random = seeded(1000 * seed + i)
      const values = (anyValues(kind, random, given[kind]) ?? defaults(kind)) as never
      const mass = (fineness: number) =>
        kernel.scope((scope) => {
          const context = { scope, fineness, cuts: false, through: 20, overlap: 0.005, up: [0, 0, 1] as const }
          return shape.solid(values, { ...context, ...met(shape, scope) }).mass()
        })
      const [m0, m1, m2, m3] = [0.12, 0.03, 0.0075, 0.001875].map(mass)
      const best = limitOf(m3!, m2!, m1).mass
      const uneven = shape.isUneven?.(values) ?? false
      for (const { mass: told, error } of [limitOf(m2!, m1!, m0, { uneven }), limitOf(m1!, m0!)])
        for (const of of ['volume', 'area'] as const)
          expect(Math.abs(told[of] - best[of]), of).toBeLessThanOrEqual(Math.max(error[of], untoldShare * best[of]))
    },
  )
})

it('what is another solid at another fineness is told by its flats alone', async () => {
  const twice = await builtTwice(kernel, partOf([step('s', 'bar', { diameter: '15.3', height: '12.7' })]))
  const volume = twice.fine.pieces[0]!.solid!.volume()
  const { finer: _, ...two } = twice
  expect(figuresOf(two).p1!.way).toBe('extrapolated')
  const failed = { code: 'step-failed', rank: 'fault' as const, text: '', path: ['steps', 's'] }
  const coarse = { ...two.coarse, buildProblems: [failed] } as unknown as typeof two.coarse
  expect(figuresOf({ ...two, coarse }).p1).toMatchObject({ way: 'flats', mass: { volume } })
  // In two where it was one.
  const parted = await built(
    kernel,
    partOf([step('s', 'bar', { diameter: '15.3', height: '12.7' }), step('t', 'ball', {}, { place: { lift: '40' } })]),
  )
  expect(figuresOf({ ...two, coarse: parted }).p1).toMatchObject({ way: 'flats', mass: { volume } })
  // The finer one of three may be the one that differs.
  expect(figuresOf({ ...two, finer: parted }).p1!.way).toBe('extrapolated')
})

it('lettering that is bent about a round is told with the whole step towards it, flat lettering with what is left', async () => {
  for (const [wrap, uneven] of [
    ['outside', true],
    ['flat', false],
  ] as const) {
    const lettering = step('t', 'text', { words: 'B-373', wrap, round: '37.3', depth: '1.3' })
    const twice = await builtTwice(kernel, partOf([lettering]))
    const [fine, coarse, finer] = [twice.fine, twice.coarse, twice.finer!].map((each) => each.pieces[0]!.solid!.mass())
    const { error, mass } = figuresOf(twice).p1!
    expect({ mass, error }, wrap).toEqual(limitOf(finer!, fine!, coarse!, { uneven }))
  }
})
