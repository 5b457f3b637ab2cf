import fc from 'fast-check'
import { expect, it } from 'vitest'
import { add, cross, dot, norm, scaled, subtract, unit, type Vec3 } from '../place/index.ts'
import { real } from '../testing/sample.ts'
import { cylinderOf } from './cylinder.ts'

const walls = fc.record({
  ...{ turn: real(0, 2 * Math.PI), lean: real(0, Math.PI), roll: real(0, 2 * Math.PI), radius: real(0.4, 60) },
  ...{
    high: real(0.5, 90),
    arc: real(70, 300),
    isWhole: fc.boolean(),
    isBore: fc.boolean(),
    flats: fc.integer({ min: 24, max: 96 }),
  },
  at: fc.tuple(real(-90, 90), real(-90, 90), real(-90, 90)),
})

/** Facets of a round wall: its corners lie on the round, to the last digit. */
function wallOf({
  turn,
  lean,
  roll,
  radius,
  high,
  arc,
  isWhole,
  isBore,
  flats,
  at,
}: typeof walls extends fc.Arbitrary<infer T> ? T : never) {
  const axis: Vec3 = [Math.sin(lean) * Math.cos(turn), Math.sin(lean) * Math.sin(turn), Math.cos(lean)]
  const side = unit(cross(axis, Math.abs(axis[2]) < 0.7 ? [0, 0, 1] : [1, 0, 0]))
  const other = cross(axis, side)
  const out = (angle: number) => add(scaled(side, Math.cos(angle)), scaled(other, Math.sin(angle)))
  const wide = isWhole ? 2 * Math.PI : (arc * Math.PI) / 180
  const angle = (i: number) => roll + (wide * i) / flats
  const corner = (i: number, k: number): Vec3 => add(add(at, scaled(out(angle(i)), radius)), scaled(axis, k * high))
  const facets = Array.from({ length: flats }, (_, i) => ({
    normal: scaled(out(angle(i + 0.5)), isBore ? -1 : 1),
    at: corner(i, 0),
    area: 1,
  }))
  const corners = () => Array.from({ length: flats + 1 }, (_, i) => [corner(i, 0), corner(i, 1)]).flat()
  return { facets, corners, axis, wide, middle: angle(flats / 2), out }
}

it('finds the cylinder of a round wall, wherever it leans, from outside and as a bore', () => {
  fc.assert(
    fc.property(walls, (wall) => {
      const { facets, corners, axis, wide, middle, out } = wallOf(wall)
      const found = cylinderOf({ facets, corners })!
      const { frame, round, size } = found
      expect(Math.abs(round - (wall.isBore ? -1 : 1) * wall.radius)).toBeLessThan(1e-5 * wall.radius + 1e-5)
      expect(Math.abs(dot(frame.v, axis))).toBeCloseTo(1, 6)
      for (const [a, b] of [
        [frame.u, frame.v],
        [frame.v, frame.n],
        [frame.n, frame.u],
      ] as const)
        expect([norm(a), dot(a, b)].map((x) => Math.round(x * 1e8) / 1e8 + 0)).toEqual([1, 0])
      expect(dot(cross(frame.u, frame.v), frame.n)).toBeCloseTo(1, 8)
      // Its origin lies on the wall, half way up, and looks out of the material.
      const half = add(wall.at, scaled(axis, wall.high / 2))
      expect(norm(subtract(frame.origin, half))).toBeCloseTo(wall.radius, 3)
      expect(dot(subtract(frame.origin, half), axis)).toBeCloseTo(0, 3)
      expect(norm(subtract(subtract(frame.origin, half), scaled(frame.n, round)))).toBeLessThan(1e-4)
      // Of what goes on round it is in the middle.
      if (!wall.isWhole)
        expect(norm(subtract(frame.origin, add(half, scaled(out(middle), wall.radius))))).toBeLessThan(2e-3)
      expect(size[0] / (wall.radius * wide)).toBeCloseTo(1, 3)
      expect(size[1]).toBeCloseTo(wall.high, 3)
    }),
    { numRuns: 300 },
  )
})

it('finds none where corners stand off the round by more than they may, or the wall goes round less than 60°', () => {
  const wall = {
    turn: 0.7,
    lean: 1.1,
    roll: 0.3,
    radius: 15.3,
    high: 8.1,
    arc: 200,
    isWhole: false,
    isBore: false,
    flats: 40,
    at: [3.1, -2.7, 8.9] as [number, number, number],
  }
  const { facets, corners } = wallOf(wall)
  const off = (mm: number) => () => corners().map((p, i) => (i === 7 ? add(p, scaled(facets[3]!.normal, mm)) : p))
  // 0.005 of the radius and 0.01 mm; the circle nearest to all goes along by a little.
  expect(cylinderOf({ facets, corners: off(0.08) })).toBeDefined()
  expect(cylinderOf({ facets, corners: off(0.1) })).toBeUndefined()
  for (const [arc, isOne] of [
    [58, false],
    [62, true],
  ] as const) {
    const part = wallOf({ ...wall, arc })
    expect([arc, cylinderOf(part) !== undefined]).toEqual([arc, isOne])
  }
})
