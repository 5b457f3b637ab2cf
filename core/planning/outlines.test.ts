import { afterEach, beforeAll, describe, expect, it } from 'vitest'
import {
  applyEdit,
  clipOf,
  newPart,
  type Outline,
  type Part,
  pasteEdits,
  type Step,
  takenFrom,
  usersOf,
} from '../document/index.ts'
import type { Kernel } from '../kernel/index.ts'
import { freedomOf, Sketch } from '../outline/index.ts'
import { Builder } from '../solids/index.ts'
import { repeat, step, testKernel, treatment } from '../testing/index.ts'
import { emptyOutline } from '../testing/outlines.ts'
import { drawnEdges, fieldKindOf, heldPlaces, planeOf, type TakenOffer, takenOffers, workOut } from './index.ts'

let kernel: Kernel
let builder: Builder
beforeAll(async () => {
  kernel = await testKernel()
  builder = new Builder(kernel)
})
afterEach(() => {
  builder.clear()
  expect(kernel.live).toBe(0)
})

const at = (x: number, y: number) => ({ at: [x, y] as const })

/** A rectangle from the origin, `wide` by 20, with a hole in its middle. */
function plate(): Outline {
  const sketch = new Sketch(emptyOutline('plate'))
  const lines = sketch.rectangle({ at: [0, 0], point: 'origin' }, at(40, 20), false)
  sketch.hold('distance', [lines[0]!], 'wide')
  sketch.hold('distance', [lines[1]!], '20')
  const hole = sketch.circle(at(20, 10), 4)
  sketch.hold('diameter', [hole], '8')
  return sketch.outline
}

function part(steps: readonly Step[], outlines: readonly Outline[]): Part {
  const plain = newPart({ part: 'p', piece: 'piece' }, 'Sample')
  const wide = { id: 'm-wide', name: 'wide', kind: 'length' as const, expression: '40', note: '' }
  return { ...plain, measures: [wide], outlines, pieces: [{ ...plain.pieces[0]!, steps }] }
}
const own = { from: 'centre', to: 'own', by: '0' } as const
const asDrawn = { place: { across: own, along: own } }
const volume = async (of: Part) => {
  const built = await builder.build(of, { fineness: 0.01 })
  return { volume: built.pieces[0]!.solid?.volume() ?? 0, problems: built.problems.map(({ code }) => code), built }
}
const change = (of: Part, expression: string) =>
  applyEdit(of, { type: 'set-measure', id: 'm-wide', change: { expression } }, fieldKindOf)

