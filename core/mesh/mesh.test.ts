import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { pointOut, turnedAbout, unit } from '../place/index.ts'
import { randomFrom } from '../testing/outlines.ts'
import {
  halfEdgeTwins,
  inertiaAbout,
  massOf,
  meshFigures,
  shellsOf,
  skinEdges,
  type TriangleMesh,
  tidied,
  welded,
} from './index.ts'
import { plainShells } from './plainShells.ts'

const corners = [0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1]
const tetra = { positions: new Float64Array(corners), triangles: new Uint32Array([0, 2, 1, 0, 1, 3, 1, 2, 3, 0, 3, 2]) }
const far = (by: number) => ({ ...tetra, positions: tetra.positions.map((x) => x + by) })

/** A cube with this side, its middle on the x axis. */
function cube(x: number, side: number): TriangleMesh {
  const at = (i: number, bit: number) => (i & bit ? side / 2 : -side / 2)
  const positions = Float64Array.from({ length: 24 }, (_, k) => {
    const i = Math.floor(k / 3)
    return k % 3 === 0 ? x + at(i, 1) : k % 3 === 1 ? at(i, 2) : at(i, 4)
  })
  const faces = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ] as const
  return { positions, triangles: Uint32Array.from(faces.flatMap(([a, b, c, d]) => [a, b, c, a, c, d])) }
}
const turnedOver = ({ positions, triangles }: TriangleMesh): TriangleMesh => ({
  positions,
  triangles: Uint32Array.from(triangles).reverse(),
})
const shifted = ({ positions, triangles }: TriangleMesh, ...by: readonly [number, number, number]): TriangleMesh => ({
  positions: Float64Array.from(positions, (p, i) => p + by[i % 3]!),
  triangles,
})
function joinedOf(...meshes: readonly TriangleMesh[]): TriangleMesh {
  let vertices = 0
  const triangles = meshes.flatMap((mesh) => {
    const own = [...mesh.triangles].map((v) => v + vertices)
    vertices += mesh.positions.length / 3
    return own
  })
  return {
    positions: Float64Array.from(meshes.flatMap(({ positions }) => [...positions])),
    triangles: Uint32Array.from(triangles),
  }
}

