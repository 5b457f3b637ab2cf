import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { distance2, minus, nearestOn, plus, pointAt, type Segment, times, type Vec2 } from '../../plane/index.ts'
import { runs } from '../../testing/sample.ts'
import { bentRef } from './define.ts'
import { near, through } from './splines.ts'

const coordinate = fc.integer({ min: -9000, max: 9000 }).map((steps) => steps / 97)
const point = fc.tuple(coordinate, coordinate)
/** Points no two of which fall together. */
const points = (least: number) =>
  fc
    .array(point, { minLength: least, maxLength: 9 })
    .filter((all) => all.every((p, i) => all.every((q, k) => i === k || distance2(p, q) > 1)))

const cubicOf = (s: Segment) => {
  if (s.kind !== 'cubic') throw new Error('not a cubic')
  return s.points
}
/** First and second derivatives at the beginning (0) or end of a piece that takes `h` of the parameter. */
function derivatives(s: Segment, end: 0 | 1, h: number): readonly [Vec2, Vec2] {
  const [a, b, c, d] = cubicOf(s)
  const first = end === 0 ? minus(b, a) : minus(d, c)
  const second = end === 0 ? minus(plus(a, c), times(b, 2)) : minus(plus(b, d), times(c, 2))
  return [times(first, 3 / h), times(second, 6 / h ** 2)]
}
const expectNear = (p: Vec2, q: Vec2, size = 1) => expect(distance2(p, q)).toBeLessThan(1e-7 * (size + 1))
const sizeOf = (p: Vec2) => Math.hypot(p[0], p[1])

/** Whether pieces go on into each other with the same direction and curvature, over parameters that grow by `h`. */
function expectSmooth(pieces: readonly Segment[], closed: boolean, h: (i: number) => number): void {
  for (const [i, piece] of pieces.entries()) {
    const after = pieces[i + 1] ?? (closed ? pieces[0] : undefined)
    if (!after) continue
    const next = pieces.indexOf(after)
    const [ends, begins] = [derivatives(piece, 1, h(i)), derivatives(after, 0, h(next))]
    expectNear(cubicOf(piece)[3], cubicOf(after)[0])
    expectNear(ends[0], begins[0], sizeOf(ends[0]))
    expectNear(ends[1], begins[1], sizeOf(ends[1]))
  }
}

describe('a curve through points', () => {
  it.each([true, false])('(closed: %s) passes them, and goes on in direction and curvature', (closed) => {
    fc.assert(
      fc.property(points(3), (all) => {
        const pieces = through(all, closed)
        expect(pieces).toHaveLength(closed ? all.length : all.length - 1)
        const h = (i: number) => Math.sqrt(distance2(all[i]!, all[(i + 1) % all.length]!))
        pieces.forEach((piece, i) => {
          expectNear(cubicOf(piece)[0], all[i]!)
          expectNear(cubicOf(piece)[3], all[(i + 1) % all.length]!)
        })
        expectSmooth(pieces, closed, h)
        if (closed) return
        // Natural: straight where it begins and ends.
        expectNear(derivatives(pieces[0]!, 0, h(0))[1], [0, 0])
        expectNear(derivatives(pieces.at(-1)!, 1, h(pieces.length - 1))[1], [0, 0])
      }),
    )
  })
})

describe('a curve near points', () => {
  it.each([true, false])('(closed: %s) goes on in direction and curvature, within their hull', (closed) => {
    fc.assert(
      fc.property(points(closed ? 4 : 5), (all) => {
        const pieces = near(all, closed)
        expect(pieces).toHaveLength(closed ? all.length : all.length - 3)
        expectSmooth(pieces, closed, () => 1)
        for (const piece of pieces)
          for (const axis of [0, 1] as const) {
            const own = cubicOf(piece).map((p) => p[axis])
            expect(Math.min(...own)).toBeGreaterThan(Math.min(...all.map((p) => p[axis])) - 1e-9)
            expect(Math.max(...own)).toBeLessThan(Math.max(...all.map((p) => p[axis])) + 1e-9)
          }
        if (closed) return
        expectNear(cubicOf(pieces[0]!)[0], all[0]!)
        expectNear(cubicOf(pieces.at(-1)!)[3], all.at(-1)!)
        // Along the way to their neighbours.
        const [a, b] = cubicOf(pieces[0]!)
        const [way, to] = [minus(b, a), minus(all[1]!, all[0]!)]
        expect(Math.abs(way[0] * to[1] - way[1] * to[0])).toBeLessThan(1e-7 * (1 + sizeOf(way) * sizeOf(to)))
      }),
    )
  })
  it('with equal steps on a line runs evenly over them', () => {
    const all = Array.from({ length: 7 }, (_, i): Vec2 => [15.3 + 2.7 * i, 1 / 3])
    for (const [i, piece] of near(all, false).slice(2, -2).entries())
      expectNear(pointAt(piece, 0.37), [15.3 + 2.7 * (i + 3 + 0.37), 1 / 3])
  })
})

describe('how far a point is from a bent curve', () => {
  it('is told of the piece that is nearest, and is positive to its left', () => {
    fc.assert(
      fc.property(points(4), point, (all, p) => {
        const x = Float64Array.from(all.flat())
        const ref = bentRef(
          all.map((_, i) => 2 * i),
          undefined,
          undefined,
          (own) => through(own, false),
        )
        const least = Math.min(...through(all, false).map((s) => nearestOn(s, p).distance))
        const apart = ref.apart(x, p)
        // Beyond an end it is told across the direction there.
        expect(Math.abs(apart)).toBeLessThan(least + 1e-6)
        const [first, last] = [all[0]!, all.at(-1)!]
        if (Math.min(distance2(p, first), distance2(p, last)) > least + 1e-6)
          expect(Math.abs(apart)).toBeCloseTo(least, 5)
      }),
      { numRuns: runs(300) },
    )
  })
})
