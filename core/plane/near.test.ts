import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { real } from '../testing/sample.ts'
import { type Box2, boxesMeet, distance2, meetingPairs, PointsNear, type Vec2 } from './index.ts'

const coordinate = real(-40, 40)
const point = fc.tuple(coordinate, coordinate) as fc.Arbitrary<Vec2>
const nearby = fc.tuple(real(-1.5, 1.5), real(-1.5, 1.5))

describe('points near one another', () => {
  it('are found where one is no farther than asked, and nowhere else', () => {
    fc.assert(
      fc.property(fc.array(point, { maxLength: 30 }), point, nearby, real(0.01, 3), (points, p, [dx, dy], within) => {
        const known = new PointsNear<number>(within)
        for (const [i, at] of points.entries()) known.put(at, i)
        for (const at of [p, ...points.map(([x, y]): Vec2 => [x + dx * within, y + dy * within])]) {
          const near = points.filter((other) => distance2(other, at) <= within)
          const found = known.near(at)
          expect(found === undefined ? near.length === 0 : near.includes(points[found]!)).toBe(true)
        }
      }),
    )
  })
  it('give what was put there first', () => {
    const known = new PointsNear<string>(0.5)
    known.put([1, 1], 'first')
    known.put([1.1, 1], 'second')
    expect(known.near([1.05, 1])).toBe('first')
  })
})

describe('boxes that meet', () => {
  const box = fc
    .tuple(point, fc.tuple(real(0, 20), real(0, 20)))
    .map(([min, [x, y]]): Box2 => ({ min, max: [min[0] + x, min[1] + y] }))
  it('are those of all pairs that do, in order', () => {
    fc.assert(
      fc.property(fc.array(box, { maxLength: 25 }), real(0, 2), (boxes, within) => {
        const all = boxes.flatMap((one, i) =>
          boxes.flatMap((other, k) => (k > i && boxesMeet(one, other, within) ? [[i, k]] : [])),
        )
        expect(meetingPairs(boxes, within)).toEqual(all)
      }),
    )
  })
})