describe('figures of a mesh', () => {
  it('of a tetrahedron: a sixth, wherever it stands', () => {
    const figures = meshFigures(far(1000))
    expect(figures).toMatchObject({
      closed: true,
      oriented: true,
      solids: 1,
      openEdges: 0,
      flippedEdges: 0,
      triangles: 4,
    })
    expect(figures.volume).toBeCloseTo(1 / 6, 10)
    expect(figures.area).toBeCloseTo(1.5 + Math.sqrt(3) / 2, 10)
    expect(figures.max).toEqual([1001, 1001, 1001])
  })
  it('of an open one', () => {
    const figures = meshFigures({ ...tetra, triangles: tetra.triangles.subarray(3) })
    expect(figures).toMatchObject({ closed: false, oriented: false, openEdges: 3 })
  })
  it('of one with a triangle turned over', () => {
    const triangles = Uint32Array.from(tetra.triangles)
    triangles.set([0, 1, 2], 0)
    expect(meshFigures({ ...tetra, triangles })).toMatchObject({ closed: true, oriented: false, flippedEdges: 3 })
  })
  it('of one that is inside out', () => {
    const figures = meshFigures({ ...tetra, triangles: Uint32Array.from(tetra.triangles).reverse() })
    expect(figures).toMatchObject({ closed: true, oriented: false })
    expect(figures.volume).toBeCloseTo(-1 / 6, 10)
  })
  it('of two', () => {
    const positions = new Float64Array([...tetra.positions, ...far(5).positions])
    const triangles = new Uint32Array([...tetra.triangles, ...tetra.triangles.map((v) => v + 4)])
    expect(meshFigures({ positions, triangles })).toMatchObject({ solids: 2, oriented: true })
  })
  it('of shells in shells: bodies and cavities by what lies in what', () => {
    // A body, its cavity, a body in that, its cavity, and one more body; beside them a lone one.
    const nest = joinedOf(
      cube(0, 50),
      turnedOver(cube(0.3, 40.7)),
      cube(-0.2, 30.1),
      turnedOver(cube(0.1, 20)),
      cube(0, 9.7),
      cube(90, 10),
    )
    const figures = meshFigures(nest)
    expect(figures).toMatchObject({ closed: true, oriented: true, solids: 4 })
    expect(figures.cavities.map(Math.round).sort((a, b) => a - b)).toEqual([8000, Math.round(40.7 ** 3)])
    expect(figures.volume).toBeCloseTo(50 ** 3 - 40.7 ** 3 + 30.1 ** 3 - 20 ** 3 + 9.7 ** 3 + 1000, 6)
    expect(shellsOf(nest).shells.map(({ depth, within }) => [depth, within])).toEqual([
      [0, -1],
      [1, 0],
      [2, 1],
      [3, 2],
      [4, 3],
      [0, -1],
    ])
    // A cavity that faces outwards would be filled by some programs and not by others.
    expect(meshFigures(joinedOf(cube(0, 50), cube(0, 20))).oriented).toBe(false)
  })
  it('of bodies that touch in an edge or a corner only: two, welded or not', () => {
    const beside = (x: number, y: number, z: number) => joinedOf(cube(0, 10), shifted(cube(0, 10), x, y, z))
    for (const two of [beside(10, 10, 0), beside(10, 10, 10), beside(0, 10, -10)])
      for (const mesh of [two, welded(two)]) expect(meshFigures(mesh)).toMatchObject({ solids: 2, oriented: true })
    // Two cavities that touch along an edge have one wall: material goes on from one to the other there.
    const cavities = joinedOf(cube(0, 50), turnedOver(cube(0, 10)), turnedOver(shifted(cube(0, 10), 10, 10, 0)))
    expect(meshFigures(welded(cavities))).toMatchObject({
      solids: 1,
      cavities: [expect.closeTo(2000, 9)],
      oriented: true,
    })
  })
  it('of bodies that touch in edges: as many however they lie', () => {
    const cubes = joinedOf(cube(0, 2), shifted(cube(0, 2), 2, 2, 0), shifted(cube(0, 2), -2, 2, 0))
    const one = meshFigures(welded(cubes))
    expect(one).toMatchObject({ solids: 3, cavities: [], closed: true, oriented: true })
    const random = randomFrom(11)
    for (let i = 0; i < 60; i++) {
      const axis = unit([random() - 0.5, random() - 0.5, random() - 0.5])
      const turn = turnedAbout([random() * 9, 1 / 3, -15.3], axis, 360 * random())
      const points = cubes.positions.length / 3
      const positions = Float64Array.from(
        Array.from({ length: points }, (_, k) => {
          const p = cubes.positions.slice(3 * k, 3 * k + 3)
          return pointOut(turn, [p[0]!, p[1]!, p[2]!])
        }).flat(),
      )
      // Turned, what fell together lies apart by the last digit.
      const turned = {
        positions: Float64Array.from(positions, (x) => Math.round(x * 1e6) / 1e6),
        triangles: cubes.triangles,
      }
      const figures = meshFigures(welded(turned))
      expect(figures).toMatchObject({ solids: 3, cavities: [], closed: true, oriented: true })
      expect(figures.volume).toBeCloseTo(24, 3)
    }
  })
  it('of none', () => {
    expect(meshFigures({ positions: new Float64Array(), triangles: new Uint32Array() })).toMatchObject({
      closed: false,
      oriented: false,
      solids: 0,
      volume: 0,
      min: [0, 0, 0],
    })
  })
})

it('welds equal corners and drops what collapses', () => {
  const loose = {
    positions: new Float64Array([...tetra.triangles].flatMap((v) => corners.slice(3 * v, 3 * v + 3))),
    triangles: Uint32Array.from({ length: 12 }, (_, i) => i),
  }
  expect(meshFigures(loose).closed).toBe(false)
  expect(meshFigures(welded(loose)).oriented).toBe(true)
  const collapsed = { positions: new Float64Array([0, 0, 0, -0, 0, 0, 1, 1, 1]), triangles: new Uint32Array([0, 1, 2]) }
  expect(welded(collapsed).triangles).toHaveLength(0)
})

