import fc from 'fast-check'
import { expect, it } from 'vitest'
import type { Ring } from '../../kernel/index.ts'
import { areApart } from './apart.ts'

const rectangle = (x: number, y: number, w: number, h: number): Ring => [
  [x, y],
  [x + w, y],
  [x + w, y + h],
  [x, y + h],
]
const size = fc.integer({ min: 1, max: 300 }).map((steps) => steps / 16)
const place = fc.integer({ min: -900, max: 900 }).map((steps) => steps / 16)
const rectangles = fc.tuple(place, place, size, size)
/** How far a point lies to the left of an edge. */
const left = (
  [ax, ay]: readonly [number, number],
  [bx, by]: readonly [number, number],
  [x, y]: readonly [number, number],
) => ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / Math.hypot(bx - ax, by - ay)

it('a rectangle is within a convex outline where all of its corners are', () => {
  const border: Ring = [
    [-40, -31.3],
    [37.3, -28],
    [44, 15.3],
    [0, 41],
    [-47.1, 8],
  ]
  let [within, outside] = [0, 0]
  fc.assert(
    fc.property(rectangles, ([x, y, w, h]) => {
      const tool = rectangle(x, y, w, h)
      const clearance = Math.min(
        ...tool.flatMap((p) => border.map((a, i) => left(a, border[(i + 1) % border.length]!, p))),
      )
      if (Math.abs(clearance) < 1e-5) return
      if (clearance > 0) within++
      else outside++
      expect(areApart([border], [tool])).toBe(clearance > 0)
    }),
    { numRuns: 2000 },
  )
  expect(Math.min(within, outside)).toBeGreaterThan(200)
})

it('rectangles are apart where they share nothing, in whatever order they come', () => {
  const border = rectangle(-100, -100, 200, 200)
  fc.assert(
    fc.property(fc.array(rectangles, { minLength: 2, maxLength: 5 }), (all) => {
      const meets = all.some(([x, y, w, h], i) =>
        all.slice(i + 1).some(([p, q, v, u]) => x <= p + v && p <= x + w && y <= q + u && q <= y + h),
      )
      const tools = all.map((each) => rectangle(...each))
      expect(areApart([border], tools)).toBe(!meets)
      expect(areApart([border], tools.toReversed())).toBe(!meets)
    }),
    { numRuns: 500 },
  )
})

it('none is within an outline that comes into it, has a hole, or is none', () => {
  const bay: Ring = [
    [-20, -20],
    [20, -20],
    [20, 20],
    [1, 20],
    [0.3, -3.3],
    [-1, 20],
    [-20, 20],
  ]
  expect(areApart([bay], [rectangle(-5, -15, 10, 10)])).toBe(true)
  expect(areApart([bay], [rectangle(-5, -15, 10, 13)])).toBe(false)
  expect(areApart([bay, rectangle(5, 5, 2, 2)], [rectangle(-5, -15, 10, 10)])).toBe(false)
  expect(areApart([], [rectangle(0, 0, 1, 1)])).toBe(false)
})
