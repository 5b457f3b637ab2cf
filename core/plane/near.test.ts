import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Box2, boxesMeet, distance2, meetingPairs, PointsNear, type Vec2 } from './index.ts'

const coordinate = fc.double({ min: -40, max: 40, noNaN: true })
const point = fc.tuple(coordinate, coordinate) as fc.Arbitrary<Vec2>
const nearby = fc.tuple(
  fc.double({ min: -1.5, max: 1.5, noNaN: true }),
  fc.double({ min: -1.5, max: 1.5, noNaN: true }),
)

describe('points near one another', () => {
  it('are found where one is no farther than asked, and nowhere else', () => {
    fc.assert(
      fc.property(
        fc.array(point, { maxLength: 30 }),
        point,
        nearby,
        fc.double({ min: 0.01, max: 3, noNaN: true }),
        (points, p, [dx, dy], within) => {
          const known = new PointsNear<number>(within)
          for (const [i, at] of points.entries()) known.put(at, i)
          for (const at of [p, ...points.map(([x, y]): Vec2 => [x + dx * within, y + dy * within])]) {
            const near = points.filter((other) => distance2(other, at) <= within)
            const found = known.near(at)
            expect(found === undefined ? near.length === 0 : near.includes(points[found]!)).toBe(true)
          }
        },
      ),
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
    .tuple(point, fc.tuple(fc.double({ min: 0, max: 20, noNaN: true }), fc.double({ min: 0, max: 20, noNaN: true })))
    .map(([min, [x, y]]): Box2 => ({ min, max: [min[0] + x, min[1] + y] }))
  it('are those of all pairs that do, in order', () => {
    fc.assert(
      fc.property(fc.array(box, { maxLength: 25 }), fc.double({ min: 0, max: 2, noNaN: true }), (boxes, within) => {
        const all = boxes.flatMap((one, i) =>
          boxes.flatMap((other, k) => (k > i && boxesMeet(one, other, within) ? [[i, k]] : [])),
        )
        expect(meetingPairs(boxes, within)).toEqual(all)
      }),
    )
  })
})
