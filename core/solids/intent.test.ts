import { describe, expect, it } from 'vitest'
import { checkedPart, type Outline, type Part, type Place } from '../document/index.ts'
import { evaluate } from '../measures/index.ts'
import { restFor } from '../operations/index.ts'
import { brokenMeasures, rootProblems, withStandIns, workOut } from '../planning/index.ts'
import { proofOf } from '../proof/index.ts'
import { shapes } from '../shapes/index.ts'
import { bodied, built, onFace, partOf, repeat, seeded, step, testKernel } from '../testing/index.ts'
import { emptyOutline } from '../testing/outlines.ts'

/** A change stays what it was meant to be. */

const kernel = await testKernel()

const build = (part: Part) => built(kernel, part, 0.03)
const volume = async (part: Part) => (await build(part)).pieces[0]!.solid?.volume() ?? 0
const codes = (problems: readonly { readonly code: string }[]) => problems.map(({ code }) => code)
const own = { from: 'centre', to: 'own', by: '0' } as const

/** A rectangle whose nearest corner lies at (x, y). */
function rectangleAt(x: number, y: number, width: number, depth: number): Outline {
  const corners = [
    [x, y],
    [x + width, y],
    [x + width, y + depth],
    [x, y + depth],
  ] as const
  const points = corners.map((at, i) => ({ id: `p${i}`, at }))
  const curves = points.map(({ id }, i) => {
    return { id: `l${i}`, kind: 'line', points: [id, points[(i + 1) % 4]!.id], size: 0, helper: false }
  })
  return { ...emptyOutline('o'), points, curves } as unknown as Outline
}

describe('through, for all that cuts', () => {
  const plate = (height: string) => step('a', 'plate', { width: '60.3', depth: '60.1', height })
  const cutting = shapes.filter(({ deep, drawn }) => deep && !drawn)
  it.each(cutting.map(({ kind }) => [kind]))('%s stays an opening when the plate gets thicker', async (kind) => {
    const cut = step(
      'c',
      kind,
      { cutReach: 'through' },
      { operation: 'cut', place: { ...onFace('a', 'top'), turn: '37.3' } },
    )
    const [thin, thick] = [await volume(partOf([plate('1/64 in'), cut])), await volume(partOf([plate('85.1'), cut]))]
    const left = (height: number) => 60.3 * 60.1 * height
    // As much of the area is left, however thick it is.
    expect(thin / left(25.4 / 64)).toBeCloseTo(thick / left(85.1), 6)
    expect(thick).toBeLessThan(left(85.1) * 0.9999)
    const { problems } = await build(partOf([plate('85.1'), cut]))
    expect(problems.filter(({ code }) => code !== 'flat-on-round')).toEqual([])
  })
  it('in every copy, from the side, from below and mirrored', async () => {
    const random = seeded(4)
    for (const face of ['front', 'left', 'bottom', 'top']) {
      const high = (20 + 20 * random()).toFixed(3)
      const base = step('a', 'plate', { width: '40.1', depth: '30.3', height: high })
      const cut = step(
        'c',
        'prism',
        { size: '3.3', cutReach: 'through', height: '0.1' },
        {
          operation: 'cut',
          place: onFace('a', face),
          repeats: [repeat('row', { count: '3', spacing: '5.1' }), repeat('mirror', { at: '-6.3' })],
        },
      )
      const long = { front: 30.3, left: 40.1, bottom: Number(high), top: Number(high) }[face]!
      const made = await build(partOf([base, cut]))
      const removed = 40.1 * 30.3 * Number(high) - made.pieces[0]!.solid!.volume()
      const hexagon = 2 * Math.sqrt(3) * 1.65 ** 2
      // Six copies, of which two fall together or not: a whole number of openings, all the way through.
      expect(removed / (hexagon * long) - Math.round(removed / (hexagon * long))).toBeCloseTo(0, 4)
      expect(Math.round(removed / (hexagon * long))).toBeGreaterThanOrEqual(3)
    }
  })
  it('of an outline drawn anywhere', async () => {
    const outline = rectangleAt(5.3, 7.7, 11.1, 3.3)
    const cut = step(
      'c',
      'extrude',
      { outline: 'o', cutReach: 'through', height: '0.2' },
      { operation: 'cut', place: { ...onFace('a', 'top'), across: own, along: own } },
    )
    const made = await volume(partOf([plate('12.7'), cut], { outlines: [outline] }))
    expect(made).toBeCloseTo((60.3 * 60.1 - 11.1 * 3.3) * 12.7, 4)
  })
})