describe('slivers', () => {
  /** Twice the least area of a triangle, mm². */
  const lowest = ({ positions, triangles }: TriangleMesh) => {
    let least = Number.POSITIVE_INFINITY
    for (let t = 0; t < triangles.length; t += 3) {
      const [p, q, r] = [0, 1, 2].map((i) => positions.slice(3 * triangles[t + i]!, 3 * triangles[t + i]! + 3))
      const [u, v] = [q!.map((x, i) => x - p![i]!), r!.map((x, i) => x - p![i]!)]
      const twice = Math.hypot(
        u[1]! * v[2]! - u[2]! * v[1]!,
        u[2]! * v[0]! - u[0]! * v[2]!,
        u[0]! * v[1]! - u[1]! * v[0]!,
      )
      least = Math.min(least, twice)
    }
    return least
  }
  /** A cube squeezed flat: `thin` mm high. */
  const squeezed = (thin: number, z: number): TriangleMesh => {
    const { positions, triangles } = cube(0, 15.3)
    return { positions: positions.map((x, i) => (i % 3 === 2 ? z + (x > 0 ? thin : 0) : x)), triangles }
  }
  it('are no bodies, and leave in no file', () => {
    for (const thin of [1e-6, -1e-6]) {
      const mesh = joinedOf(cube(0, 85.1), squeezed(thin, 200.123))
      expect(meshFigures(mesh)).toMatchObject({ solids: 1, cavities: [], oriented: true })
      const left = tidied(mesh)
      expect(left.triangles.length).toBe(36)
      expect(meshFigures(left).volume).toBeCloseTo(85.1 ** 3, 0)
    }
  })
  it('leave whichever way they lie', () => {
    // The corner m lies on the edge from a to b: what stands on that from the other side is a sliver.
    const [a, b, c, d] = [
      [0, 0, 0],
      [15.3, 0, 0],
      [0, 14.1, 0],
      [0, 0, 13.7],
    ]
    const triangles = Uint32Array.from([0, 2, 4, 4, 2, 1, 0, 4, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3])
    const random = randomFrom(7)
    for (let i = 0; i < 40; i++) {
      // A turn by a random quaternion.
      const q = Array.from({ length: 4 }, () => random() - 0.5)
      const size = Math.hypot(...q)
      const [w, x, y, z] = q.map((each) => each / size) as [number, number, number, number]
      const turned = ([px, py, pz]: readonly number[]) => [
        (1 - 2 * (y * y + z * z)) * px! + 2 * (x * y - w * z) * py! + 2 * (x * z + w * y) * pz!,
        2 * (x * y + w * z) * px! + (1 - 2 * (x * x + z * z)) * py! + 2 * (y * z - w * x) * pz!,
        2 * (x * z - w * y) * px! + 2 * (y * z + w * x) * py! + (1 - 2 * (x * x + y * y)) * pz!,
      ]
      const off = [3.3, -7.1, 12.9]
      const positions = Float64Array.from(
        [a!, b!, c!, d!, [7.1, 0, 0]].flatMap((p) => turned(p).map((coordinate, k) => coordinate + off[k]!)),
      )
      expect(meshFigures({ positions, triangles })).toMatchObject({ closed: true, oriented: true })
      const left = tidied({ positions, triangles })
      expect(lowest(left)).toBeGreaterThan(1)
      expect(meshFigures(left).volume).toBeCloseTo((15.3 * 14.1 * 13.7) / 6, 3)
    }
  })
  it('leave one after another where they lie beside one another', () => {
    const [a, b, c, d, m1, m2, m3] = [0, 1, 2, 3, 4, 5, 6]
    const pyramid: TriangleMesh = {
      positions: new Float64Array([
        ...[0, 0, 0, 15.3, 0, 0, 0, 15.3, 0, 0, 0, 15.3],
        // On the edge from a to b.
        ...[3.3, 0, 0, 7.65, 0, 0, 12, 0, 0],
      ]),
      triangles: Uint32Array.from(
        [
          ...[a, c, m1, m1, c, m2, m2, c, m3, m3, c, b],
          ...[a, m1, m2, a, m2, m3, a, m3, b],
          ...[a, b, d, a, d, c, b, c, d],
        ].flat(),
      ),
    }
    expect(meshFigures(pyramid)).toMatchObject({ closed: true, oriented: true })
    const left = tidied(pyramid)
    expect(lowest(left)).toBeGreaterThan(1)
    expect(meshFigures(left)).toMatchObject({ closed: true, oriented: true, solids: 1 })
    expect(meshFigures(left).volume).toBeCloseTo(15.3 ** 3 / 6, 3)
  })
  it('are triangles back to back, from whatever corner each is told', () => {
    // Between two blocks side by side lies a wall of both, that falls together in single precision.
    const near = 15.3 + 1e-9
    const pair = joinedOf(cube(0, 15.3), shifted(cube(0, 15.3), near, 0, 0))
    for (let i = 0; i < 3; i++)
      for (let k = 0; k < 3; k++) {
        const turned = pair.triangles.map((_, h) => {
          const t = h - (h % 3)
          return pair.triangles[t + ((h + (t < pair.triangles.length / 2 ? i : k)) % 3)]!
        })
        const left = tidied({ ...pair, triangles: turned })
        expect(left.triangles.length / 3).toBe(20)
        expect(meshFigures(left)).toMatchObject({ solids: 1, closed: true, oriented: true })
      }
  })
  it('are not what is only thin', () => {
    const mesh = joinedOf(cube(0, 85.1), squeezed(0.02, 200.123))
    expect(meshFigures(mesh).solids).toBe(2)
    expect(tidied(mesh).triangles.length).toBe(72)
  })
})

