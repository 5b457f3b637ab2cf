import type { Outline } from '@makrel/core/document'
import { Sketch, type Spot, solveOutline } from '@makrel/core/outline'
import { distance2, pointAt, type Vec2 } from '@makrel/core/plane'
import { runs } from '@makrel/core/testing'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { hitAt, regionAt, within } from './hit.ts'

const empty: Outline = {
  ...{ id: 'o', name: '', on: { kind: 'bed' }, points: [], curves: [], constraints: [], derived: [], toggled: [] },
}
const solve = (sketch: Sketch) =>
  solveOutline(sketch.outline, { values: new Map(), taken: new Map(), fields: new Map() })
const coordinate = fc.integer({ min: -3000, max: 3000 }).map((steps) => steps / 97)
const place = fc.tuple(coordinate, coordinate)

describe('what lies under the pointer', () => {
  it('is the nearest point, or else the nearest curve, or else an axis; nothing where all is farther away', () => {
    fc.assert(
      fc.property(fc.array(place, { minLength: 7, maxLength: 7 }), place, (places, pointer) => {
        const sketch = new Sketch(empty)
        const [a, b, c, d, e, f, g] = places.map((at) => ({ at }) as Spot) as [Spot, Spot, Spot, Spot, Spot, Spot, Spot]
        sketch.line(a, b)
        sketch.circle(c, 8.3)
        sketch.ellipse(d, e, 5.1)
        sketch.spline('through', [f, g, { at: [15.3, 1 / 3] }], false)
        const solved = solve(sketch)
        const reach = 2.1
        const away = (ids: readonly string[], of: (id: string) => number) =>
          Math.min(Number.POSITIVE_INFINITY, ...ids.map(of))
        const toPoint = (id: string) => distance2(solved.points.get(id)!, pointer)
        // By many places along the curve.
        const toCurve = (id: string) =>
          Math.min(
            ...solved.drawnCurves
              .get(id)!
              .flatMap((s) => Array.from({ length: 400 }, (_, i) => distance2(pointAt(s, i / 399), pointer))),
          )
        const points = sketch.outline.points.map(({ id }) => id)
        const curves = sketch.outline.curves.map(({ id }) => id)
        const [toPoints, toCurves] = [away(points, toPoint), away(curves, toCurve)]
        const hit = hitAt(solved, pointer, reach)
        if (toPoints <= reach) expect(hit).toEqual({ kind: 'point', id: points.find((id) => toPoint(id) === toPoints) })
        else if (Math.hypot(...pointer) <= reach) expect(hit).toEqual({ kind: 'point', id: 'origin' })
        else if (toCurves <= reach) {
          expect(hit?.kind).toBe('curve')
          expect(toCurve(hit!.id)).toBeLessThan(toCurves + 0.05)
        } else if (toCurves > reach + 0.05) {
          const [x, y] = pointer.map((value) => Math.abs(value) <= reach / 2)
          expect(hit?.id).toBe(y ? 'x-axis' : x ? 'y-axis' : undefined)
        }
      }),
      { numRuns: runs(300) },
    )
  })
  it('is the innermost region', () => {
    const sketch = new Sketch(empty)
    sketch.rectangle({ at: [-20.3, -15] }, { at: [20.3, 15.1] }, false)
    sketch.circle({ at: [3.3, 1] }, 9.7)
    sketch.circle({ at: [4, 2.2] }, 1 / 3)
    const solved = solve(sketch)
    const area = (at: Vec2) => solved.arrangement.faces.find(({ key }) => key === regionAt(solved, at))?.area
    expect(area([-19, 14])).toBeCloseTo(40.6 * 30.1 - Math.PI * 9.7 ** 2, 3)
    expect(area([3.3, -7])).toBeCloseTo(Math.PI * (9.7 ** 2 - 1 / 9), 3)
    expect(area([4.1, 2.1])).toBeCloseTo(Math.PI / 9, 3)
    expect(regionAt(solved, [21, 0])).toBeUndefined()
  })
})

it('a box takes curves that lie in it with all of their points, and points that are of none of these', () => {
  fc.assert(
    fc.property(place, place, fc.array(place, { minLength: 5, maxLength: 5 }), (from, to, places) => {
      const sketch = new Sketch(empty)
      const [a, b, c, d, alone] = places.map((at) => ({ at }) as Spot) as [Spot, Spot, Spot, Spot, Spot]
      const [one, two] = [sketch.line(a, b), sketch.line(c, d)]
      const free = sketch.point(alone)
      const solved = solve(sketch)
      const inside = (id: string) =>
        solved.points.get(id)!.every((value, k) => (value - from[k]!) * (value - to[k]!) <= 0)
      const taken = new Set(within(solved, from, to))
      const ends = (id: string) => sketch.outline.curves.find((curve) => curve.id === id)!.points
      for (const line of [one, two]) {
        expect(taken.has(line)).toBe(ends(line).every(inside))
        for (const end of ends(line)) expect(taken.has(end)).toBe(inside(end) && !taken.has(line))
      }
      expect(taken.has(free)).toBe(inside(free))
      expect(within(solved, to, from)).toEqual([...taken])
    }),
  )
})