describe('the middle of what was drawn', () => {
  const outlines = [rectangleAt(31.3, -17.7, 21.1, 9.3)]
  const extruded = (id: string, place: Partial<Place> = {}) =>
    step(id, 'extrude', { outline: 'o', height: '4' }, { place })
  const bounds = async (part: Part) => (await build(part)).pieces[0]!.solid!.bounds()!
  it('is that of its extents on the bed, on a face, and in line with another step', async () => {
    const { min, max } = await bounds(partOf([extruded('a')], { outlines }))
    expect([min[0], max[0], min[1], max[1]].map((x) => Number(x.toFixed(6)))).toEqual([-10.55, 10.55, -4.65, 4.65])
    const line = { of: 'a', from: 'centre', to: 'centre', by: '0' } as const
    for (const place of [onFace('a', 'top'), { ...onFace('a', 'top'), across: line, along: line }]) {
      const stacked = await bounds(
        partOf([extruded('a', { across: own, along: own }), extruded('b', place)], { outlines }),
      )
      expect([stacked.min[0], stacked.max[0]].map((x) => Number(x.toFixed(6)))).toEqual([31.3, 52.4])
      expect([stacked.min[1], stacked.max[2]].map((x) => Number(x.toFixed(6)))).toEqual([-17.7, 8])
    }
  })
  it('was the zero of the drawing in earlier files, which stay as they were', async () => {
    const part = partOf([extruded('a', { across: { from: 'centre', to: 'centre', by: '3.3' } })], { outlines })
    const { stepSize: _, views: __, ...plain } = part
    const read = checkedPart({ ...plain, version: 4 })
    const { min } = await bounds(read)
    expect([min[0], min[1]].map((x) => Number(x.toFixed(6)))).toEqual([34.6, -17.7])
    expect(bodied(read.pieces[0]!.steps[0]).place.across.to).toBe('own')
    // What has its centre otherwise, or lay on a face of its own, means what it did.
    const plate = step('p', 'plate')
    const onFoot = extruded('b', { base: 'top' })
    const others = checkedPart({ ...plain, version: 4, pieces: [{ ...part.pieces[0]!, steps: [plate, onFoot] }] })
    expect(others.pieces[0]!.steps.map((each) => bodied(each).place.across.to)).toEqual(['centre', 'centre'])
  })
})

describe('keep', () => {
  it('stands where an add would, and leaves what lies in it', async () => {
    expect(restFor('keep')).toBe('on')
    const base = step('a', 'plate', { width: '40.1', depth: '30.3', height: '12.7' })
    const keep = step(
      'k',
      'bar',
      { diameter: '10', height: '50' },
      { operation: 'keep', place: { rest: restFor('keep') } },
    )
    expect((await volume(partOf([base, keep]))) / (12.7 * 25 * Math.PI)).toBeCloseTo(1, 1)
  })
  it('that leaves nothing says so at its step, even where it only touches', async () => {
    const base = step('a', 'plate', { width: '40.1', depth: '30.3', height: '12.7' })
    const under = step('k', 'bar', { diameter: '10', height: '50' }, { operation: 'keep', place: { rest: 'in' } })
    const made = await build(partOf([base, under]))
    expect(made.pieces[0]!.solid).toBeUndefined()
    expect(made.problems.map(({ code, path }) => [code, path[1]])).toEqual([['keep-leaves-nothing', 'k']])
    const texts = (await proofOf(kernel, made)).map(({ text }) => text)
    expect(texts.some((text) => text.includes('face different ways'))).toBe(false)
  })
})

