import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  applyEdit,
  contentOf,
  copiedStep,
  type Edit,
  findStep,
  onBed,
  type Part,
  type Place,
  readPartFile,
  type ShapeStep,
  type Step,
  writePartFile,
} from '../document/index.ts'
import { add, compose, dot, type Frame, norm, scaled, subtract, turnedAbout, unit, type Vec3 } from '../place/index.ts'
import { shapeOf } from '../shapes/index.ts'
import type { Built } from '../solids/index.ts'
import { built, bundleOf, onFace, partOf, repeat, sameAs, seeded, step, testKernel } from '../testing/index.ts'
import { runs } from '../testing/sample.ts'
import { flushEnds } from './cuts.ts'
import { fieldKindOf, heldPlaces, workOut } from './index.ts'
import { depthUpTo } from './relations.ts'

const kernel = await testKernel()

const build = (part: Part) => built(kernel, part, 0.01)
const volume = ({ pieces }: Built) => pieces.reduce((sum, piece) => sum + (piece.solid?.volume() ?? 0), 0)
const codes = ({ problems }: { problems: readonly { code: string }[] }) => problems.map(({ code }) => code)
const frameOf = (part: Part, id: string) => workOut(part).plan.geometry.get(id)!.frame
const near = (actual: Vec3, expected: readonly number[]) =>
  expected.forEach((x, i) => void expect(actual[i]).toBeCloseTo(x, 9))
const edited = (part: Part, ...edits: Edit[]) =>
  edits.reduce((state, edit) => applyEdit(state, edit, fieldKindOf), part)
const block = (id: string, w: string, d: string, h: string, place: Partial<Place> = {}) =>
  step(id, 'plate', { width: w, depth: d, height: h }, { place })
const low = (by: string) => ({ from: 'low', to: 'centre', by }) as const

const base = block('base', '80', '60', '5')
const peg = step(
  'peg',
  'bar',
  { diameter: '10', height: '20' },
  {
    place: { ...onFace('base', 'top'), across: low('20'), along: low('15') },
  },
)
/** A block of 12 × 8 × 4 beside the peg, told by it. */
const beside = (place: Partial<Place>) =>
  partOf([base, peg, block('b', '12', '8', '4', { ...onFace('base', 'top'), ...place })])