describe('what is made from an outline', () => {
  it('follows its measures, and is found again when they come back', async () => {
    const sample = part([step('a', 'extrude', { outline: 'plate', height: '5' })], [plate()])
    const disc = 16 * Math.PI
    expect((await volume(sample)).volume).toBeCloseTo((800 - disc) * 5, 0)
    expect((await volume(change(sample, '60'))).volume).toBeCloseTo((1200 - disc) * 5, 0)
    expect((await volume(sample)).volume).toBeCloseTo((800 - disc) * 5, 0)
    expect(usersOf(sample, ['m-wide'], fieldKindOf)).toEqual(new Set(['plate', 'a']))
  })
  it('is left out with the reason where the outline is gone, contradicts itself or was not chosen', async () => {
    const extruded = (id: string) => step('a', 'extrude', { outline: id })
    expect((await volume(part([extruded('other')], [plate()]))).problems).toContain('outline-missing')
    expect((await volume(part([extruded('')], [plate()]))).problems).toContain('outline-choose')
    const sketch = new Sketch(plate())
    sketch.hold('distance', ['l3'], '70')
    const { problems, volume: none } = await volume(part([extruded('plate')], [sketch.outline]))
    expect(problems).toEqual(expect.arrayContaining(['outline-conflict', 'outline-broken']))
    expect(none).toBe(0)
  })
  it('takes regions of its own where a step chooses them, and stays with them', async () => {
    const { arrangement } = workOut(part([], [plate()])).resolved.outlines.get('plate')!
    const [ground, hole] = [...arrangement.faces].sort((a, b) => b.area - a.area)
    const of = (id: string, keys: readonly string[], height: string) =>
      step(id, 'extrude', { outline: ['plate', ...keys].join('|'), height }, asDrawn)
    const both = part([of('a', [ground!.key], '5'), of('b', [ground!.key, hole!.key], '1.3')], [plate()])
    const disc = 16 * Math.PI
    const made = await volume(both)
    expect(made.problems).toEqual([])
    expect(made.volume).toBeCloseTo((800 - disc) * 5 + disc * 1.3, 0)
    expect((await volume(change(both, '61.7'))).volume).toBeCloseTo((1234 - disc) * 5 + disc * 1.3, 0)
    // A region that is gone is told on its step, and the rest is made; where all are, nothing is.
    const less = await volume(part([of('a', [hole!.key, '+l9'], '5'), of('b', ['+l9'], '5')], [plate()]))
    expect(less.volume).toBeCloseTo(disc * 5, 0)
    expect(less.built.problems.map(({ code, path }) => [code, path.join('/')])).toEqual([
      ['region-gone', 'steps/a/fields/outline'],
      ['regions-none', 'steps/b/fields/outline'],
    ])
    // The drawing is changed, and says what its regions are now; other steps are the very same.
    const other = step('c', 'plate')
    const renamed = applyEdit(
      part([of('a', [hole!.key], '5'), other], [plate()]),
      { type: 'set-outline', id: 'plate', change: { name: 'Base' }, regions: { [hole!.key]: ['+x', '+y'] } },
      fieldKindOf,
    )
    expect(renamed.pieces[0]!.steps[0]!.fields.outline).toBe('plate|+x|+y')
    expect(renamed.pieces[0]!.steps[1]).toBe(other)
  })
  it('has faces over its lines and arcs, on which others stand', async () => {
    const base = step('a', 'extrude', { outline: 'plate', height: '6' }, asDrawn)
    const face = workOut(part([base], [plate()]))
      .plan.geometry.get('a')!
      .faces.map(({ name }) => name)
    expect(face).toEqual(['top', 'bottom', 'side l1', 'side l2', 'side l3', 'side l4', 'side c1'])
    const boss = step(
      'b',
      'bar',
      { diameter: '4', height: '3' },
      { place: { on: { kind: 'face', step: 'a', face: 'side l1' } } },
    )
    const { built, problems } = await volume(part([base, boss], [plate()]))
    expect(problems).toEqual([])
    expect(built.pieces[0]!.solid!.bounds()!.min[1]).toBeCloseTo(-3, 6)
  })
  it('rises up to a face, less what is left', async () => {
    const floor = step('a', 'plate', { width: '60', depth: '60', height: '4' })
    const roof = step('r', 'plate', { width: '60', depth: '60', height: '4' }, { place: { lift: '30' } })
    const post = step(
      'b',
      'extrude',
      { outline: 'plate', reach: 'upto' },
      { place: { on: { kind: 'face', step: 'a', face: 'top' }, until: { step: 'r', face: 'bottom', less: '1' } } },
    )
    const { built, problems } = await volume(part([floor, roof, post], [plate()]))
    expect(problems).toEqual([])
    const { frame } = built.plan.geometry.get('b')!
    expect(frame.origin[2]).toBeCloseTo(4, 9)
    expect(built.plan.operands.get('b')!.copies[0]!.values.height).toBeCloseTo(25, 9)
  })
  it('cuts through what is there', async () => {
    const floor = step('a', 'plate', { width: '80', depth: '60', height: '4' })
    const window = step(
      'b',
      'cutout',
      { outline: 'plate' },
      { operation: 'cut', place: { on: { kind: 'face', step: 'a', face: 'top' } } },
    )
    const { volume: left, problems } = await volume(part([floor, window], [plate()]))
    expect(problems).toEqual([])
    expect(left / ((4800 - (800 - 16 * Math.PI)) * 4)).toBeCloseTo(1, 3)
  })
  it('a rib goes on to the steps before it, whatever comes after', async () => {
    const floor = step('a', 'plate', { width: '60', depth: '20', height: '4' })
    const wall = step(
      'w',
      'plate',
      { width: '4', depth: '20', height: '40' },
      { place: { on: { kind: 'face', step: 'a', face: 'top' }, across: { from: 'low', to: 'near', by: '0' } } },
    )
    const edge = new Sketch(emptyOutline('edge'))
    edge.line(at(-26, 24), at(0, 0))
    const rib = step(
      'r',
      'rib',
      { outline: 'edge', thick: '3' },
      { place: { on: { kind: 'face', step: 'a', face: 'top' }, tilt: '90' } },
    )
    const hole = step(
      'h',
      'hole',
      { diameter: '5' },
      {
        operation: 'cut',
        place: { on: { kind: 'face', step: 'a', face: 'top' }, across: { from: 'high', to: 'centre', by: '8' } },
      },
    )
    const { volume: whole, problems } = await volume(part([floor, wall, rib, hole], [edge.outline]))
    expect(problems).toEqual([])
    const without = (await volume(part([floor, wall, hole], [edge.outline]))).volume
    expect(whole - without).toBeCloseTo(((24 * 26) / 2) * 3, 3)
  })
  it('a rib in a hollow goes on to its floor and its wall, and follows them', async () => {
    const block = step('b', 'plate', { width: '40.3', depth: '30.1', height: '20.7' })
    const edge = new Sketch(emptyOutline('edge'))
    edge.line(at(-17.3, 15.1), at(-8.4, 9.2))
    const hollow = (thick: string): Step => treatment('hollow', { thick, open: 'b/top' }, 'w')
    const rib = step('r', 'rib', { outline: 'edge', thick: '1.6' }, { place: { tilt: '90' } })
    const added = async (thick: string) => {
      const [before, { volume: after, problems }] = [
        await volume(part([block, hollow(thick)], [edge.outline])),
        await volume(part([block, hollow(thick), rib], [edge.outline])),
      ]
      expect(problems).toEqual([])
      return after - before.volume
    }
    // Down from the line to the floor, where it begins beyond the wall.
    const slope = (9.2 - 15.1) / (-8.4 + 17.3)
    const expected = (thick: number) => {
      const from = Math.max(-17.3, -40.3 / 2 + thick)
      const high = (x: number) => 15.1 + (x + 17.3) * slope - thick
      return ((high(from) + high(-8.4)) / 2) * (-8.4 - from) * 1.6
    }
    for (const thick of [2.3, 3.7]) expect(await added(`${thick}`)).toBeCloseTo(expected(thick), 6)
  })
  it('copies follow the line of an outline', async () => {
    const track = new Sketch(emptyOutline('track'))
    track.line(at(0, 0), at(40, 0))
    const floor = step('a', 'plate', { width: '80', depth: '20', height: '4' })
    const pegs = step(
      'b',
      'bar',
      { diameter: '4', height: '5' },
      {
        place: { on: { kind: 'face', step: 'a', face: 'top' } },
        repeats: [repeat('path', { outline: 'track', count: '3' })],
      },
    )
    const { built, problems } = await volume(part([floor, pegs], [track.outline]))
    expect(problems).toEqual([])
    expect(built.plan.operands.get('b')!.copies.map(({ frame }) => Math.round(frame.origin[0]))).toEqual([0, 20, 40])
  })
})

