import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { halfEdgeTwins, twinsOfSheet } from '../mesh/index.ts'
import { turnedAbout, type Vec3, world } from '../place/index.ts'
import { real, runs, testKernel } from '../testing/index.ts'
import type { Scope, Solid } from './index.ts'

const kernel = await testKernel()

/** The same solid, given as a mesh. */
function given(scope: Scope, solid: Solid): Solid {
  const mesh = solid.mesh()
  return scope.inRuns(solid.corners(), mesh.triangles, mesh.runs)
}

/** Closed triangles of tetrahedra over these points, four each. */
function tetrahedra(...all: readonly (readonly [number, number, number, number])[]): Uint32Array {
  return Uint32Array.from(
    all
      .flatMap(([a, b, c, d]) => [
        [a, c, b],
        [a, b, d],
        [b, c, d],
        [c, a, d],
      ])
      .flat(),
  )
}
const points = Float64Array.from(
  [
    [0, 0, 0],
    [15.3, 0, 0],
    [0, 8.51, 0],
    [0, 0, 3.3],
    [-7, -9, -4],
    [-8, 2, -5],
    [-9, -1, 3],
    [1, -9, -2],
    [30, 30, 30],
  ].flat(),
)
const made = (scope: Scope, triangles: Uint32Array, own = points) =>
  scope.inRuns(own, triangles, [{ original: scope.reserved(), from: 0, frame: world, inverted: false }])

describe('a solid that comes as a mesh', () => {
  const size = real(2, 60)
  it('has the figures that the library has of it, before and after it is taken in', () => {
    fc.assert(
      fc.property(size, size, real(-180, 180), fc.tuple(real(-90, 90), real(-90, 90)), (wide, far, angle, [x, y]) => {
        kernel.scope((scope) => {
          const ball = scope.cylinder(wide, far / 2, far / 3, 24)
          const turned = scope.placed(ball, turnedAbout([x, y, 1 / 3], [0, 0.6, 0.8], angle))
          const first = scope.original(turned).solid
          const second = scope.original(scope.placed(first, { ...world, origin: [wide / 3, 0, 0.7] })).solid
          const whole = scope.union([first, second])
          const own = given(scope, whole)
          const check = () => {
            expect(own.volume() / whole.volume()).toBeCloseTo(1, 10)
            expect(own.area() / whole.area()).toBeCloseTo(1, 10)
            expect(own.bounds()).toEqual(whole.bounds())
            expect(own.triangleCount()).toBe(whole.triangleCount())
            expect(own.bodies()).toBe(whole.bodies())
            expect([...own.corners()]).toEqual([...whole.corners()])
            expect([...own.mesh().triangles]).toEqual([...whole.mesh().triangles])
            expect(own.mesh().runs.map(({ from, to, original }) => [from, to, original])).toEqual(
              whole.mesh().runs.map(({ from, to, original }) => [from, to, original]),
            )
          }
          check()
          const slab = scope.placed(scope.cylinder(1, 400, 400, 8), { ...world, origin: [0, 0, 0.4] })
          const [cut, wanted] = [own, whole].map((each) => scope.difference(each, [slab])) as [Solid, Solid]
          expect(cut.volume() / wanted.volume()).toBeCloseTo(1, 10)
          expect(cut.triangleCount()).toBe(wanted.triangleCount())
          expect(new Set(cut.mesh().runs.map(({ original }) => original))).toEqual(
            new Set(wanted.mesh().runs.map(({ original }) => original)),
          )
          check()
        })
      }),
      { numRuns: runs(60) },
    )
    expect(kernel.live).toBe(0)
  })

  it('has its corners moved by their places in its own mesh', () => {
    kernel.scope((scope) => {
      const own = made(scope, tetrahedra([0, 1, 2, 3]))
      const moved = scope.shifted(own, new Map<number, Vec3>([[3, [0, 0, 3.3]]]))
      expect(moved.volume()).toBeCloseTo(2 * own.volume(), 9)
      expect(scope.union([moved]).volume()).toBeCloseTo((15.3 * 8.51 * 6.6) / 6, 9)
      // The one that it was made from stays.
      expect(own.volume()).toBeCloseTo((15.3 * 8.51 * 3.3) / 6, 9)
    })
  })

  it('has no points that are of no triangle', () => {
    kernel.scope((scope) => {
      const own = made(scope, tetrahedra([0, 1, 2, 3]))
      expect(own.corners().length).toBe(12)
      expect(own.bounds()).toEqual({ min: [0, 0, 0], max: [15.3, 8.51, 3.3] })
    })
  })

  it('keeps each corner where it belongs, of a hundred thousand as well', () => {
    kernel.scope((scope) => {
      const drum = scope.cylinder(15.3, 85.1, 37.3, 50_000)
      expect(scope.union([given(scope, drum)]).volume() / drum.volume()).toBeCloseTo(1, 12)
    })
  })

  it('is empty where it has no triangles', () => {
    kernel.scope((scope) => {
      const none = scope.inRuns(new Float64Array(), new Uint32Array(), [])
      expect([none.isEmpty(), none.bounds(), none.volume()]).toEqual([true, undefined, 0])
    })
  })

  it('is refused where it is not closed, or a place is no number', () => {
    kernel.scope((scope) => {
      expect(() => made(scope, tetrahedra([0, 1, 2, 3]).slice(0, 9))).toThrow()
      const broken = points.slice()
      broken[4] = Number.NaN
      expect(() => made(scope, tetrahedra([0, 1, 2, 3]), broken)).toThrow()
    })
    expect(kernel.live).toBe(0)
  })

  it('is left to the library where sheets touch', () => {
    kernel.scope((scope) => {
      // Two that share a corner: there are two of it in the end.
      expect(made(scope, tetrahedra([0, 1, 2, 3], [0, 4, 6, 5])).mesh().positions.length / 3).toBe(8)
      // Two that share an edge.
      expect(made(scope, tetrahedra([0, 1, 2, 3], [0, 3, 6, 4])).bodies()).toBe(2)
    })
  })
})

describe('the twins of a surface of one sheet', () => {
  const twinsOf = (triangles: Uint32Array) => twinsOfSheet({ positions: points, triangles })
  it('are those of its half-edges', () => {
    const one = tetrahedra([0, 1, 2, 3])
    expect(twinsOf(one)).toEqual(halfEdgeTwins({ positions: points, triangles: one }))
    expect(twinsOf(tetrahedra([0, 1, 2, 3], [4, 5, 6, 7]))).toBeDefined()
  })
  it('are not told where it is open, or sheets share a corner, an edge or a triangle', () => {
    expect(twinsOf(tetrahedra([0, 1, 2, 3]).slice(0, 9))).toBeUndefined()
    expect(twinsOf(tetrahedra([0, 1, 2, 3], [0, 4, 6, 5]))).toBeUndefined()
    expect(twinsOf(tetrahedra([0, 1, 2, 3], [0, 3, 6, 4]))).toBeUndefined()
    expect(twinsOf(tetrahedra([0, 1, 2, 3], [0, 1, 2, 3]))).toBeUndefined()
    expect(twinsOf(Uint32Array.from([...tetrahedra([0, 1, 2, 3]), 4, 4, 5, 4, 5, 4]))).toBeUndefined()
  })
})
