import type { ClosedSurface, Surface } from '../edges/index.ts'
import type { Scope } from '../kernel/index.ts'
import { bordersOf, nextHalfEdge, TriangleTree } from '../mesh/index.ts'
import { add, cross, dot, norm, perpendicular, scaled, subtract, type Vec3 } from '../place/index.ts'
import { hardlyTurned, runsOn, stretchAt } from './slabs.ts'

/** A surface whose vertices have moved. */
export interface Moved extends ClosedSurface {
  /** the triangle of the surface that each of its own comes from */
  readonly sources: readonly number[]
  /** the triangle of the surface that what is nearest to a point comes from */
  cameFrom(p: Vec3): number
}

type Corners = readonly [number, number, number]

/**
 * The surface with each of its faces moved inwards (`way` 1) or outwards by its own size, mm, each vertex to where its faces meet
 * then: what encloses all that lies deeper. Only where that is so by moving alone: undefined where an edge would have a tube, where
 * vertices cannot follow all of their faces, and where anything turns over or runs into something else.
 */
export function movedBy(
  scope: Scope,
  surface: Surface,
  size: (face: number) => number,
  way: 1 | -1,
): Moved | undefined {
  if (!staysMitred(surface, way)) return undefined
  const { points, stuck } = goalsOf(surface, (h) => way * size(surface.face(h)))
  if (stuck.size > 0) return undefined
  const drawn = redrawn(scope, { ...movable(surface), points })
  return 'faults' in drawn ? undefined : drawn
}

/**
 * Where the vertices of a surface go when the plane at each corner moves inwards by so much, mm: to where their planes meet then.
 * `size` is asked by half-edges, and the same wherever one normal is. `stuck`: the vertices that cannot follow all of theirs, or would go
 * far more than `most` mm, the largest of the sizes where nothing else is told; they stay. With `exact` flat faces go just so far, whatever
 * the flats of a round that runs on into them come short of.
 */
export function goalsOf(
  surface: Surface,
  size: (h: number) => number,
  { most, exact = false }: { readonly most?: number; readonly exact?: boolean } = {},
): { readonly points: readonly Vec3[]; readonly stuck: ReadonlySet<number> } {
  const stuck = new Set<number>()
  const points = planesAt(surface, size, exact).map((own, vertex) => {
    const at = surface.at(vertex)
    if (own?.length === 0) return at
    const by = own && shiftOf(own, most)
    if (!by) stuck.add(vertex)
    return by ? subtract(at, by) : at
  })
  return { points, stuck }
}

/** A surface whose vertices are to move. */
export interface Movable {
  /** half-edges as in `Surface` */
  readonly triangles: ArrayLike<number>
  at(vertex: number): Vec3
  twin(h: number): number
  /** the outward unit normal of a triangle */
  flat(t: number): Vec3
  /** whether one flat face goes on over a half-edge */
  isOneFlat(h: number): boolean
  /** where each vertex goes */
  readonly points: readonly Vec3[]
}

export function movable(surface: Surface): Omit<Movable, 'points'> {
  return {
    triangles: surface.solid.triangles,
    at: (vertex) => surface.at(vertex),
    twin: (h) => surface.twin(h),
    flat: (t) => surface.flat(t),
    isOneFlat: (h) =>
      surface.face(h) === surface.face(surface.twin(h)) && surface.flatFace(surface.face(h)) !== undefined,
  }
}

/** The surface with its vertices where they go, its flats filled anew where they must; or the vertices where it turns over or meets itself. */
export function redrawn(scope: Scope, surface: Movable): Moved | { readonly faults: ReadonlySet<number> } {
  const { points } = surface
  const triangles: Corners[] = []
  const sources: number[] = []
  const faults = new Set<number>()
  for (const part of flatParts(surface)) {
    const whole = part.map((t) => cornersOf(surface, t))
    // What borders a flat may have grown past the far corners of its triangles.
    const isWhole = turnedOf(surface, part[0]!, whole).length === 0
    const own = isWhole ? whole : filledAnew(scope, surface, part)
    if (!isWhole) for (const vertex of turnedOf(surface, part[0]!, own).flat()) faults.add(vertex)
    for (const [i, corners] of own.entries()) {
      triangles.push(corners)
      sources.push(part[i] ?? part[0]!)
    }
  }
  if (faults.size > 0) return { faults }
  const tree = new TriangleTree({
    positions: Float64Array.from(points.flat()),
    triangles: Uint32Array.from(triangles.flat()),
  })
  tree.someCross(shallow, (one, other) => {
    for (const vertex of [...triangles[one]!, ...triangles[other]!]) faults.add(vertex)
    return faults.size >= enoughFaults
  })
  if (faults.size > 0) return { faults }
  return {
    points: [...points],
    triangles: triangles.map(([a, b, c]) => [a, b, c]),
    sources,
    cameFrom: (p) => sources[tree.nearest(p)!.triangle]!,
  }
}

/** More places than these at which a surface meets itself are not looked for at once. */
const enoughFaults = 2000

function cornersOf({ triangles }: Movable, t: number): Corners {
  return [triangles[3 * t]!, triangles[3 * t + 1]!, triangles[3 * t + 2]!]
}

/** The triangles of each flat face that hang together, and each other one by itself. */
function flatParts(surface: Movable): number[][] {
  const count = surface.triangles.length / 3
  const done = new Uint8Array(count)
  const parts: number[][] = []
  for (let first = 0; first < count; first++) {
    if (done[first]) continue
    const part = [first]
    done[first] = 1
    for (const t of part)
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        const other = (surface.twin(h) / 3) | 0
        if (done[other] || !surface.isOneFlat(h)) continue
        done[other] = 1
        part.push(other)
      }
    parts.push(part)
  }
  return parts
}