describe('points taken over from a face', () => {
  it('stay where that is, and the drawing follows them', () => {
    const sketch = new Sketch(emptyOutline('own', { kind: 'face', step: 'a', face: 'top' }))
    const corner = sketch.point(at(20, 10))
    sketch.outline = {
      ...sketch.outline,
      points: [{ ...sketch.outline.points[0]!, taken: { step: 'a', face: 'top', u: 1, v: 1 } }],
    }
    const round = sketch.circle(at(12, 5), 2)
    const middle = sketch.outline.curves[0]!.points[0]!
    sketch.hold('radius', [round], '2')
    sketch.hold('distance-x', [middle, corner], '6')
    sketch.hold('distance-y', [middle, corner], '6')
    const steps = [
      step('a', 'plate', { width: 'wide', depth: '20', height: '4' }),
      step(
        'b',
        'cutout',
        { outline: 'own' },
        { operation: 'cut', place: { on: { kind: 'face', step: 'a', face: 'top' } } },
      ),
    ]
    const middleOf = (of: Part) => workOut(of).resolved.outlines.get('own')!.points.get(middle)!
    const sample = part(steps, [sketch.outline])
    expect(middleOf(sample)).toEqual([expect.closeTo(14, 9), expect.closeTo(4, 9)])
    expect(middleOf(change(sample, '60'))[0]).toBeCloseTo(24, 9)
    // Without the step they keep their last place.
    const gone = { ...sample, pieces: [{ ...sample.pieces[0]!, steps: [] }] }
    expect(middleOf(gone)).toEqual([expect.closeTo(14, 9), expect.closeTo(4, 9)])
  })
})