describe('distances told by another step', () => {
  it.each([
    ['same centre', { of: 'peg', from: 'centre', to: 'centre', by: '0' }, -20],
    ['10 to the right of its middle', { of: 'peg', from: 'centre', to: 'centre', by: '10' }, -10],
    ['flush with its left', { of: 'peg', from: 'low', to: 'near', by: '0' }, -25 + 6],
    ['flush with its right', { of: 'peg', from: 'high', to: 'near', by: '0' }, -15 - 6],
    ['3 to the right of it', { of: 'peg', from: 'high', to: 'far', by: '-3' }, -15 + 3 + 6],
  ] as const)('across: %s', (_, across, x) => {
    near(frameOf(beside({ across }), 'b').origin, [x, 0, 5])
  })
  it('follow it wherever it goes and however large it is', () => {
    const random = seeded(4)
    for (let i = 0; i < 20; i++) {
      const [x, size] = [10 + random() * 50, 2 + random() * 8]
      const part = edited(
        beside({
          across: { of: 'peg', from: 'high', to: 'far', by: '0' },
          along: { of: 'peg', from: 'centre', to: 'centre', by: '0' },
        }),
        { type: 'set-offset', id: 'peg', axis: 'across', change: { by: String(x) } },
        { type: 'set-field', id: 'peg', field: 'diameter', text: String(size) },
      )
      near(frameOf(part, 'b').origin, [-40 + x + size / 2 + 6, -15, 5])
    }
  })
  it('are those of two axes, however lopsided both are, and from either side', () => {
    // With 23 teeth nothing is as far to the left as to the right.
    const gear = (id: string, teeth: string, place: Partial<Place>) =>
      step(id, 'gear', { teeth, module: '1.25', height: '8' }, { place })
    const axes = (by: string) => ({ of: 'a', from: 'axis', to: 'own', by }) as const
    for (const [across, along] of [
      [27.1, 0],
      [-27.1, 1 / 3],
      [15.3, -22.37],
    ] as const) {
      const part = partOf([
        gear('a', '23', { across: low('-11.3'), along: { from: 'centre', to: 'own', by: '7.1' } }),
        gear('b', '17', { turn: '37.3', across: axes(`${across}`), along: axes(`${along}`) }),
      ])
      const away = subtract(frameOf(part, 'b').origin, frameOf(part, 'a').origin)
      away.forEach((x, i) => void expect(x).toBeCloseTo([across, along, 0][i]!, 9))
      // Where the first goes, the second keeps its place.
      const removed = edited(part, { type: 'remove-steps', ids: ['a'], held: heldPlaces(part, new Set(['a'])) })
      frameOf(removed, 'b').origin.forEach((x, i) => void expect(x).toBeCloseTo(frameOf(part, 'b').origin[i]!, 4))
    }
  })
  it('measure along the seat, also on another face', () => {
    const on = block('b', '4', '4', '2', {
      ...onFace('base', 'right'),
      across: { of: 'peg', from: 'centre', to: 'centre', by: '0' },
    })
    near(frameOf(partOf([base, peg, on]), 'b').origin, [40, -15, 2.5])
  })
  it('go round the axis on a round seat', () => {
    const bar = step('bar', 'bar', { diameter: '40', height: '30' })
    const key = block('key', '4', '4', '10', { across: low('0'), along: low('0') })
    const placed = {
      ...key,
      place: {
        ...onBed,
        across: { from: 'centre', to: 'centre', by: '30' },
        along: { from: 'centre', to: 'centre', by: '0' },
      },
    } as const
    const on = step(
      'on',
      'plate',
      { width: '3', depth: '3', height: '2' },
      {
        place: { ...onFace('bar', 'side'), across: { of: 'key', from: 'centre', to: 'centre', by: '0' } },
      },
    )
    near(frameOf(partOf([bar, placed, on]), 'on').origin, [20, 0, 15])
  })
  it('go round the axis in a bore, which is seen from within', () => {
    const tube = step('bar', 'bar', { diameter: '40', height: '30', core: 'tube', bore: '30.6' })
    const at = (across: string, along: string) =>
      frameOf(
        partOf([
          tube,
          {
            ...block('key', '1', '1', '10', {}),
            place: {
              ...onBed,
              across: { from: 'centre', to: 'centre', by: across },
              along: { from: 'centre', to: 'centre', by: along },
            },
          },
          step(
            'on',
            'plate',
            { width: '3', depth: '3', height: '2' },
            { place: { ...onFace('bar', 'bore'), across: { of: 'key', from: 'centre', to: 'centre', by: '0' } } },
          ),
        ]),
        'on',
      ).origin
    near(at('5', '0'), [15.3, 0, 15])
    near(at('-5', '0'), [-15.3, 0, 15])
    near(at('3', '3'), [15.3 * Math.SQRT1_2, 15.3 * Math.SQRT1_2, 15])
  })
  it('set its height', () => {
    const at = (level: Place['level'], lift = '0') => frameOf(beside({ level, lift }), 'b').origin[2]
    expect(at({ of: 'peg', from: 'high', to: 'high' })).toBeCloseTo(25 - 4, 9)
    expect(at({ of: 'peg', from: 'high', to: 'low' })).toBeCloseTo(25, 9)
    expect(at({ of: 'peg', from: 'centre', to: 'centre' }, '1')).toBeCloseTo(15 - 2 + 1, 9)
    expect(at({ of: 'base', from: 'low', to: 'low' })).toBeCloseTo(0, 9)
  })
  it('are told on their lines where the step is gone, comes later, or is itself', () => {
    const across = (of: string) => ({ across: { of, from: 'centre', to: 'centre', by: '0' } }) as const
    expect(codes(workOut(beside(across('nowhere'))))).toContain('reference-missing')
    expect(codes(workOut(beside(across('b'))))).toContain('reference-later')
    const [problem] = workOut(beside({ level: { of: 'nowhere', from: 'low', to: 'low' } })).problems
    expect(problem!.path).toEqual(['steps', 'b', 'place', 'level'])
  })
  it('travel through a file, and follow copies of both', () => {
    const part = beside({
      across: { of: 'peg', from: 'centre', to: 'centre', by: '0' },
      level: { of: 'peg', from: 'high', to: 'low' },
    })
    expect(readPartFile(writePartFile(part))).toEqual(part)
    const copy = copiedStep(bundleOf('both', [peg, findStep(part, 'b')!.step]), 'copy', fieldKindOf)
    const [first, second] = contentOf(copy)
    expect((second as ShapeStep).place).toMatchObject({ across: { of: first!.id }, level: { of: first!.id } })
  })
})

