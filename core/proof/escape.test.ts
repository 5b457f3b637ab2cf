import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type TriangleMesh, TriangleTree } from '../mesh/index.ts'
import { add, cross, dot, norm, perpendicular, scaled, turnedAbout, unit, type Vec3, world } from '../place/index.ts'
import { real, runs, testKernel } from '../testing/index.ts'
import { freestWays, type MovedSurface, wayAlong } from './escape.ts'

const kernel = await testKernel()

/** A block between two corners. */
type Block = readonly [low: Vec3, high: Vec3]

/** Blocks as one surface, less others. */
function surfaceOf(blocks: readonly Block[], less: readonly Block[] = []): MovedSurface {
  return kernel.scope((scope) => {
    const solid = ([low, high]: Block) => {
      const [x, y, z] = [high[0] - low[0], high[1] - low[1], high[2] - low[2]]
      const flat = scope.extrude(
        [
          [
            [0, 0],
            [x, 0],
            [x, y],
            [0, y],
          ],
        ],
        z,
      )
      return scope.placed(flat, { ...world, origin: low })
    }
    const whole = scope.difference(scope.union(blocks.map(solid)), less.map(solid))
    return { tree: new TriangleTree(whole.mesh() as TriangleMesh), box: whole.bounds()! }
  })
}

const body = surfaceOf([
  [
    [0, 0, 0],
    [10.3, 8.1, 6.7],
  ],
])
const all: Block = [
  [-20, -20, -20],
  [30, 30, 30],
]
/** A pocket round the body with so much play at each side; where it is none, it is open there. */
function pocket(play: { readonly low: Vec3; readonly high: Vec3 }): MovedSurface {
  const low = [0, 1, 2].map((i) => -play.low[i]!) as unknown as Vec3
  const high = [10.3, 8.1, 6.7].map((size, i) => size + play.high[i]!) as unknown as Vec3
  return surfaceOf([all], [[low, high]])
}
const open = 60
const leadsAlong = (ways: readonly Vec3[], way: Vec3) => ways.some((each) => dot(each, way) > 0.9999)

describe('ways in which a body is least in the way', () => {
  it('go out of a pocket at its open side, also where it has two millimetres more play at its floor', () => {
    const from = pocket({ low: [0.1, 0.3, 2], high: [0.4, 0.6, open] })
    expect(leadsAlong(freestWays(from, body, world), [0, 0, 1])).toBe(true)
  })
  it('go by the nearest alone where what is farther holds it from all sides', () => {
    // It lies on its floor; half a millimetre about it there are walls, and a lid over it.
    const lidded = pocket({ low: [0.3, 0.3, 0.1], high: [0.3, 0.3, 0.4] })
    expect(leadsAlong(freestWays(lidded, body, world), [0, 0, 1])).toBe(true)
    // The walls as near as the floor, and the lid 1.5 mm over it.
    const under = pocket({ low: [0.1, 0.3, 0.2], high: [0.4, 0.4, 1.6] })
    expect(leadsAlong(freestWays(under, body, world), [0, 0, 1])).toBe(true)
  })
  it('are none where it is held as tightly from all sides', () => {
    expect(freestWays(pocket({ low: [0.1, 0.1, 0.1], high: [0.1, 0.1, 0.1] }), body, world)).toEqual([])
  })
  it('are not kept by corners beyond the mouth, which are nearest to what has a wall nearer to it', () => {
    // A bore that goes on for a millimetre beyond the body; at its mouth it ends.
    const from = surfaceOf(
      [
        [
          [-20, -20, -20],
          [11.3, 30, 30],
        ],
      ],
      [
        [
          [-0.1, -0.1, -0.1],
          [20, 8.2, 6.8],
        ],
      ],
    )
    expect(leadsAlong(freestWays(from, body, world), [1, 0, 0])).toBe(true)
  })
  it('are the same however all of it is turned', () => {
    const from = pocket({ low: [0.1, 0.3, 1.2], high: [0.4, 0.6, open] })
    const turn = turnedAbout([3.1, -2.7, 1 / 3], unit([1, 2, 3]), 37.3)
    const turned: MovedSurface = kernel.scope(() => {
      const { positions, triangles } = from.tree.nodes.mesh
      const moved = Float64Array.from(positions)
      for (let i = 0; i < moved.length; i += 3) {
        const p = add(
          turn.origin,
          add(scaled(turn.u, positions[i]!), add(scaled(turn.v, positions[i + 1]!), scaled(turn.n, positions[i + 2]!))),
        )
        moved.set(p, i)
      }
      return { tree: new TriangleTree({ positions: moved, triangles }), box: from.box }
    })
    expect(leadsAlong(freestWays(turned, body, turn), turn.n)).toBe(true)
  })
  it('are nothing of what is far away', () => {
    expect(freestWays(pocket({ low: [9, 9, 9], high: [9, 9, 9] }), body, world)).toEqual([])
  })
})