describe('what can be taken over', () => {
  const onTop = { on: { kind: 'face' as const, step: 'a', face: 'top' } }
  const holeAt = (by: string, fields: Record<string, string> = { diameter: '5' }, more = {}) =>
    step('h', 'hole', fields, {
      operation: 'cut',
      place: { on: onTop.on, across: { from: 'low', to: 'centre', by } },
      ...more,
    })
  const base = step('a', 'plate', { width: 'wide', depth: '20', height: '4' })
  const offersOf = (of: Part, on: Pick<Outline, 'on'> = onTop) => {
    const { plan } = workOut(of)
    return takenOffers(planeOf(on, plan)!, plan)
  }
  /** The outline of all that an offer is, and where that lies once the measure is changed. */
  const taking = (of: Part, offer: TakenOffer) => {
    const sketch = new Sketch(emptyOutline('own', onTop.on))
    const ids = offer.points.map((taken, i) => {
      const id = sketch.point({ at: offer.at[i]! })
      sketch.outline = {
        ...sketch.outline,
        points: sketch.outline.points.map((point) => (point.id === id ? { ...point, taken } : point)),
      }
      return id
    })
    const { curve } = offer
    const id = curve && sketch.curve(curve.kind, ids, { helper: true, size: curve.size, taken: curve.taken })
    const drawn = { ...of, outlines: [...of.outlines, sketch.outline] }
    return (wide: string) => {
      const { resolved, problems } = workOut(change(drawn, wide))
      expect(problems).toEqual([])
      const own = resolved.outlines.get('own')!
      // Nothing of it can move, and nothing is said of it twice.
      const { moves, redundant } = freedomOf(own.system, own.solution.x)
      expect([moves, redundant.size]).toEqual([0, 0])
      return { points: ids.map((point) => own.points.get(point)!), segments: id ? own.drawnCurves.get(id)! : [] }
    }
  }

  it('are corners, edges and middles of faces along the plane, each once, and axes', () => {
    const offers = offersOf(part([base, holeAt('8')], []))
    // Those of the bottom lie under those of the top.
    expect(offers.filter(({ curve }) => curve?.kind === 'line').map(({ what }) => what)).toEqual([
      'front edge of top',
      'right edge of top',
      'back edge of top',
      'left edge of top',
    ])
    expect(offers.find(({ what }) => what === 'corner right back of top')!.at).toEqual([[20, 10]])
    expect(offers.find(({ step: id, what }) => id === 'h' && what === 'axis')!.at).toEqual([[-12, 0]])
  })

  it('are rims of holes, which stay as large and where they are', () => {
    const sample = part(
      [base, holeAt('8', { diameter: 'wide / 8' }, { repeats: [repeat('row', { count: '2', spacing: '10' })] })],
      [],
    )
    const rims = offersOf(sample).filter(({ curve }) => curve?.kind === 'circle')
    expect(rims.map(({ what, copy, curve }) => [what, copy, curve!.size])).toEqual([
      ['wall edge', 1, 2.5],
      ['wall edge', 2, 2.5],
    ])
    const taken = taking(sample, rims[1]!)
    expect(taken('40').points[0]).toEqual([expect.closeTo(-2, 9), expect.closeTo(0, 9)])
    const [arc] = taken('56').segments
    expect(arc).toMatchObject({ kind: 'arc', radius: 3.5, centre: [expect.closeTo(-10, 9), expect.closeTo(0, 9)] })
  })

  it('are rounded corners, and sides as far as these leave them', () => {
    const rounded = step('a', 'plate', { width: 'wide', depth: '20', height: '4', corner: '3' })
    const sample = part([rounded], [])
    const offers = offersOf(sample)
    const corner = offers.find(({ what }) => what === 'corner right back edge')!
    expect(corner.at).toEqual([
      [17, 7],
      [20, 7],
      [17, 10],
    ])
    const wider = taking(sample, corner)('60')
    expect(wider.points.map((p) => p.map((mm) => Math.round(mm * 1e9) / 1e9))).toEqual([
      [27, 7],
      [30, 7],
      [27, 10],
    ])
    expect(offers.find(({ what }) => what === 'front edge')!.at).toEqual([
      [-17, -10],
      [17, -10],
    ])
  })

  it('are the stretches between the edges of several steps', () => {
    // A notch in the right edge.
    const notch = step(
      'n',
      'slot',
      { length: '8', width: '6', ends: 'square' },
      { operation: 'cut', place: { on: onTop.on, across: { from: 'high', to: 'centre', by: '0' } } },
    )
    const sample = part([base, notch], [])
    const offers = offersOf(sample)
    const lower = offers.find(({ what }) => what === 'part 1 of the right edge')!
    expect(lower.at.map((p) => p[1]).sort((a, b) => a - b)).toEqual([-10, -3])
    const side = offers.find(
      ({ step: id, what, at: own }) =>
        id === 'n' && what.startsWith('part') && Math.max(...own.map(([x]) => x)) < 20.001,
    )!
    const wider = taking(sample, side)('60').points
    expect(wider.map((p) => p.map((mm) => Math.round(mm * 1e9) / 1e9)).sort((p, q) => p[0]! - q[0]!)).toEqual([
      [26, -3],
      [30, -3],
    ])
  })

  it('are ellipses where rounds cross the plane aslant, and lines where they lie along it', () => {
    const leaning = step('b', 'bar', { diameter: '6', height: '40' }, { place: { lean: '30' } })
    const ellipse = offersOf(part([leaning], []), { on: { kind: 'bed' } }).find(
      ({ curve }) => curve?.kind === 'ellipse',
    )!
    expect(ellipse.curve!.size).toBeCloseTo(3, 9)
    const [centre, end] = ellipse.at
    expect(Math.hypot(end![0] - centre![0], end![1] - centre![1])).toBeCloseTo(3 / Math.cos(Math.PI / 6), 9)
  })

  it('are only those of the finished part, where its edges are known', () => {
    const post = step('p', 'bar', { diameter: '12', height: '5' }, { place: onTop })
    const { plan } = workOut(part([base, post], []))
    const plane = planeOf(onTop, plan)!
    // Of the plate only the front edge, and that but for its left corner; the bar is buried.
    const front = drawnEdges(
      [
        [
          [-15, -10],
          [20, -10],
        ],
      ],
      0.03,
    )
    const seen = takenOffers(plane, plan, { isDrawn: front })
    expect(seen.flatMap(({ what, curve }) => (curve ? [what] : []))).toEqual(['front edge of top', 'side edge'])
    expect(seen.map(({ what }) => what)).toEqual(
      expect.arrayContaining(['corner left front of top', 'corner right front of top']),
    )
    expect(seen.some(({ what }) => / of end$/.test(what) && what.startsWith('corner'))).toBe(false)
    expect(takenOffers(plane, plan, { without: new Set(['p']) }).some(({ step: id }) => id === 'p')).toBe(false)
  })

  it('of a bent edge are its pieces and their ends, not what pulls these between', () => {
    const bay = new Sketch(emptyOutline('bay'))
    bay.line(at(-15.3, 0), at(14.1, 0))
    const [from, to] = [bay.outline.points[0]!.id, bay.outline.points[1]!.id]
    bay.spline(
      'through',
      [{ ...at(-15.3, 0), point: from }, at(-4, 9.1), at(6.2, 8), { ...at(14.1, 0), point: to }],
      false,
    )
    const sample = part([step('a', 'extrude', { outline: 'bay', height: '4' })], [bay.outline])
    const offers = offersOf(sample, { on: { kind: 'bed' } })
    const pieces = offers.filter(({ curve }) => curve?.kind === 'near')
    expect(pieces).toHaveLength(3)
    const places = offers.filter(({ curve, at: [p] }) => !curve && p).map(({ at: [p] }) => p!)
    for (const { at: points } of pieces) {
      expect(points).toHaveLength(4)
      const isOffered = (p: readonly [number, number]) =>
        places.some((q) => Math.hypot(q[0] - p[0], q[1] - p[1]) < 1e-9)
      expect(points.map(isOffered)).toEqual([true, false, false, true])
    }
  })
  it('stay where they are when the step is removed, and go with it to another part', () => {
    const sample = part([base, holeAt('8', { diameter: 'wide / 8' })], [])
    const rim = offersOf(sample).find(({ curve }) => curve?.kind === 'circle')!
    const sketch = new Sketch(emptyOutline('own', onTop.on))
    const middle = sketch.point({ at: rim.at[0]! })
    sketch.curve('circle', [middle], { helper: true, size: rim.curve!.size, taken: rim.curve!.taken })
    const [point] = sketch.outline.points
    const own = { ...sketch.outline, points: [{ ...point!, taken: rim.points[0]! }] }
    const drawn = change({ ...sample, outlines: [own] }, '60')
    const held = heldPlaces(drawn, new Set(['h']))
    const gone = applyEdit(drawn, { type: 'remove-steps', ids: ['h'], held }, fieldKindOf)
    expect(workOut(drawn).problems).toEqual([])
    expect(workOut(gone).problems).toMatchObject([
      {
        code: 'outline-taken-gone',
        path: ['outlines', 'own'],
        rank: 'advice',
        text: expect.stringContaining('What p1, c1 was picked up'),
      },
    ])
    expect(gone.outlines[0]).toMatchObject({ points: [{ at: [-22, 0] }], curves: [{ size: 3.75 }] })
    expect(workOut(gone).resolved.outlines.get('own')!.drawnCurves.get('c1')).toMatchObject([{ radius: 3.75 }])

    const user = step('u', 'cutout', { outline: 'own' }, { operation: 'cut', place: onTop })
    const whole = { ...drawn, pieces: [{ ...drawn.pieces[0]!, steps: [...drawn.pieces[0]!.steps, user] }] }
    const clip = clipOf(whole, ['a', 'h', 'u'], fieldKindOf)
    let count = 0
    const pasted = pasteEdits(
      newPart({ part: 'q', piece: 'piece' }, 'Other'),
      clip,
      { piece: 'piece' },
      () => `n${++count}`,
      fieldKindOf,
    ).reduce((so, edit) => applyEdit(so, edit, fieldKindOf), newPart({ part: 'q', piece: 'piece' }, 'Other'))
    const [from] = takenFrom(pasted.outlines[0]!)
    expect(pasted.pieces[0]!.steps.map(({ id }) => id)).toContain(from)
    expect(
      workOut(change({ ...pasted, measures: drawn.measures }, '80'))
        .resolved.outlines.all()[0]!
        .points.get(point!.id)![0],
    ).toBeCloseTo(-32, 9)
  })
})