/** A flat's triangles between the lines that border it, where these have moved to. */
function filledAnew(scope: Scope, surface: Movable, part: readonly number[]): Corners[] {
  const { points } = surface
  const rings = bordersOf(surface, part).map((ring) => ring.map((h) => surface.triangles[h]!))
  const n = surface.flat(part[0]!)
  const u = perpendicular(n)
  const v = cross(n, u)
  const seen = rings.map((ring) =>
    ring.map((vertex): [number, number] => [dot(points[vertex]!, u), dot(points[vertex]!, v)]),
  )
  const all = rings.flat()
  return scope.triangulated(seen).map(([a, b, c]) => [all[a]!, all[b]!, all[c]!])
}

/** What runs into something else by less than this has only been rounded, mm. */
const shallow = 1e-4
/** A vertex may miss the planes of its faces by so much, mm. */
const missed = 1e-3
/** How many times as far as its faces a vertex may move. */
const farthest = 6
/** Flatter than this a triangle may look anywhere, mm. */
const sliverHeight = 2e-4

/** Whether all edges are such that the faces beside them go on until they meet. */
function staysMitred(surface: Surface, way: 1 | -1): boolean {
  const least = -Math.sin((hardlyTurned * Math.PI) / 180)
  for (let h = 0; h < surface.solid.triangles.length; h++) {
    const twin = surface.twin(h)
    if (h > twin || runsOn(surface, h)) continue
    const along = subtract(surface.at(surface.from(nextHalfEdge(h))), surface.at(surface.from(h)))
    const turn = dot(cross(surface.flat((h / 3) | 0), surface.flat((twin / 3) | 0)), along)
    if (way * turn < least * norm(along)) return false
  }
  return true
}

/** A plane that a vertex moves with, and how far. */
interface Plane {
  readonly normal: Vec3
  by: number
  /** it goes just so far */
  isExact: boolean
  /** of the face alone, before it is made up for what its flats lie nearer */
  readonly size: number
}

/** The planes that each vertex moves with; undefined where one surface would move in two ways. */
function planesAt(surface: Surface, size: (h: number) => number, exact: boolean): (readonly Plane[] | undefined)[] {
  const { triangles } = surface.solid
  const all: (Plane[] | undefined)[] = Array.from({ length: surface.solid.positions.length / 3 }, () => [])
  for (let h = 0; h < triangles.length; h++) {
    const own = all[triangles[h]!]
    if (!own) continue
    const normal = surface.normal(h)
    const mm = size(h)
    // The flats of a round lie nearer to their own than its corners: they are as far as is asked for.
    const by = mm * stretchAt(surface, h)
    const known = own.find((plane) => dot(plane.normal, normal) > 1 - 1e-9)
    const isExact = exact && surface.flatFace(surface.face(h)) !== undefined
    if (!known) own.push({ normal, by, size: mm, isExact })
    else if (Math.abs(known.size - mm) > oneSize) all[triangles[h]!] = undefined
    else if (isExact ? !known.isExact : !known.isExact && Math.abs(by) > Math.abs(known.by))
      Object.assign(known, { by, isExact })
  }
  return all
}

/** Sizes that differ by less are one, mm. */
const oneSize = 1e-5

/** The shortest way that goes as far along each normal as its plane; undefined where there is none, or it is far. */
function shiftOf(planes: readonly Plane[], reach?: number): Vec3 | undefined {
  const first = planes[0]!
  if (planes.length === 1) return scaled(first.normal, first.by)
  // Least squares with a little damping, made good by what is missed.
  const damping = 1e-7
  const rows = [0, 1, 2].map(
    (i) =>
      [0, 1, 2].map(
        (k) => planes.reduce((sum, { normal }) => sum + normal[i]! * normal[k]!, 0) + (i === k ? damping : 0),
      ) as unknown as Vec3,
  )
  const [a, b, c] = rows as [Vec3, Vec3, Vec3]
  const whole = dot(a, cross(b, c))
  const solved = (right: Vec3): Vec3 =>
    scaled(
      add(add(scaled(cross(b, c), right[0]), scaled(cross(c, a), right[1])), scaled(cross(a, b), right[2])),
      1 / whole,
    )
  let by: Vec3 = [0, 0, 0]
  for (let turn = 0; turn < 6; turn++) {
    const rest = planes.map((plane) => scaled(plane.normal, plane.by - dot(plane.normal, by))).reduce(add)
    by = add(by, solved(rest))
  }
  const most = reach ?? Math.max(...planes.map((plane) => Math.abs(plane.by)))
  const misses = planes.some((plane) => Math.abs(plane.by - dot(plane.normal, by)) > missed)
  return misses || norm(by) > farthest * most ? undefined : by
}

/** Those of these triangles that look the other way than those of a flat did, or have nothing left in them. */
function turnedOf({ at, flat, points }: Movable, t: number, corners: readonly Corners[]): readonly Corners[] {
  const normal = flat(t)
  return corners.filter((own) => {
    const now = acrossOf(own.map((vertex) => points[vertex]!))
    // Nobody knows how a sliver looked that lay among slivers.
    if (now) return norm(normal) > 0 && dot(now, normal) < 0.1 * norm(now)
    return acrossOf(own.map(at)) !== undefined
  })
}

/** Across a triangle, twice as long as it is large; undefined of a sliver. */
function acrossOf(corners: readonly Vec3[]): Vec3 | undefined {
  const [a, b, c] = corners as [Vec3, Vec3, Vec3]
  const [u, v] = [subtract(b, a), subtract(c, a)]
  const n = cross(u, v)
  const longest = Math.max(norm(u), norm(v), norm(subtract(c, b)))
  return norm(n) > sliverHeight * longest ? n : undefined
}