describe('on and in rounds', () => {
  const tube = step('t', 'bar', { diameter: '40.3', height: '30.7', core: 'tube', bore: '33.3' })
  it('a hole from inside a bore goes up to its far wall', async () => {
    const until = { step: 't', face: 'bore', less: '0' }
    const hole = step('h', 'bar', { diameter: '3', height: '5' }, { place: onFace('t', 'bore') })
    const rod = {
      ...hole,
      shape: 'extrude',
      fields: { outline: 'o', reach: 'upto', height: '1' },
      place: { ...hole.place, until },
    }
    const outlines = [rectangleAt(-2, -2, 4, 4)]
    const { problems, pieces } = await build(partOf([tube, rod], { outlines }))
    expect(codes(problems)).toEqual([])
    const plain = await volume(partOf([tube]))
    // From wall to wall across the bore, by its diameter.
    expect((pieces[0]!.solid!.volume() - plain) / 16).toBeGreaterThan(33.3 - 0.5)
    expect((pieces[0]!.solid!.volume() - plain) / 16).toBeLessThan(33.3 + 0.1)
  })
  it('a ring on a round face goes round its axis', async () => {
    const peg = step(
      'p',
      'bar',
      { diameter: '3', height: '5' },
      { place: { ...onFace('t', 'side'), lift: '-1' }, repeats: [repeat('ring', { count: '5' })] },
    )
    const made = await build(partOf([tube, peg]))
    const plain = await volume(partOf([tube]))
    const one = await volume(partOf([tube, { ...peg, repeats: [] }]))
    expect((made.pieces[0]!.solid!.volume() - plain) / (one - plain)).toBeCloseTo(5, 2)
  })
  it('letters take the diameter and the side of the round that they stand on', async () => {
    const text = (wrap: string) => step('x', 'text', { text: 'IO', wrap, round: '99' }, { place: onFace('t', 'bore') })
    const { plan } = workOut(partOf([tube, text('outside')]))
    expect(plan.operands.get('x')!.copies[0]!.values).toMatchObject({ wrap: 'inside', round: 33.3 })
    const flat = workOut(partOf([tube, text('flat')]))
    expect(codes(flat.problems)).toEqual(['flat-on-round'])
    expect((await build(partOf([tube, text('outside')]))).pieces[0]!.solid!.bodies()).toBe(1)
  })
  it('a thread is cut into the round that it stands on, whatever diameter an early step gives that, or tells why not', async () => {
    const bar = (diameter: string) => step('b', 'bar', { diameter, height: '37.3' }, { place: { lift: '1.7' } })
    const thread = (face: string, item = 'iso-261 M20') =>
      step('x', 'cut-thread', { item, length: '15.3' }, { operation: 'cut', place: onFace('b', face) })
    expect(workOut(partOf([bar('20'), thread('end')])).problems).toMatchObject([
      { code: 'round-wanted', rank: 'fault', path: ['steps', 'x', 'place', 'on'] },
    ])
    const thinner = workOut(partOf([bar('15.9'), thread('side')]))
    expect(thinner.problems).toMatchObject([
      { code: 'shape-impossible', path: ['steps', 'x', 'fields', 'item'], instead: { text: 'iso-261 M16' } },
    ])
    expect(thinner.plan.operands.get('x')).toBeUndefined()
    const unknown = workOut(partOf([bar('20'), thread('side', 'iso-261 M20.1')]))
    expect(unknown.problems).toMatchObject([{ code: 'item-unknown', instead: { field: 'item', text: 'iso-261 M20' } }])
    for (const [diameter, item] of [
      ['20', 'iso-261 M20'],
      ['15.9', 'iso-261 M16'],
    ] as const) {
      const { problems, pieces } = await build(partOf([bar(diameter), thread('side', item)]))
      expect(codes(problems)).toEqual([])
      const [whole, left] = [await volume(partOf([bar(diameter)])), pieces[0]!.solid!.volume()]
      // Of 15.3 mm of 37.3 about a sixth to a fifth.
      expect(left / whole).toBeGreaterThan(0.88)
      expect(left / whole).toBeLessThan(0.97)
      expect(pieces[0]!.solid!.bodies()).toBe(1)
    }
  })
  it('smoothing bends open lines that are made as walls', async () => {
    const outline = {
      ...rectangleAt(10.3, 0, 20.1, 30.7),
      curves: rectangleAt(10.3, 0, 20.1, 30.7).curves.slice(0, 2),
    }
    const vessel = (smooth: string) =>
      step('v', 'revolve', { outline: 'o', axis: 'y-axis', wall: 'middle', thick: '1.3', smooth })
    const [sharp, round] = [
      await volume(partOf([vessel('0')], { outlines: [outline] })),
      await volume(partOf([vessel('3')], { outlines: [outline] })),
    ]
    expect(sharp).toBeGreaterThan(0)
    // The corner that lies farthest from the axis is drawn in.
    expect(round / sharp).toBeLessThan(0.97)
    expect(round / sharp).toBeGreaterThan(0.7)
  })
})