describe('edges of skins', () => {
  it('are those at which a surface turns right back, and not those of what is only thin', () => {
    const blade = (thin: number, size = 1): TriangleMesh => ({
      positions: Float64Array.from([0, 0, 0, 8.3, 0, 0, 1.7, 5.1, 0, 3.3, 2.1, thin].map((x) => x * size)),
      triangles: new Uint32Array([0, 2, 1, 0, 1, 3, 1, 2, 3, 2, 0, 3]),
    })
    // Three triangles lie on one.
    expect(skinEdges(blade(0))).toBe(3)
    expect(skinEdges(shifted(blade(0), 15.3, -7.1, 1 / 3))).toBe(3)
    for (const mesh of [blade(1e-3), blade(-1e-3), tetra, joinedOf(cube(0, 3), cube(5, 1))])
      expect(skinEdges(mesh)).toBe(0)
    // What is this small is only rounded.
    expect(skinEdges(blade(0, 0.01))).toBe(0)
  })
})

describe('bodies that touch', () => {
  /** How many triangles each edge has, by its vertices. */
  const shared = ({ triangles }: TriangleMesh) => {
    const counts = new Map<string, number>()
    for (let t = 0; t < triangles.length; t += 3)
      for (let i = 0; i < 3; i++) {
        const [a, b] = [triangles[t + i]!, triangles[t + ((i + 1) % 3)]!]
        const key = a < b ? `${a} ${b}` : `${b} ${a}`
        counts.set(key, (counts.get(key) ?? 0) + 1)
      }
    return new Set(counts.values())
  }
  it('in an edge or a corner share no vertex in a file, and stay what they are', () => {
    const one = cube(0, 15.3)
    for (const z of [0, 15.3]) {
      const both = welded(joinedOf(one, shifted(one, 15.3, 15.3, z)))
      expect(both.positions.length / 3).toBeLessThan(16)
      const left = tidied(both)
      expect(left.positions.length / 3).toBe(16)
      expect(shared(left)).toEqual(new Set([2]))
      expect(meshFigures(left)).toMatchObject({ solids: 2, closed: true, oriented: true })
      expect(meshFigures(left).volume).toBeCloseTo(2 * 15.3 ** 3, 2)
    }
  })
  it('only then: what is one body keeps its vertices', () => {
    const left = tidied(cube(3, 85.1))
    expect(left.positions.length / 3).toBe(8)
    expect(shared(left)).toEqual(new Set([2]))
  })
})

describe('what runs back along an edge', () => {
  it('is nothing at the edges of a single triangle', () => {
    expect([...halfEdgeTwins({ positions: corners, triangles: new Uint32Array([0, 1, 2]) })]).toEqual([-1, -1, -1])
    expect([...halfEdgeTwins({ positions: corners, triangles: new Uint32Array([3, 2, 1, 0, 2, 3]) })]).toEqual([
      4, -1, -1, -1, 0, -1,
    ])
  })
})

