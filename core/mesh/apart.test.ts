import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  add,
  compose,
  cross,
  type Frame,
  inverse,
  norm,
  pointOut,
  scaled,
  subtract,
  turnedAbout,
  unit,
  type Vec3,
  world,
} from '../place/index.ts'
import { testKernel } from '../testing/index.ts'
import { real, runs } from '../testing/sample.ts'
import { ahead, apart } from './apart.ts'
import { nearestOfTriangles, type Triangle } from './near.ts'
import { TriangleTree } from './tree.ts'

const kernel = await testKernel()

const coordinate = fc.integer({ min: -2000, max: 2000 }).map((steps) => steps / 97)
const point = fc.tuple(coordinate, coordinate, coordinate)
const triangle = fc.tuple(point, point, point).filter(([a, b, c]) => norm(cross(subtract(b, a), subtract(c, a))) > 1)
const several = fc.array(triangle, { minLength: 1, maxLength: 30 })
const frame = fc
  .tuple(point, point, fc.integer({ min: -1800, max: 1800 }))
  .filter(([, axis]) => norm(axis) > 1)
  .map(([at, axis, angle]): Frame => ({ ...turnedAbout([0, 0, 0], unit(axis), angle / 10), origin: at }))
const soup = (triangles: readonly Triangle[]) =>
  new TriangleTree({
    positions: Float64Array.from(triangles.flat(2)),
    triangles: Uint32Array.from({ length: 3 * triangles.length }, (_, i) => i),
  })
const placed = (triangles: readonly Triangle[], motion: Frame) =>
  triangles.map((each) => each.map((p) => pointOut(motion, p)) as unknown as Triangle)

describe('how far two surfaces are apart', () => {
  it('is what asking every pair of triangles gives, wherever the second one has moved, and from either side', () => {
    fc.assert(
      fc.property(several, several, frame, (ones, others, motion) => {
        const moved = placed(others, motion)
        let gap = Number.POSITIVE_INFINITY
        for (const m of ones) for (const n of moved) gap = Math.min(gap, nearestOfTriangles(m, n).distance)
        const [a, b] = [soup(ones), soup(others)]
        const found = apart(a, b, { frame: motion })!
        expect(found.distance).toBeCloseTo(gap, 7)
        expect(norm(subtract(found.to, found.from))).toBeCloseTo(gap, 7)
        // Both ends lie on the triangles that are named.
        const [one, other] = found.triangles
        expect(nearestOfTriangles(ones[one]!, [found.from, found.from, found.from]).distance).toBeLessThan(1e-6)
        expect(nearestOfTriangles(moved[other]!, [found.to, found.to, found.to]).distance).toBeLessThan(1e-6)
        const back = apart(b, a, { frame: inverse(motion) })!
        expect(back.distance).toBeCloseTo(gap, 7)
        // From a pair that may be the nearest or not it comes to the same.
        for (const start of [found.triangles, [ones.length - 1, 0] as const])
          expect(apart(a, b, { frame: motion, start })!.distance).toBeCloseTo(gap, 7)
        // Nothing is found beyond what is looked at, and all that is within.
        if (gap > 0.01) {
          expect(apart(a, b, { frame: motion, within: gap * 0.99 })).toBeUndefined()
          expect(apart(a, b, { frame: motion, within: gap * 1.01 })!.distance).toBeCloseTo(gap, 7)
          expect(apart(a, b, { frame: motion, within: gap * 0.99, start: found.triangles })).toBeUndefined()
        }
      }),
      { numRuns: runs(300) },
    )
  })
  it('is 0 where a corner has gone through a face, at a place of both', () => {
    const plate = soup([
      [
        [-9, -9, 0],
        [9, -9, 0],
        [0, 12, 0],
      ],
    ])
    const spike: Triangle = [
      [0.3, 0.1, -1],
      [0.2, 4, 7],
      [1.3, -3, 8],
    ]
    const found = apart(plate, soup([spike]))!
    expect(found.distance).toBe(0)
    expect(found.from).toEqual(found.to)
    expect(found.from[2]).toBeCloseTo(0, 9)
    // Drawn out again it is as far away as it was drawn.
    const out: Frame = { ...world, origin: [0, 0, 1.37] }
    expect(apart(plate, soup([spike]), { frame: out })!.distance).toBeCloseTo(0.37, 9)
    const through: Frame = { ...world, origin: [0, 0, -0.37] }
    expect(apart(soup([spike]), plate, { frame: through })!.distance).toBe(0)
  })
  it('of nothing is not to be found', () => {
    const some = soup([[world.u, world.v, world.n]])
    expect(apart(soup([]), some)).toBeUndefined()
    expect(apart(some, soup([]), { frame: turnedAbout([0, 0, 0], [0, 0, 1], 37.3) })).toBeUndefined()
  })
  it('is the gap between two solids as the kernel has it, through a whole turn', () => {
    kernel.scope((scope) => {
      const bar = scope.cylinder(15.3, 8.3, 8.3, 96)
      const tree = new TriangleTree(bar.mesh())
      let start: readonly [number, number] | undefined
      for (let turn = 0; turn < 360; turn += 37.3) {
        const motion: Frame = {
          ...compose(turnedAbout([0, 0, 0], [0, 0.6, 0.8], turn), turnedAbout([0, 0, 0], [1, 0, 0], 15.3)),
          origin: add([20.7, 3.1, -4], [turn / 40, 0, 0]) as Vec3,
        }
        const found = apart(tree, tree, { frame: motion, start, within: 100 })!
        expect(found.distance).toBeCloseTo(bar.gapTo(scope.placed(bar, motion), 100), 5)
        start = found.triangles
      }
    })
  })
})