describe('turned about a line', () => {
  const turned = (pivot: Place['pivot'], place: Partial<Place> = {}) =>
    beside({ across: low('50'), along: low('15'), pivot, ...place })
  it('the axis of another step: a link about its pin', () => {
    const f = frameOf(turned({ of: 'peg', line: 'normal', by: '90' }), 'b')
    near(f.origin, [-20, -15 + 30, 5])
    near(f.u, [0, 1, 0])
  })
  it('an edge of the face it stands on', () => {
    const f = frameOf(turned({ of: '', line: 'low-along', by: '90' }), 'b')
    // About the front edge, which runs to the right at (·, -30, 5).
    near(f.origin, [10, -30, 5 + 15])
    near(f.n, [0, -1, 0])
  })
  it('a datum, wherever it was set', () => {
    const datum = step('d', 'datum', {}, { place: { ...onFace('base', 'top'), lift: '7' } })
    const part = partOf([
      base,
      datum,
      block('b', '12', '8', '4', {
        ...onFace('base', 'top'),
        across: low('50'),
        pivot: { of: 'd', line: 'along', by: '180' },
      }),
    ])
    near(frameOf(part, 'b').origin, [-10, 0, 5 + 14])
  })
  it('as far as an expression says, in each copy', () => {
    const b = {
      ...block('b', '12', '8', '4', {
        ...onFace('base', 'top'),
        across: low('50'),
        along: low('15'),
        pivot: { of: 'peg', line: 'normal', by: '30 * (copy - 1)' },
      }),
    }
    const part = partOf([base, peg, { ...b, repeats: [repeat('row', { count: '4', spacing: '0' })] }])
    const { frames } = workOut(part).plan.geometry.get('b')!
    expect(frames).toHaveLength(4)
    near(frames[3]!.origin, [-20, 15, 5])
  })
})

describe('a datum', () => {
  const datum = step(
    'd',
    'datum',
    {},
    { place: { ...onFace('base', 'top'), across: low('10'), along: low('10'), lift: '12' } },
  )
  it('adds and takes nothing, and is stood on', async () => {
    const part = partOf([base, datum, block('b', '6', '6', '3', onFace('d', 'plane'))])
    const done = await build(part)
    expect(codes(done)).toEqual([])
    expect(volume(done)).toBeCloseTo(80 * 60 * 5 + 6 * 6 * 3, 6)
    near(frameOf(part, 'b').origin, [-30, -20, 17])
  })
  it('has planes to the right and to the back', () => {
    near(frameOf(partOf([base, datum, block('b', '6', '6', '3', onFace('d', 'plane to the right'))]), 'b').n, [1, 0, 0])
    near(frameOf(partOf([base, datum, block('b', '6', '6', '3', onFace('d', 'plane to the back'))]), 'b').n, [0, 1, 0])
  })
})