describe('what is broken is named once', () => {
  const measure = (id: string, expression: string) =>
    ({
      id,
      name: id,
      kind: 'length',
      expression,
      note: '',
      choices: [],
      readings: [],
    }) as unknown as Part['measures'][number]
  const steps = [
    step('a', 'plate', { width: 'wall * 10', depth: '30', height: 'half' }),
    ...Array.from({ length: 8 }, (_, i) => step(`h${i}`, 'hole', { diameter: 'wall' }, { place: onFace('a', 'top') })),
    step(
      'z',
      'plate',
      { width: '5', depth: '5', height: '5' },
      { place: { across: { from: 'centre', to: 'centre', by: '60' } } },
    ),
  ]
  const part = (wall: string) => partOf(steps, { measures: [measure('wall', wall), measure('half', 'wall / 2')] })
  it('by the measure that is, with how many lines wait for it', async () => {
    const made = await build(part('3 / 0'))
    const faults = (await proofOf(kernel, made, { only: ['sheet'] })).filter(({ rank }) => rank === 'fault')
    expect(faults.map(({ text, about }) => [text, about])).toEqual([
      ['Measure wall: This divides by zero. 10 lines wait for it.', [{ kind: 'measure', id: 'wall' }]],
    ])
    expect(rootProblems(made.problems)).toHaveLength(1)
    // What does not hang on it stays.
    expect(made.pieces[0]!.solid!.volume()).toBeCloseTo(125, 6)
  })
  it('also where steps stand on steps that stand on one that waits', async () => {
    const tower = partOf(
      [
        step('a', 'plate', { width: 'wall * 10', depth: '30', height: '5' }),
        step('b', 'plate', { width: '9.3', depth: '9.3', height: '9.3' }, { place: onFace('a', 'top') }),
        step('c', 'plate', { width: '5.1', depth: '5.1', height: '5.1' }, { place: onFace('b', 'top') }),
        step('d', 'hole', { diameter: '2' }, { place: onFace('c', 'top') }),
      ],
      { measures: [measure('wall', '3 / 0')] },
    )
    const { problems } = workOut(tower)
    expect(rootProblems(problems).map(({ code }) => code)).toEqual(['division-by-zero'])
    expect(brokenMeasures(problems)!.waiting).toBe(4)
    // What does come later is told as that.
    const [a, b, ...rest] = tower.pieces[0]!.steps
    const swapped = workOut({ ...tower, pieces: [{ ...tower.pieces[0]!, steps: [b!, a!, ...rest] }] })
    expect(rootProblems(swapped.problems).map(({ code }) => code)).not.toContain('reference-later')
    const sound = { ...tower, measures: [measure('wall', '3')] }
    const later = workOut({ ...sound, pieces: [{ ...sound.pieces[0]!, steps: [b!, a!, ...rest] }] })
    expect(later.problems.map(({ code }) => code)).toContain('reference-later')
  })
  it('and the rest is shown as it was last', async () => {
    const broken = part('3 / 0')
    const known = brokenMeasures(workOut(broken).problems)!
    const shown = withStandIns(broken, known, new Map([['wall', '3.3']]))
    expect(await volume(shown)).toBeCloseTo(await volume(part('3.3')), 9)
    expect(brokenMeasures(workOut(part('3')).problems)).toBeUndefined()
    expect(withStandIns(broken, known, new Map())).toBe(broken)
  })
  it('a read-out can be typed into a value as soon as it is made', () => {
    const readout = {
      id: 'r',
      name: 'reach',
      kind: 'distance',
      of: [
        { step: 'a', face: 'left' },
        { step: 'a', face: 'right' },
      ],
      note: '',
    }
    const { resolved } = workOut({ ...part('3'), readouts: [readout] })
    expect(evaluate('reach / 2', 'length', resolved.measures.names).value).toBe(15)
    const used = workOut({
      ...part('3'),
      readouts: [readout],
      measures: [...part('3').measures, measure('long', 'reach + 1')],
    })
    expect(used.problems).toEqual([])
  })
})
