import { describe, expect, it } from 'vitest'
import { seeded } from '../testing/index.ts'
import {
  compose,
  cross,
  type Frame,
  inverse,
  levelSides,
  meeting,
  norm,
  type PlaceValues,
  placed,
  pointIn,
  pointOut,
  type Seating,
  turnedAbout,
  turnedZ,
  type Vec3,
  world,
} from './index.ts'

const seat: Seating = { frame: { ...world, origin: [0, 0, 10] }, size: [80, 40], sides: levelSides }
const centred = { from: 'centre', to: 'centre', by: 0 } as const
const at = (change: Partial<PlaceValues>): PlaceValues => ({
  across: centred,
  along: centred,
  rest: 'on',
  lift: 0,
  turn: 0,
  tilt: 0,
  lean: 0,
  ...change,
})
/** a block 20 × 10 × 4 about the z axis */
const block = (d: Vec3) => 10 * Math.abs(d[0]) + 5 * Math.abs(d[1]) + (d[2] > 0 ? 4 * d[2] : 0)
const origin = (values: Partial<PlaceValues>) => placed(seat, at(values), block, 'on-underside').origin

describe('placing on a face', () => {
  it('centres by default and rests on the face', () => expect(origin({})).toEqual([0, 0, 10]))
  it.each([
    ['low', 'near', 5, -40 + 5 + 10],
    ['low', 'centre', 5, -40 + 5],
    ['low', 'far', 5, -40 + 5 - 10],
    ['high', 'near', 5, 40 - 5 - 10],
    ['high', 'centre', 5, 40 - 5],
    ['high', 'far', 5, 40 - 5 + 10],
    ['centre', 'near', 5, 5 + 10],
    ['centre', 'centre', 5, 5],
    ['centre', 'far', 5, 5 - 10],
  ] as const)('from %s to %s', (from, to, by, x) => {
    expect(origin({ across: { from, to, by } })[0]).toBeCloseTo(x, 12)
  })
  it('has the middle of what is tilted anyhow where it is asked for', () => {
    const random = seeded(17)
    for (let i = 0; i < 200; i++) {
      const [turn, tilt, lean] = [360 * random(), 180 * random(), 180 * random()]
      const by = 30 * random()
      const from = (['low', 'centre', 'high'] as const)[i % 3]!
      const frame = placed(seat, at({ turn, tilt, lean, across: { from, to: 'middle', by } }), block, 'on-underside')
      const reach = (d: Vec3) =>
        block([0, 1, 2].map((k) => d[0] * [frame.u, frame.v, frame.n][k]![0]!) as unknown as Vec3)
      const middle = frame.origin[0] + (reach([1, 0, 0]) - reach([-1, 0, 0])) / 2
      expect(middle).toBeCloseTo({ low: -40 + by, centre: by, high: 40 - by }[from], 9)
    }
  })
  it('sets cutting shapes flush into the face', () => {
    expect(origin({ rest: 'in' })[2]).toBe(6)
    expect(origin({ rest: 'in', lift: 1 })[2]).toBe(7)
  })
  it('measures to the true edge of a turned shape', () => {
    expect(origin({ turn: 90, across: { from: 'low', to: 'near', by: 0 } })[0]).toBeCloseTo(-40 + 5, 12)
    const diagonal = (10 + 5) / Math.SQRT2
    expect(origin({ turn: 45, across: { from: 'low', to: 'near', by: 0 } })[0]).toBeCloseTo(-40 + diagonal, 12)
  })
  it('stands a tilted shape on its lowest edge', () => {
    expect(origin({ tilt: 30 })[2]).toBeCloseTo(10 + 5 * Math.sin(Math.PI / 6), 12)
  })
  it('keeps centred shapes centred under any size of the seat', () => {
    const random = seeded(3)
    for (let i = 0; i < 50; i++) {
      const sized: Seating = { ...seat, size: [random() * 500, random() * 500] }
      expect(placed(sized, at({ turn: 0 }), block, 'on-underside').origin).toEqual([0, 0, 10])
    }
  })
})

