import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { add, cross, dot, norm, scaled, subtract, unit, type Vec3 } from '../place/index.ts'
import { testKernel } from '../testing/index.ts'
import { real } from '../testing/sample.ts'
import { apart } from './apart.ts'
import type { TriangleMesh } from './define.ts'
import { nearestOfTriangles, nearestOnTriangle, type Triangle } from './near.ts'
import { TriangleTree } from './tree.ts'

const kernel = await testKernel()

const coordinate = fc.integer({ min: -2000, max: 2000 }).map((steps) => steps / 97)
const point = fc.tuple(coordinate, coordinate, coordinate)
const triangle = fc.tuple(point, point, point).filter(([a, b, c]) => norm(cross(subtract(b, a), subtract(c, a))) > 1)
const share = fc.integer({ min: 0, max: 1000 }).map((thousandths) => thousandths / 1000)
/** Any place on a triangle, by two shares. */
const on = ([a, b, c]: Triangle, s: number, t: number): Vec3 => {
  const [x, y] = s + t > 1 ? [1 - s, 1 - t] : [s, t]
  return add(a, add(scaled(subtract(b, a), x), scaled(subtract(c, a), y)))
}
/** Whether a point lies on a triangle, to a millionth of a mm. */
const liesOn = (p: Vec3, [a, b, c]: Triangle) => {
  const n = unit(cross(subtract(b, a), subtract(c, a)))
  const sides = [
    [a, b],
    [b, c],
    [c, a],
  ] as const
  return (
    Math.abs(dot(n, subtract(p, a))) < 1e-6 &&
    sides.every(([m, o]) => dot(n, cross(unit(subtract(o, m)), subtract(p, m))) > -1e-6)
  )
}

describe('what is nearest on triangles', () => {
  it('to a point lies on the triangle, and no place on it is nearer', () => {
    fc.assert(
      fc.property(triangle, point, share, share, (one, p, s, t) => {
        const found = nearestOnTriangle(p, one)
        expect(liesOn(found, one)).toBe(true)
        expect(norm(subtract(found, p))).toBeLessThanOrEqual(norm(subtract(on(one, s, t), p)) + 1e-9)
      }),
      { numRuns: 1000 },
    )
  })
  it('to each other lies on both, no two places are nearer, and moving one away by less leaves them apart', () => {
    fc.assert(
      fc.property(triangle, triangle, share, share, share, share, (one, other, s, t, q, r) => {
        const { distance, from, to } = nearestOfTriangles(one, other)
        expect(liesOn(from, one)).toBe(true)
        expect(liesOn(to, other)).toBe(true)
        expect(norm(subtract(to, from))).toBeCloseTo(distance, 9)
        expect(distance).toBeLessThanOrEqual(norm(subtract(on(one, s, t), on(other, q, r))) + 1e-9)
        // What lies nearest lies so for both: from each end the other one is the nearest place.
        expect(norm(subtract(nearestOnTriangle(from, other), from))).toBeCloseTo(distance, 6)
        expect(norm(subtract(nearestOnTriangle(to, one), to))).toBeCloseTo(distance, 6)
        expect(nearestOfTriangles(other, one).distance).toBeCloseTo(distance, 9)
      }),
      { numRuns: 1000 },
    )
  })
  it('are where they go through each other, even if no corner is near', () => {
    const flat: Triangle = [
      [-20, -15.3, 0],
      [20, -15.3, 0],
      [0, 30, 0],
    ]
    const upright: Triangle = [
      [0.1, 0, -9],
      [0.1, 1 / 3, 9],
      [0.1, 4, 9],
    ]
    const { distance, from } = nearestOfTriangles(flat, upright)
    expect(distance).toBe(0)
    expect(liesOn(from, flat) && liesOn(from, upright)).toBe(true)
  })
})

const soup = (triangles: readonly Triangle[]): TriangleMesh => ({
  positions: Float64Array.from(triangles.flat(2)),
  triangles: Uint32Array.from({ length: 3 * triangles.length }, (_, i) => i),
})