describe('how deep it is up to a face', () => {
  const sides = { across: ['low', 'high'], along: ['low', 'high'] } as const
  const seat = (frame: Frame, round?: number) => ({ frame, size: [9, 9] as const, sides, round })
  const number = fc.integer({ min: -1000, max: 1000 }).map((x) => x / 100)
  const axis = fc.tuple(number, number, number).filter((v) => norm(v) > 1)
  it('is along the way to its plane, or to the near side of its round, wherever both stand', () => {
    fc.assert(
      fc.property(axis, axis, axis, fc.integer({ min: 1, max: 179 }), (place, from, way, angle) => {
        const start = turnedAbout(from, unit(way), angle)
        const target = turnedAbout(place, unit(from), angle + 31.7)
        const down = scaled(start.n, -1)
        const flat = depthUpTo(start, seat(target), 0.3)
        if (flat !== undefined) {
          const end = add(start.origin, scaled(down, flat + 0.3))
          expect(dot(subtract(end, target.origin), target.n)).toBeCloseTo(0, 6)
        }
        for (const radius of [7.3, -7.3]) {
          const deep = depthUpTo(start, seat(target, radius), 0.3)
          // Of all places on the way, the least deep one ahead that lies as far from the axis.
          const off = (gone: number) => {
            const p = subtract(add(start.origin, scaled(down, gone)), subtract(target.origin, scaled(target.n, radius)))
            return norm(subtract(p, scaled(target.v, dot(p, target.v)))) - Math.abs(radius)
          }
          if (deep === undefined) continue
          expect(off(deep + 0.3)).toBeCloseTo(0, 6)
          for (let gone = 0.05; gone < Math.min(300, deep + 0.3 - 1e-3); gone += 0.5)
            expect(Math.sign(off(gone))).toBe(Math.sign(off(0.05)))
        }
      }),
      { numRuns: runs(300) },
    )
  })
})

describe('a cut up to something', () => {
  const hole = (until: Place['until'], place: Partial<Place> = {}) =>
    step(
      'hole',
      'slot',
      { length: '10', width: '4', ends: 'square', reach: 'upto' },
      { place: { ...onFace('top', 'top'), until, ...place } },
    )
  const tower = (until: Place['until'], place: Partial<Place> = {}) =>
    partOf([base, block('top', '30', '30', '20', onFace('base', 'top')), hole(until, place)])
  it('ends at a face, less what is left standing', async () => {
    const done = await build(tower({ step: 'base', face: 'top', less: '2' }))
    expect(codes(done)).toEqual([])
    expect(volume(done)).toBeCloseTo(80 * 60 * 5 + 30 * 30 * 20 - 10 * 4 * 18, 4)
  })
  it('ends in its middle at a face that lies aslant', async () => {
    const slant = step(
      'low',
      'plate',
      { width: '60', depth: '60', height: '4' },
      { place: { ...onFace('base', 'top'), tilt: '20', lift: '-3' } },
    )
    const part = partOf([base, slant, ...tower({ step: 'low', face: 'top', less: '0' }).pieces[0]!.steps.slice(1)])
    const floor = (await build(part)).plan.geometry.get('hole')!.faces.find(({ name }) => name === 'bottom')!
    const { origin } = compose((await build(part)).plan.geometry.get('hole')!.frame, floor.frame)
    const face = (await build(part)).plan.geometry.get('low')!
    const top = compose(face.frame, face.faces.find(({ name }) => name === 'top')!.frame)
    // Straight down from the mouth's middle it lies on the slanted plane.
    expect(dot(subtract(origin, top.origin), top.n)).toBeCloseTo(0, 9)
  })
  it('follows that face', async () => {
    const part = edited(tower({ step: 'base', face: 'bottom', less: '1' }), {
      type: 'set-field',
      id: 'base',
      field: 'height',
      text: '9',
    })
    expect(volume(await build(part))).toBeCloseTo(80 * 60 * 9 + 30 * 30 * 20 - 10 * 4 * 28, 4)
  })
  it('has a floor that others stand on', () => {
    const part = tower({ step: 'base', face: 'top', less: '2' })
    const plug = block('plug', '4', '4', '1', onFace('hole', 'bottom'))
    near(frameOf(partOf([...part.pieces[0]!.steps, plug]), 'plug').origin, [0, 0, 7])
  })
  it.each([
    ['nothing chosen', undefined, 'until-missing'],
    ['a face that it runs beside', { step: 'base', face: 'left', less: '0' }, 'until-beside'],
    ['a face behind its mouth', { step: 'top', face: 'top', less: '0' }, 'until-behind'],
    ['more left standing than there is', { step: 'base', face: 'top', less: '20' }, 'until-behind'],
    ['a step that is gone', { step: 'x', face: 'top', less: '0' }, 'reference-missing'],
  ] as const)('tells %s on its line, and the rest is built', async (_, until, code) => {
    const done = await build(tower(until))
    expect(codes(done)).toEqual([code])
    expect(volume(done)).toBeCloseTo(80 * 60 * 5 + 30 * 30 * 20, 6)
  })
})

