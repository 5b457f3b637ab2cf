import { type Cylinder, cylinderOf, type TriangleMesh } from '../../mesh/index.ts'
import { boxOf, cross, dot, levelSides, norm, scaled, uprightSides, type Vec3 } from '../../place/index.ts'
import type { NamedFace } from '../surfaces.ts'
import { type Facet, facetsOf } from './facets.ts'

/** So many flats and so many rounds are named, the largest first. */
const mostNamed = 30
/** A flat that is named is no smaller than this share of the whole surface, or this, mm². */
const leastShare = 0.002
const leastArea = 4
/** A flat among facets that stand for a round is this many times as large as each of these. */
const muchLarger = 4
/** A round is broken into at least so many facets. */
const leastFacets = 4
/** A facet looks across an axis where its normal has less of it than this. */
const acrossAxis = 0.003
/** So many facets are looked at for walls at most, again and again: meshes of free forms have none. */
const mostLooked = 1_000_000

/**
 * How flats that look up, to the front and so on are named. By place: the outermost is "top", the next one inwards "top 2", and flats
 * that look another way are "flat 1", "flat 2", the largest first. By size: the largest is "top", all others "flat" with their number.
 */
export type FlatNames = 'place' | 'size'

/**
 * The larger flats and round walls of a mesh that came from elsewhere, as faces that steps can stand on. They depend on the mesh
 * alone, and so do their names: "top", "left 2", "flat 3", and "round 1", "bore 2" by radius. Those that are meant most often come first.
 */
export function facesOfMesh(mesh: TriangleMesh, names: FlatNames = 'place'): readonly NamedFace[] {
  const facets = facetsOf(mesh)
  const surface = facets.reduce((sum, { area }) => sum + area, 0)
  const large = (area: number) => area >= leastArea || area >= leastShare * surface
  const flat = facets.map(
    ({ area, bendsInto }) => large(area) && [...bendsInto].every((other) => area > muchLarger * facets[other]!.area),
  )
  const corners = (own: readonly Facet[]): Vec3[] => {
    const places = new Set(own.flatMap(({ triangles }) => triangles.flatMap((t) => [3 * t, 3 * t + 1, 3 * t + 2])))
    const points = new Set([...places].map((h) => mesh.triangles[h]!))
    return [...points].map(
      (v): Vec3 => [mesh.positions[3 * v]!, mesh.positions[3 * v + 1]!, mesh.positions[3 * v + 2]!],
    )
  }
  const point = (t: number): Vec3 => {
    const v = 3 * mesh.triangles[3 * t]!
    return [mesh.positions[v]!, mesh.positions[v + 1]!, mesh.positions[v + 2]!]
  }
  const wall = (own: readonly number[]) =>
    cylinderOf({
      facets: own.map((i) => ({ ...facets[i]!, at: point(facets[i]!.triangles[0]!) })),
      corners: () => corners(own.map((i) => facets[i]!)),
    })
  const walls = roundWalls(facets, flat, large, wall)
  return [
    ...namedFlats(
      facets.filter((_, i) => flat[i]),
      corners,
      names,
    ),
    ...namedRounds(walls),
  ]
}

/**
 * The walls that facets stand for, from the largest facet on: each two that bend into one another have an axis, and what hangs
 * together with them across it may be a wall. So a wall that runs on into a rounding is found without that.
 */
function roundWalls(
  facets: readonly Facet[],
  flat: readonly boolean[],
  large: (area: number) => boolean,
  wallOf: (own: readonly number[]) => Cylinder | undefined,
): readonly Cylinder[] {
  const taken = new Set<number>()
  const found: Cylinder[] = []
  let looked = 0
  /** facets beside each other across whose axis there is no wall */
  const none = new Set<number>()
  const pair = (a: number, b: number) => a * facets.length + b
  const order = facets
    .map((_, i) => i)
    .filter((i) => !flat[i] && facets[i]!.bendsInto.size > 0)
    .sort((a, b) => facets[b]!.area - facets[a]!.area)
  for (const seed of order) {
    if (taken.has(seed)) continue
    const free = (i: number) => !flat[i] && !taken.has(i)
    for (const other of facets[seed]!.bendsInto) {
      if (!free(other) || none.has(pair(seed, other)) || looked > mostLooked) continue
      const across = cross(facets[seed]!.normal, facets[other]!.normal)
      const axis = scaled(across, 1 / norm(across))
      const own = grownAcross(facets, seed, axis, free)
      looked += own.length
      const enough = own.length >= leastFacets && large(own.reduce((sum, i) => sum + facets[i]!.area, 0))
      const wall = enough ? wallOf(own) : undefined
      if (!wall) {
        const all = new Set(own)
        for (const a of own) for (const b of facets[a]!.bendsInto) if (all.has(b)) none.add(pair(a, b))
        continue
      }
      found.push(wall)
      for (const i of own) taken.add(i)
      break
    }
  }
  return found
}

/** What hangs together with a facet by facets that all look across an axis. */
function grownAcross(facets: readonly Facet[], seed: number, axis: Vec3, free: (i: number) => boolean): number[] {
  const own = [seed]
  const seen = new Set(own)
  for (let i = 0; i < own.length; i++)
    for (const other of facets[own[i]!]!.bendsInto) {
      if (seen.has(other) || !free(other) || Math.abs(dot(facets[other]!.normal, axis)) > acrossAxis) continue
      seen.add(other)
      own.push(other)
    }
  return own
}

