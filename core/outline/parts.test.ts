import { describe, expect, it } from 'vitest'
import type { Outline } from '../document/index.ts'
import { distance2, type Vec2 } from '../plane/index.ts'
import { emptyOutline, randomFrom } from '../testing/outlines.ts'
import {
  middleOf,
  partsOf,
  type Similarity,
  Sketch,
  solveOutline,
  withChanged,
  withoutParts,
  withParts,
} from './index.ts'

const given = (outline: Outline, values: Readonly<Record<string, number>> = {}) => ({
  values: new Map(Object.entries(values)),
  taken: new Map<string, Vec2>(),
  fields: new Map(),
  outline,
})
const solvedWith = (outline: Outline, values: Readonly<Record<string, number>> = {}) =>
  solveOutline(outline, given(outline, values))

/** A rectangle held by its sizes and by a corner 3.3 right and 7.7 up of the origin, an arc and an ellipse beside it. */
function drawing() {
  const sketch = new Sketch(emptyOutline('o'))
  const lines = sketch.rectangle({ at: [3.3, 7.7] }, { at: [23.4, 20.4] }, false)
  const wide = sketch.hold('distance', [lines[0]!], '20.1')
  const high = sketch.hold('distance', [lines[1]!], '12.7')
  const corner = sketch.outline.curves.find(({ id }) => id === lines[0])!.points[0]!
  const off = [
    sketch.hold('distance-x', ['origin', corner], '3.3'),
    sketch.hold('distance-y', ['origin', corner], '7.7'),
  ]
  const arc = sketch.arc({ at: [40, 0] }, [45, 5], { at: [50, 0] })!
  const ellipse = sketch.ellipse({ at: [60, 10] }, { at: [70, 10] }, 4.1)
  return {
    outline: sketch.outline,
    lines,
    wide,
    high,
    off,
    arc,
    ellipse,
    values: { [wide]: 20.1, [high]: 12.7, [off[0]!]: 3.3, [off[1]!]: 7.7 },
  }
}

/** Areas of the regions that nesting fills. */
const areasOf = (outline: Outline, values: Readonly<Record<string, number>>) =>
  solvedWith(outline, values).filled.map(({ area }) => Math.abs(area))

describe('parts of a drawing', () => {
  it('are copied with what holds them together, under names of their own', () => {
    const { outline, lines, values, wide, high } = drawing()
    const parts = partsOf(outline, new Set(lines))
    expect(parts.constraints.map(({ kind }) => kind).sort()).toEqual([
      'distance',
      'distance',
      'horizontal',
      'horizontal',
      'vertical',
      'vertical',
    ])
    const { outline: both, ids } = withParts(outline, parts, { about: [0, 0], by: [-40.3, 5.1] })
    expect(ids).toHaveLength(4)
    expect(new Set([...both.curves, ...both.points, ...both.constraints].map(({ id }) => id)).size).toBe(
      both.curves.length + both.points.length + both.constraints.length,
    )
    const copied = both.constraints.slice(outline.constraints.length).filter(({ kind }) => kind === 'distance')
    expect(copied.map(({ value }) => value)).toEqual(['20.1', '12.7'])
    // Each of them follows its own size.
    const all = { ...values, [copied[0]!.id]: 30, [copied[1]!.id]: 10 }
    expect(
      areasOf(both, all)
        .map((area) => Number(area.toFixed(6)))
        .sort(),
    ).toEqual([20.1 * 12.7, 300, Math.PI * 41].map((area) => Number(area.toFixed(6))).sort())
    expect([wide, high]).toHaveLength(2)
  })
  it('are moved, turned, scaled and mirrored: what would pull them back is let go, and nothing else', () => {
    const random = randomFrom(11)
    for (let i = 0; i < 60; i++) {
      const { outline, lines, values, wide, high, off } = drawing()
      const change: Similarity = {
        about: middleOf(partsOf(outline, new Set(lines))),
        by: [random() < 0.5 ? 0 : 20 * random() - 10, 15.3],
        turn: [0, 90, 180, 37.3][Math.floor(4 * random())]!,
        scale: random() < 0.5 ? 1 : 0.3 + 2 * random(),
        mirrored: random() < 0.5,
      }
      const { outline: next, letGo } = withChanged(outline, new Set(lines), change, given(outline, values))
      const scale = change.scale!
      const now = { ...values, [wide]: 20.1 * scale, [high]: 12.7 * scale }
      const after = solvedWith(next, now)
      expect(after.solution.solved).toBe(true)
      // It stands where it was put: nothing has moved in the solving.
      for (const { id, at } of next.points) expect(distance2(after.points.get(id)!, [at[0], at[1]])).toBeLessThan(1e-6)
      expect(
        after.filled
          .map(({ area }) => Math.abs(area))
          .some((area) => Math.abs(area / (20.1 * 12.7 * scale ** 2) - 1) < 1e-9),
      ).toBe(true)
      // Its own sizes still hold it; what let go was only what tied it to the origin.
      expect(next.constraints.filter(({ kind }) => kind === 'distance')).toHaveLength(2)
      expect(letGo).toBeGreaterThanOrEqual(1)
      expect(next.constraints.some(({ id }) => id === off[1])).toBe(false)
    }
  })
  it('arcs and ellipses keep their form in a mirror', () => {
    const { outline, arc, ellipse, values } = drawing()
    const length = (shown: Outline, id: string) =>
      solvedWith(shown, values)
        .drawnCurves.get(id)!
        .map((s) => (s.kind === 'arc' ? s.radius * Math.abs(s.sweepRad) : 0))
    const before = length(outline, arc)
    const { outline: after } = withChanged(
      outline,
      new Set([arc, ellipse]),
      { about: [50, 5], mirrored: true, scale: 2 },
      given(outline, values),
    )
    expect(length(after, arc)[0]).toBeCloseTo(2 * before[0]!, 9)
    expect(after.curves.find(({ id }) => id === ellipse)!.size).toBeCloseTo(8.2, 9)
  })
})