/** Directions round a way, each leaning towards it by so much; `heavy` of them on one side. */
function round(way: Vec3, lean: number, heavy: number): Vec3[] {
  const u = perpendicular(way)
  const v = cross(way, u)
  const at = (angle: number) =>
    unit(add(add(scaled(u, Math.cos(angle)), scaled(v, Math.sin(angle))), scaled(way, Math.tan(lean))))
  const angles = [...Array.from({ length: 48 }, (_, i) => (2 * Math.PI * i) / 48), ...Array(heavy).fill(0.3)]
  return angles.map(at)
}

describe('a way that goes against none of some directions', () => {
  const way = fc.tuple(real(-1, 1), real(-1, 1), real(-1, 1)).filter((v) => norm(v) > 0.1)
  it('is found where there is hardly more than one, from wherever most of them point', () => {
    fc.assert(
      fc.property(way, real(0.001, 1), fc.integer({ min: 0, max: 400 }), (to, degrees, heavy) => {
        const directions = round(unit(to), (degrees * Math.PI) / 180, heavy)
        const found = wayAlong(directions)
        expect(found).toBeDefined()
        // What is left leads less than what does not get past into it, over the 20 cm of a bed.
        expect(Math.min(...directions.map((each) => dot(each, found!)))).toBeGreaterThan(-1.01e-4)
      }),
      { numRuns: runs(1000) },
    )
  })
  it('is found between walls that stand at any angles, few or many of them', () => {
    const wall = fc.record({
      angle: real(0, 2 * Math.PI),
      degrees: real(0.002, 2),
      count: fc.integer({ min: 1, max: 60 }),
    })
    fc.assert(
      fc.property(way, fc.array(wall, { minLength: 2, maxLength: 9 }), (to, walls) => {
        const n = unit(to)
        const u = perpendicular(n)
        const v = cross(n, u)
        const directions = walls.flatMap(({ angle, degrees, count }) => {
          const out = add(scaled(u, Math.cos(angle)), scaled(v, Math.sin(angle)))
          return Array<Vec3>(count).fill(unit(add(out, scaled(n, Math.tan((degrees * Math.PI) / 180)))))
        })
        const found = wayAlong(directions)
        expect(found).toBeDefined()
        expect(Math.min(...directions.map((each) => dot(each, found!)))).toBeGreaterThan(-1.01e-4)
      }),
      { numRuns: runs(3000) },
    )
  })
  it('is none where they point to all sides', () => {
    fc.assert(
      fc.property(way, real(1.5, 60), fc.integer({ min: 0, max: 40 }), (to, degrees, heavy) => {
        const out = round(unit(to), (degrees * Math.PI) / 180, heavy)
        expect(wayAlong([...out, ...out.map((each) => scaled(each, -1))])).toBeUndefined()
      }),
      { numRuns: runs(300) },
    )
  })
})