describe('frames', () => {
  const random = seeded(11)
  const any = (): Frame => turnedAbout([random() * 9, random() * 9, random() * 9], [0, 0, 1], random() * 360)
  it('are undone by their inverse', () => {
    for (let i = 0; i < 50; i++) {
      const f = compose(any(), turnedAbout([1, 2, 3], [0, 1, 0], random() * 360))
      const p: Vec3 = [random(), random(), random()]
      const back = pointOut(inverse(f), pointOut(f, p))
      expect(norm([back[0] - p[0], back[1] - p[1], back[2] - p[2]])).toBeLessThan(1e-12)
      expect(norm([pointIn(f, pointOut(f, p))[0] - p[0], 0, 0])).toBeLessThan(1e-12)
      const n = cross(f.u, f.v)
      expect(norm([n[0] - f.n[0], n[1] - f.n[1], n[2] - f.n[2]])).toBeLessThan(1e-12)
    }
  })
  it('turn by exact quarters', () => {
    expect(turnedZ(90).u).toEqual([0, 1, 0])
    expect(turnedZ(-270).u).toEqual([0, 1, 0])
  })
  it('keep the axis of a turn in place', () => {
    const f = turnedAbout([5, 0, 4.5], [0, -1, 0], 73)
    const p = pointOut(f, [5, 12, 4.5])
    expect(p[0]).toBeCloseTo(5, 12)
    expect(p[2]).toBeCloseTo(4.5, 12)
  })
})

describe('the product across two vectors', () => {
  it('is square to both, as long as the area between them, and turns with them', () => {
    const random = seeded(7)
    for (let i = 0; i < 50; i++) {
      const [a, b] = [0, 1].map(() => [random() - 0.5, random() - 0.5, random() - 0.5] as const) as [Vec3, Vec3]
      const across = cross(a, b)
      const dotted = (p: Vec3, q: Vec3) => p[0] * q[0] + p[1] * q[1] + p[2] * q[2]
      expect(dotted(across, a)).toBeCloseTo(0, 12)
      expect(dotted(across, b)).toBeCloseTo(0, 12)
      expect(norm(across)).toBeCloseTo(Math.sqrt(dotted(a, a) * dotted(b, b) - dotted(a, b) ** 2), 9)
    }
    expect(cross([1, 0, 0], [0, 1, 0])).toEqual([0, 0, 1])
  })
})

describe('what two boxes share', () => {
  const box = (low: Vec3, high: Vec3) => ({ min: low, max: high })
  const one = box([0.3, -2.1, 5.7], [15.3, 8.5, 9.1])
  it('is where they overlap, larger by a gap on each side', () => {
    const other = box([12.7, 3.3, 2], [85.1, 37.3, 7.7])
    expect(meeting(one, other)).toEqual(box([12.7, 3.3, 5.7], [15.3, 8.5, 7.7]))
    expect(meeting(one, other, 0.5)).toEqual(box([12.2, 2.8, 5.2], [15.8, 9, 8.2]))
  })
  it.each([0, 1, 2])('is nothing where they are farther apart than two gaps, along axis %d', (axis) => {
    const apart = (by: number) => {
      const moved = (v: Vec3) => v.map((x, i) => (i === axis ? x + one.max[axis]! - one.min[axis]! + by : x)) as never
      return box(moved(one.min), moved(one.max))
    }
    expect(meeting(one, apart(0.01))).toBeUndefined()
    expect(meeting(one, apart(-0.01))).toBeDefined()
    expect(meeting(one, apart(2.61), 1.3)).toBeUndefined()
    expect(meeting(one, apart(2.59), 1.3)).toBeDefined()
    expect(meeting(apart(2.61), one, 1.3)).toBeUndefined()
  })
})