describe('shells of plain solids', () => {
  /** Other names for the vertices, and the triangles in another order, each begun at another corner. */
  const stirred = ({ positions, triangles }: TriangleMesh, seed: number): TriangleMesh => {
    const random = randomFrom(seed)
    const mixed = (count: number) =>
      Array.from({ length: count }, (_, i) => [random(), i] as const)
        .sort(([a], [b]) => a - b)
        .map(([, i]) => i)
    const name = mixed(positions.length / 3)
    const moved = new Float64Array(positions.length)
    for (let i = 0; i < positions.length; i++) moved[3 * name[Math.floor(i / 3)]! + (i % 3)] = positions[i]!
    const order = mixed(triangles.length / 3).flatMap((t) => {
      const turn = Math.floor(3 * random())
      return [0, 1, 2].map((i) => name[triangles[3 * t + ((i + turn) % 3)]!]!)
    })
    return { positions: moved, triangles: Uint32Array.from(order) }
  }

  it('are what hangs together across edges, numbered as they first come', () => {
    fc.assert(
      fc.property(fc.array(fc.boolean(), { minLength: 1, maxLength: 6 }), fc.integer(), (kinds, seed) => {
        const mesh = stirred(joinedOf(...kinds.map((isCube, i) => (isCube ? cube(20 * i, 1 / 3) : tetra))), seed)
        const { shellOf, shells } = plainShells(mesh)!
        expect(shells).toBe(kinds.length)
        const sizes = new Uint32Array(shells)
        for (const shell of shellOf) sizes[shell]!++
        expect([...sizes].sort()).toEqual(kinds.map((isCube) => (isCube ? 12 : 4)).sort())
        // Neighbours are of one shell, and with these sizes nothing else is.
        halfEdgeTwins(mesh).forEach((back, h) => {
          expect(shellOf[Math.floor(back / 3)]).toBe(shellOf[Math.floor(h / 3)])
        })
        let seen = 0
        for (const shell of shellOf) if (shell >= seen) expect(shell).toBe(seen++)
      }),
      { numRuns: 200, seed: 3 },
    )
  })
  it('are none where four faces share an edge, one is missing or one is turned over, in whatever order they come', () => {
    // Another one that hangs on the edge from 0 to 1.
    const two = {
      positions: new Float64Array([...corners, 0, -1, 0, 0, 0, -1]),
      triangles: new Uint32Array([...tetra.triangles, 0, 4, 1, 0, 1, 5, 1, 4, 5, 0, 5, 4]),
    }
    const [a, b, c, ...rest] = cube(3, 85.1).triangles
    const over = { ...cube(3, 85.1), triangles: Uint32Array.from([b!, a!, c!, ...rest]) }
    const missing = { ...cube(3, 85.1), triangles: Uint32Array.from(rest) }
    const bitten = { ...tetra, triangles: Uint32Array.from([...tetra.triangles, 2, 2, 3, 2, 3, 2]) }
    expect(plainShells({ ...two, triangles: two.triangles.slice(12) })).toBeDefined()
    for (let seed = 0; seed < 60; seed++) {
      for (const mesh of [two, over, missing, bitten]) expect(plainShells(stirred(mesh, seed))).toBeUndefined()
    }
  })
})

describe('the moment of inertia of a block', () => {
  it('is that of its closed form about any line, however it lies', () => {
    const random = randomFrom(11)
    const [a, b, c] = [3.1, 5.7, 9.3]
    const block = { ...cube(0, 1), positions: cube(0, 1).positions.map((x, i) => x * [a, b, c][i % 3]!) }
    for (let i = 0; i < 12; i++) {
      const turned = turnedAbout([1, -2, 0.5], unit([random() - 0.5, random() - 0.5, random()]), 360 * random())
      const positions = new Float64Array(block.positions.length)
      for (let k = 0; k < positions.length; k += 3)
        positions.set(pointOut(turned, [block.positions[k]!, block.positions[k + 1]!, block.positions[k + 2]!]), k)
      const mass = massOf({ positions, triangles: block.triangles })
      const own = unit([random() - 0.5, random() - 0.5, random() - 0.5])
      const way = [0, 1, 2].map((k) => turned.u[k]! * own[0] + turned.v[k]! * own[1] + turned.n[k]! * own[2])
      const squares = [a, b, c].map((x) => x ** 2 / 12) as [number, number, number]
      const across = squares[0] + squares[1] + squares[2] - own.reduce((sum, x, k) => sum + x * x * squares[k]!, 0)
      const found = inertiaAbout(mass, pointOut(turned, [0, 0, 0]), way as never)
      expect(found / (a * b * c * across)).toBeCloseTo(1, 6)
    }
  })
})