describe('scaling', () => {
  const pair = (fields: Record<string, string>) =>
    bundleOf('pair', [block('one', '20', '10', '4'), block('two', '4', '4', '6', onFace('one', 'top'))], { fields })
  const own = 20 * 10 * 4 + 4 * 4 * 6
  it.each([
    ['even', { scale: 'even', factor: '1.5' }, 1.5 ** 3, [30, 15, 15]],
    ['in each direction', { scale: 'each', across: '2', along: '1', up: '0.5' }, 1, [40, 10, 5]],
    ['to a width', { scale: 'wide', size: '40' }, 8, [40, 20, 20]],
    ['to a height', { scale: 'high', size: '5' }, 1 / 8, [10, 5, 5]],
    ['to sizes', { scale: 'sizes', width: '10', depth: '10', height: '20' }, 1, [10, 10, 20]],
  ] as const)('%s', async (_, fields, factor, size) => {
    const done = await build(partOf([pair(fields)]))
    expect(codes(done)).toEqual([])
    expect(volume(done)).toBeCloseTo(own * factor, 5)
    const { min, max } = done.pieces[0]!.solid!.bounds()!
    size.forEach((mm, i) => void expect(max[i]! - min[i]!).toBeCloseTo(mm, 5))
  })
  it('takes along how far what it holds reaches', async () => {
    const { plan } = await build(partOf([pair({ scale: 'each', across: '2', along: '1', up: '3' })]))
    const { reach } = plan.geometry.get('one')!
    const far = (d: readonly [number, number, number]) => reach(d) + reach([-d[0], -d[1], -d[2]])
    expect([far([1, 0, 0]), far([0, 1, 0]), far([0, 0, 1])]).toEqual([40, 10, 12].map((mm) => expect.closeTo(mm, 9)))
    expect(far([0, 0, 0])).toBe(0)
  })
  it('takes the faces of what it holds along', async () => {
    const on = block('on', '2', '2', '1', { ...onFace('two', 'top'), across: { from: 'low', to: 'near', by: '0' } })
    const part = partOf([pair({ scale: 'each', across: '2', along: '1', up: '3' }), on])
    near(frameOf(part, 'on').origin, [-4 + 1, 0, 30])
    expect(codes(await build(part))).toEqual([])
  })
  it('makes the shape of another step larger, and bundles within bundles', async () => {
    const place = { across: { from: 'centre', to: 'own', by: '200' }, along: onBed.along } as const
    const same = sameAs('again', 'base', { place, fields: { scale: 'even', factor: '2' } })
    expect(volume(await build(partOf([base, same])))).toBeCloseTo(9 * 80 * 60 * 5, 4)
    const outer: Step = {
      ...pair({ scale: 'even', factor: '2' }),
      id: 'outer',
      steps: [pair({ scale: 'even', factor: '3' })],
    }
    expect(volume(await build(partOf([outer])))).toBeCloseTo(own * 216, 3)
  })
  it('refuses to mirror by a negative size', async () => {
    expect(codes(await build(partOf([pair({ scale: 'even', factor: '-1' })])))).toContain('too-small')
  })
})