/** Whether each of two triangles has corners on both sides of the other's plane, farther from it than `by`. */
const passesBy = (one: Triangle, other: Triangle, by: number) =>
  [
    [one, other],
    [other, one],
  ].every((pair) => {
    const [moving, [a, b, c]] = pair as [Triangle, Triangle]
    const n = unit(cross(subtract(b, a), subtract(c, a)))
    const away = moving.map((p) => dot(n, subtract(p, a)))
    return Math.min(...away) < -by && Math.max(...away) > by
  })

describe('a tree of triangles', () => {
  it('finds what asking every triangle finds', () => {
    const several = fc.array(triangle, { minLength: 1, maxLength: 40 })
    fc.assert(
      fc.property(several, several, point, coordinate, (ones, others, p, away) => {
        const moved = others.map((each) => each.map((q) => add(q, [2 * away, 0, 0])) as unknown as Triangle)
        const [a, b] = [new TriangleTree(soup(ones)), new TriangleTree(soup(moved))]
        const toPoint = Math.min(...ones.map((each) => norm(subtract(nearestOnTriangle(p, each), p))))
        expect(a.nearest(p)!.distance).toBeCloseTo(toPoint, 9)
        // Nothing is found beyond what is looked at.
        if (toPoint > 0.01) expect(a.nearest(p, toPoint * 0.99)).toBeUndefined()
        const gap = Math.min(...ones.flatMap((m) => moved.map((n) => nearestOfTriangles(m, n).distance)))
        expect(apart(a, b)!.distance).toBeCloseTo(gap, 9)
      }),
    )
  })
  it('finds what a stretch first goes through, past what is at its beginning', () => {
    kernel.scope((scope) => {
      const tube = scope.difference(scope.cylinder(10, 20, 20, 64), [scope.cylinder(10, 15, 15, 64)])
      const tree = new TriangleTree({ positions: tube.corners(), triangles: tube.mesh().triangles })
      fc.assert(
        fc.property(real(0, 6.28), real(0.3, 9.7), (turn, z) => {
          const way: Vec3 = [Math.cos(turn), Math.sin(turn), 0]
          const at = (r: number): Vec3 => add(scaled(way, r), [0, 0, z])
          const crossed = tube.crossings(at(0), way)
          expect(tree.first(at(0), at(40), 0)!.far).toBeCloseTo(crossed[0]!, 6)
          const wall = tree.first(at(crossed[0]!), at(40), 1e-3)
          expect(wall!.far).toBeCloseTo(crossed[1]! - crossed[0]!, 6)
          expect(tree.first(at(0), at(14.9), 0)).toBeUndefined()
          expect(tree.first(at(21), at(40), 0)).toBeUndefined()
        }),
        { numRuns: 200 },
      )
    })
  })
  it('says whether it runs into itself: where two triangles do, also those that share a corner', () => {
    fc.assert(
      fc.property(fc.array(triangle, { minLength: 2, maxLength: 12 }), (all) => {
        const deep = all.some((one, i) =>
          all.some((other, k) => k < i && nearestOfTriangles(one, other).distance === 0 && passesBy(one, other, 0.01)),
        )
        expect(new TriangleTree(soup(all)).crossesItself(0.01)).toBe(deep)
      }),
      { numRuns: 500 },
    )
    const cone = kernel.scope((scope) => scope.cylinder(15.3, 8.3, 0, 48).mesh())
    expect(new TriangleTree(cone).crossesItself(1e-4)).toBe(false)
    // Two of its triangles through each other, but at a corner that they share.
    const fan: Vec3[] = [
      [0, 0, 0],
      [9, -3, 0],
      [9, 3, 0],
      [9, 0, -3],
      [9, 0, 3],
    ]
    const positions = Float64Array.from(fan.flat())
    const shared = new TriangleTree({ positions, triangles: Uint32Array.of(0, 1, 2, 0, 3, 4) })
    expect(shared.crossesItself(1e-4)).toBe(true)
    // Side by side round it they do not.
    const beside = new TriangleTree({ positions, triangles: Uint32Array.of(0, 1, 3, 0, 2, 4) })
    expect(beside.crossesItself(1e-4)).toBe(false)
  })
  it('of nothing is near nothing', () => {
    const none = new TriangleTree(soup([]))
    expect(none.nearest([0, 0, 0])).toBeUndefined()
  })
})
