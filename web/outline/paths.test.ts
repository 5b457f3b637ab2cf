import { arcBetween, line, pointAt, type Segment, type Vec2 } from '@makrel/core/plane'
import fc from 'fast-check'
import { expect, it } from 'vitest'
import { pathOf } from './paths.ts'
import { type PlaneView, toScreen } from './view.ts'

/** The middle of an elliptical arc of path data, from its ends (SVG 2, appendix B.2.4). */
function middleOfArc(from: Vec2, [rx, ry, turn, large, sweep, ...to]: readonly number[]): Vec2 {
  const phi = (turn! * Math.PI) / 180
  const [c, s] = [Math.cos(phi), Math.sin(phi)]
  const [dx, dy] = [(from[0] - to[0]!) / 2, (from[1] - to[1]!) / 2]
  const [x, y] = [c * dx + s * dy, -s * dx + c * dy]
  const grow = Math.sqrt(Math.max(1, (x / rx!) ** 2 + (y / ry!) ** 2))
  const [a, b] = [rx! * grow, ry! * grow]
  const root = Math.sqrt(Math.max(0, (a * b) ** 2 - (a * y) ** 2 - (b * x) ** 2) / ((a * y) ** 2 + (b * x) ** 2))
  const side = large === sweep ? -1 : 1
  const [cx, cy] = [(side * root * a * y) / b, (-side * root * b * x) / a]
  const start = Math.atan2((y - cy) / b, (x - cx) / a)
  let swept = Math.atan2((-y - cy) / b, (-x - cx) / a) - start
  if (sweep === 1 && swept < 0) swept += 2 * Math.PI
  if (sweep === 0 && swept > 0) swept -= 2 * Math.PI
  const rad = start + swept / 2
  const [u, v] = [cx + a * Math.cos(rad), cy + b * Math.sin(rad)]
  return [c * u - s * v + (from[0] + to[0]!) / 2, s * u + c * v + (from[1] + to[1]!) / 2]
}

/** Begin, middle and end of each command that draws. */
function drawnPlaces(path: string): (readonly [Vec2, Vec2, Vec2])[] {
  const out: (readonly [Vec2, Vec2, Vec2])[] = []
  let at: Vec2 = [Number.NaN, Number.NaN]
  for (const [, command, text] of path.matchAll(/([MLAC])([^MLACZ]*)/g)) {
    const numbers = text!.trim().split(/\s+/).map(Number)
    const end: Vec2 = [numbers.at(-2)!, numbers.at(-1)!]
    if (command === 'L') out.push([at, [(at[0] + end[0]) / 2, (at[1] + end[1]) / 2], end])
    if (command === 'A') out.push([at, middleOfArc(at, numbers), end])
    if (command === 'C') {
      const [a, b, c, d] = numbers as [number, number, number, number]
      out.push([at, [(at[0] + 3 * a + 3 * c + end[0]) / 8, (at[1] + 3 * b + 3 * d + end[1]) / 8], end])
    }
    at = end
  }
  return out
}

const coordinate = fc.integer({ min: -3000, max: 3000 }).map((steps) => steps / 61)
const place = fc.tuple(coordinate, coordinate)
const turn = fc.integer({ min: -300, max: 300 }).map((tenths) => tenths / 100)
const size = fc.integer({ min: 30, max: 900 }).map((tenths) => tenths / 30)
/** Either way round, up to nearly a whole turn. */
const sweep = fc
  .integer({ min: 20, max: 590 })
  .chain((hundredths) => fc.constantFrom(hundredths / 100, -hundredths / 100))
const segments: fc.Arbitrary<Segment> = fc.oneof(
  fc.tuple(place, place).map(([from, to]) => line(from, to)),
  fc
    .tuple(place, size, turn, sweep)
    .map(([centre, radius, startRad, sweepRad]): Segment => ({ kind: 'arc', centre, radius, startRad, sweepRad })),
  fc
    .tuple(place, size, size, turn, turn, sweep, fc.constantFrom(1, -1))
    .map(([centre, a, b, rad, startRad, sweepRad, hand]): Segment => {
      const [c, s] = [Math.cos(rad), Math.sin(rad)]
      return {
        kind: 'ellipse',
        centre,
        major: [a * c, a * s],
        minor: [-b * s * hand, b * c * hand],
        startRad,
        sweepRad,
      }
    }),
  fc.tuple(place, place, place, place).map((points): Segment => ({ kind: 'cubic', points })),
)
const view: PlaneView = { centre: [7.1, -3.3], scale: 8.3, width: 1000, height: 700 }

it('each curve begins, passes and ends on the screen where it does in the plane', () => {
  fc.assert(
    fc.property(segments, (segment) => {
      const all = drawnPlaces(pathOf([segment], view))
      // What turns far is drawn in equal parts.
      const ts = Array.from({ length: 2 * all.length + 1 }, (_, i) => i / (2 * all.length))
      const found = all.flatMap((each, i) => (i === 0 ? each : each.slice(1)))
      const expected = ts.map((t) => toScreen(view, pointAt(segment, t)))
      expect(found.length).toBe(expected.length)
      for (const [i, p] of expected.entries())
        expect(Math.hypot(found[i]![0] - p[0], found[i]![1] - p[1]), `at ${ts[i]}`).toBeLessThan(0.4)
    }),
    { numRuns: 300 },
  )
})

it('a chain is one stretch, closed where it is said, and another view of it is another path', () => {
  const corner: Vec2 = [15.3, 4]
  const chain = [line([0, 0], corner), arcBetween([15.3, 9], corner, [15.3, 14], true), line([1 / 3, 0], [2, 2])]
  const path = pathOf(chain, view, true)
  expect(path.match(/M/g)).toHaveLength(2)
  expect(path.endsWith('Z')).toBe(true)
  expect(pathOf(chain, view)).toBe(path.slice(0, -1))
  expect(pathOf(chain, { ...view, scale: 4 })).not.toBe(path.slice(0, -1))
})