const square: readonly (readonly [string, Vec3])[] = [
  ['top', [0, 0, 1]],
  ['bottom', [0, 0, -1]],
  ['right', [1, 0, 0]],
  ['left', [-1, 0, 0]],
  ['back', [0, 1, 0]],
  ['front', [0, -1, 0]],
]

/** Flats in one plane are one face. */
function namedFlats(
  flats: readonly Facet[],
  cornersOf: (own: readonly Facet[]) => Vec3[],
  names: FlatNames,
): readonly NamedFace[] {
  const planes = planesOf(flats).slice(0, mostNamed)
  const named = names === 'place' ? namedByPlace(planes) : namedBySize(planes)
  return named.map(([name, plane]) => {
    const { normal, offset } = plane[0]!
    return flatFace(name, wayOf(plane)?.[1] ?? normal, offset, cornersOf(plane))
  })
}

/** The largest first; alike ones in the order in which they look, whatever that of the triangles is. */
function planesOf(flats: readonly Facet[]): readonly Plane[] {
  const planes: Facet[][] = []
  for (const facet of [...flats].sort((a, b) => b.area - a.area)) {
    const same = planes.find(
      ([first]) => dot(first!.normal, facet.normal) > 1 - 1e-6 && Math.abs(first!.offset - facet.offset) < 1e-3,
    )
    if (same) same.push(facet)
    else planes.push([facet])
  }
  const area = (plane: Plane) => plane.reduce((sum, each) => sum + each.area, 0)
  const order = (plane: Plane) => [
    -Number(area(plane).toPrecision(5)),
    ...[2, 1, 0].map((i) => -Math.round(1e4 * plane[0]!.normal[i]!)),
    -Math.round(1e3 * plane[0]!.offset),
  ]
  return planes.sort((a, b) => {
    const [one, two] = [order(a), order(b)]
    return one.reduce((found, value, i) => found || value - two[i]!, 0)
  })
}

/** Facets in one plane. */
type Plane = readonly Facet[]
type NamedPlane = readonly [name: string, plane: Plane]

/** The way of the bed that a plane looks, with its word. */
const wayOf = ([first]: Plane) => square.find(([, d]) => dot(d, first!.normal) > 1 - 1e-6)

/** The outermost of all ways first, then those behind them, then what looks another way. */
function namedByPlace(planes: readonly Plane[]): readonly NamedPlane[] {
  const inwards = square.map(([name]) =>
    planes
      .filter((plane) => wayOf(plane)?.[0] === name)
      .sort(([a], [b]) => b!.offset - a!.offset)
      .map((plane, i): NamedPlane => [i === 0 ? name : `${name} ${i + 1}`, plane]),
  )
  const depth = Math.max(...inwards.map(({ length }) => length))
  return [
    ...Array.from({ length: depth }, (_, i) => inwards.flatMap((own) => own.slice(i, i + 1))).flat(),
    ...planes.filter((plane) => !wayOf(plane)).map((plane, i): NamedPlane => [`flat ${i + 1}`, plane]),
  ]
}

function namedBySize(planes: readonly Plane[]): readonly NamedPlane[] {
  const taken = new Set<string>()
  return planes.map((plane, i) => {
    const way = wayOf(plane)?.[0]
    const name = way && !taken.has(way) ? way : `flat ${i + 1}`
    taken.add(name)
    return [name, plane]
  })
}

/** In the middle of the rectangle that holds its corners; upright ones have their u level. */
function flatFace(name: string, n: Vec3, offset: number, corners: readonly Vec3[]): NamedFace {
  const across = Math.hypot(n[0], n[1])
  const u: Vec3 = across < 1e-9 ? [1, 0, 0] : [-n[1] / across, n[0] / across, 0]
  const v = cross(n, u)
  const range = boxOf(corners.map((p): Vec3 => [dot(p, u), dot(p, v), 0]))!
  const at = ([0, 1] as const).map((i) => (range.min[i] + range.max[i]) / 2) as [number, number]
  const origin = [scaled(u, at[0]), scaled(v, at[1]), scaled(n, offset)].reduce(
    (a, b): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]],
  )
  return {
    name,
    frame: { origin, u, v, n },
    size: [range.max[0] - range.min[0], range.max[1] - range.min[1]],
    sides: across < 1e-9 ? levelSides : uprightSides,
  }
}

function namedRounds(walls: readonly Cylinder[]): NamedFace[] {
  const sorted = (own: typeof walls) =>
    [...own].sort(
      (a, b) =>
        Math.abs(b.round) - Math.abs(a.round) ||
        [0, 1, 2].reduce((order, i) => order || a.frame.origin[i]! - b.frame.origin[i]!, 0),
    )
  const called = (own: typeof walls, word: string) =>
    sorted(own)
      .slice(0, mostNamed)
      .map((wall, i): NamedFace => ({ name: `${word} ${i + 1}`, ...wall, sides: uprightSides }))
  return [
    ...called(
      walls.filter(({ round }) => round > 0),
      'round',
    ),
    ...called(
      walls.filter(({ round }) => round < 0),
      'bore',
    ),
  ]
}