describe('how far one surface may go on', () => {
  const tight = 0.02
  const ways = fc
    .tuple(real(-1, 1), real(-1, 1), real(-1, 1))
    .filter((d) => norm(d) > 0.1)
    .map((d) => unit(d))
  it('leads it nowhere nearer than is too near, wherever both stand, and is told where they are so already', () => {
    fc.assert(
      fc.property(several, several, frame, ways, real(0.5, 60), (ones, others, motion, way, most) => {
        const [a, b] = [soup(ones), soup(others)]
        const awayAt = (gone: number) =>
          apart(a, b, { frame: { ...motion, origin: add(motion.origin, scaled(way, gone)) } })!.distance
        const { clear, met } = ahead(a, b, { frame: motion, way, tight, most })
        expect(met !== undefined).toBe(awayAt(0) < tight)
        if (met) return
        expect(clear).toBeGreaterThanOrEqual(tight)
        expect(clear).toBeLessThanOrEqual(Math.max(most, tight))
        // By no more than `tight` it runs into nothing; farther it goes only where nothing comes near.
        if (clear > tight)
          for (const share of [0.07, 0.31, 0.5, 0.83, 1])
            expect(awayAt(share * clear)).toBeGreaterThanOrEqual(tight - 1e-6)
      }),
      { numRuns: runs(1000) },
    )
  })
  it('is all the way at once along what it lies in, and to where something is in the way', () => {
    kernel.scope((scope) => {
      const bar = (radius: number, height: number, from: number, sides: number) =>
        scope.placed(scope.cylinder(height, radius, radius, sides), { ...world, origin: [0, 0, from] })
      const block = scope.difference(bar(6.1, 40.3, -20.15, 4), [bar(3.2, 99, -49, 64)])
      const pin = bar(3.1, 37.3, -18.65, 48)
      const [bore, own] = [new TriangleTree(block.mesh()), new TriangleTree(pin.mesh())]
      const way: Vec3 = [0, 0, 1]
      const from: Frame = { ...world, origin: [0.003, -0.011, -17.9] }
      expect(ahead(bore, own, { frame: from, way, tight, most: 60.3 }).clear).toBe(60.3)
      const lid = scope.union([block, bar(6.1, 2, 29.7, 4)])
      // Its end is at 0.75, the lid begins at 29.7.
      expect(ahead(new TriangleTree(lid.mesh()), own, { frame: from, way, tight, most: 60.3 }).clear).toBeCloseTo(
        29.7 - 0.75 - tight,
        3,
      )
    })
  })
})