describe('a round that is taken over', () => {
  it('is as large as its face, whatever that becomes', () => {
    const bar = step('a', 'bar', { diameter: 'wide', height: '10' })
    const sample = part([bar], [])
    const plane = { on: { kind: 'face' as const, step: 'a', face: 'end' } }
    const { plan } = workOut(sample)
    const offer = takenOffers(planeOf(plane, plan)!, plan).find(({ curve }) => curve?.kind === 'circle')!
    expect([offer.what, offer.curve!.size]).toEqual(['side edge', 20])
    const sketch = new Sketch(emptyOutline('own', plane.on))
    const middle = sketch.point(at(0, 0))
    sketch.outline = { ...sketch.outline, points: [{ ...sketch.outline.points[0]!, taken: offer.points[0]! }] }
    const round = sketch.curve('circle', [middle], { helper: true, size: 20, taken: offer.curve!.taken! })
    // A hole that touches it from within.
    const hole = sketch.circle(at(12, 0), 3)
    sketch.hold('on', [sketch.outline.curves[1]!.points[0]!, 'x-axis'])
    sketch.hold('radius', [hole], '3')
    sketch.hold('tangent', [round, hole])
    const place = (of: Part) =>
      workOut(of).resolved.outlines.get('own')!.points.get(sketch.outline.curves[1]!.points[0]!)!
    const drawn = { ...sample, outlines: [sketch.outline] }
    expect(workOut(drawn).problems).toEqual([])
    expect(place(drawn)[0]).toBeCloseTo(17, 8)
    expect(place(change(drawn, '60'))[0]).toBeCloseTo(27, 8)
  })
})