describe('when what a step is placed by is removed', () => {
  const held = (part: Part, id: string) => {
    const ids = new Set([id])
    return edited(part, { type: 'remove-steps', ids: [id], held: heldPlaces(part, ids) })
  }
  const random = seeded(12)
  const angle = () => String(Math.round(random() * 3600) / 10 - 180)
  it.each(Array.from({ length: 12 }, (_, i) => [i]))('it stays where it is, however it was turned (%d)', () => {
    const place: Partial<Place> = {
      across: { of: 'peg', from: 'high', to: 'near', by: '3' },
      along: { of: 'peg', from: 'centre', to: 'far', by: '-2' },
      level: { of: 'peg', from: 'high', to: 'centre' },
      ...{ lift: '1', turn: angle(), tilt: angle(), lean: angle() },
      pivot: { of: 'peg', line: 'across', by: angle() },
    }
    const part = beside(place)
    const after = held(part, 'peg')
    const [before, now] = [frameOf(part, 'b'), frameOf(after, 'b')]
    for (const key of ['origin', 'u', 'v', 'n'] as const)
      now[key].forEach((x, i) => void expect(x).toBeCloseTo(before[key][i]!, 5))
    expect(codes(workOut(after))).toEqual([])
  })
  it('and a cut keeps its depth', async () => {
    const hole = step(
      'hole',
      'hole',
      { diameter: '4', reach: 'upto' },
      {
        place: { ...onFace('base', 'top'), until: { step: 'd', face: 'plane', less: '0' } },
      },
    )
    const part = partOf([base, step('d', 'datum', {}, { place: { ...onBed, lift: '2' } }), hole])
    expect(volume(await build(held(part, 'd')))).toBeCloseTo(volume(await build(part)), 6)
  })
})

describe('a cut as deep as its body', () => {
  const [plate, hole] = ['plate', 'hole'].map((id) => ({ kind: 'shape' as const, shape: shapeOf(id)! }))
  const values = { width: 10, depth: 9, height: 6.35, diameter: 5, reach: 'blind', corners: 'round', corner: 0 }
  const zero = { from: 'centre', to: 'centre', by: 0 } as const
  const flat = { across: zero, along: zero, rest: 'in', lift: 0, turn: 37.3, tilt: 0, lean: 0 } as const
  const material = { min: [0, 0, 0], max: [20, 20, 6.35] } as const
  const of = (place: Partial<Place>, at: object = {}, body = plate!, thick = [6.35]) => {
    const own = step('s', 'plate', {}, { operation: 'cut', place: { ...onFace('b', 'top'), ...place } })
    return flushEnds(own, body, values, { ...flat, ...at } as never, material, thick)
  }
  it('ends in its far face, and begins in the one that it stands on', () => {
    expect(of({})).toEqual({ top: true, bottom: true })
    // A hole begins where it is placed by itself.
    expect(of({}, {}, hole)).toMatchObject({ top: false })
    for (const thick of [[], [6.3], [6.4, 12]]) expect(of({}, {}, plate, thick)).toEqual({ top: true, bottom: false })
    expect(of({}, {}, plate, [3, 6.35])).toEqual({ top: true, bottom: true })
  })
  it('does neither where it is lifted, leans, stands on its face or on a base of its own', () => {
    const none = { top: false, bottom: false }
    for (const at of [{ lift: 0.1 }, { tilt: 3 }, { lean: -3 }, { rest: 'on' }]) expect(of({}, at)).toEqual(none)
    expect(of({ base: 'left' })).toEqual(none)
    expect(flushEnds(step('s', 'plate', {}), plate!, values, flat as never, undefined, [6.35])).toEqual(none)
  })
})