describe('sizes of rounds', () => {
  it('a distance to a circle is measured where it is nearest, from inside and outside', () => {
    const at = (values: Readonly<Record<string, number>>, make: (sketch: Sketch) => string) => {
      const sketch = new Sketch(emptyOutline('o'))
      const id = make(sketch)
      const text = Object.values(values)[0]!
      return { shown: solvedWith(sketch.outline, { [id]: text }), id }
    }
    const circles = (gap: number, other: Vec2, r: number) => {
      const made = at({ k: gap }, (sketch) => {
        const one = sketch.circle({ at: [0.1, 0.2] }, 10)
        sketch.hold('fixed', [sketch.outline.curves[0]!.points[0]!])
        sketch.hold('radius', [one], '10')
        const two = sketch.circle({ at: other }, r)
        return sketch.hold('distance', [one, two], String(gap))
      })
      const [a, b] = made.shown.outline.curves
      const [p, q] = [a, b].map((curve) => made.shown.points.get(curve!.points[0]!)!) as [Vec2, Vec2]
      const radius = (id: string) => made.shown.drawnCurves.get(id)!.map((s) => (s.kind === 'arc' ? s.radius : 0))[0]!
      return { away: distance2(p, q), r: radius(a!.id), s: radius(b!.id) }
    }
    const outside = circles(3.3, [30, 4], 5)
    expect(outside.away - outside.r - outside.s).toBeCloseTo(3.3, 6)
    const inside = circles(1.7, [2, 1], 5)
    expect(inside.r - inside.s - inside.away).toBeCloseTo(1.7, 6)
    const line = at({ k: 2.3 }, (sketch) => {
      const edge = sketch.line({ at: [-20, -15.3] }, { at: [20, -14] })
      const round = sketch.circle({ at: [0, 0] }, 6)
      return sketch.hold('distance', [edge, round], '2.3')
    })
    const edge = line.shown.drawnCurves.get('l1')![0]!
    const round = line.shown.drawnCurves.get('c1')![0]!
    if (edge.kind !== 'line' || round.kind !== 'arc') throw new Error('other curves')
    const [[ax, ay], [bx, by]] = [edge.from, edge.to]
    const off =
      Math.abs((bx - ax) * (round.centre[1] - ay) - (by - ay) * (round.centre[0] - ax)) / distance2(edge.from, edge.to)
    expect(off - round.radius).toBeCloseTo(2.3, 6)
  })
  it('the second half axis of an ellipse is a dimension', () => {
    const sketch = new Sketch(emptyOutline('o'))
    const ellipse = sketch.ellipse({ at: [0, 0] }, { at: [10, 0] }, 4)
    const id = sketch.hold('half-axis', [ellipse], '7.3')
    const [segment] = solvedWith(sketch.outline, { [id]: 7.3 }).drawnCurves.get(ellipse)!
    expect(segment?.kind === 'ellipse' ? Math.hypot(...segment.minor) : 0).toBeCloseTo(7.3, 9)
  })
  it('a curve through points goes on without one of them', () => {
    const sketch = new Sketch(emptyOutline('o'))
    const spots = [0, 1, 2, 3].map((i) => ({ at: [10 * i, i % 2 === 0 ? 0 : 4] as Vec2 }))
    const curve = sketch.spline('through', spots, false)
    const points = sketch.outline.curves[0]!.points
    const left = withoutParts(sketch.outline, new Set([points[1]!]))
    expect(left.curves.map(({ id, points: own }) => [id, own])).toEqual([[curve, [points[0], points[2], points[3]]]])
    expect(left.points).toHaveLength(3)
    expect(withoutParts(left, new Set([points[0]!, points[2]!])).curves).toEqual([])
  })
})