describe('a clip', () => {
  it('brings the outlines of its steps, with the measures that these read', () => {
    const sample = part([step('a', 'extrude', { outline: 'plate|+c1' })], [plate(), emptyOutline('unused')])
    const clip = clipOf(sample, ['a'], fieldKindOf)
    expect(clip.outlines.map(({ id }) => id)).toEqual(['plate'])
    expect(clip.measures.map(({ name }) => name)).toEqual(['wide'])
    let count = 0
    const pasted = (into: Part) =>
      pasteEdits(into, clip, { piece: 'piece' }, () => `n${++count}`, fieldKindOf).reduce(
        (so, edit) => applyEdit(so, edit, fieldKindOf),
        into,
      )
    const other = pasted(newPart({ part: 'q', piece: 'piece' }, 'Other'))
    expect(workOut(other).problems).toEqual([])
    expect(other.outlines).toHaveLength(1)
    // Where it is already, it is used; where its id is taken by another one, it comes under a new id.
    expect(pasted(sample).outlines).toHaveLength(2)
    const clash = pasted({ ...newPart({ part: 'q', piece: 'piece' }, 'Other'), outlines: [emptyOutline('plate')] })
    expect(clash.outlines).toHaveLength(2)
    expect(clash.pieces[0]!.steps[0]!.fields.outline).toBe(`${clash.outlines[1]!.id}|+c1`)
  })
})
