import {
  ahead,
  apart,
  halfEdgeTwins,
  nearestOnTriangle,
  nextHalfEdge,
  type TriangleMesh,
  TriangleTree,
} from '../mesh/index.ts'
import type { Paced } from '../pacing/index.ts'
import {
  add,
  type Box,
  boxOut,
  compose,
  corners,
  cross,
  dot,
  type Frame,
  norm,
  perpendicular,
  pointIn,
  pointOut,
  scaled,
  subtract,
  unit,
  type Vec3,
  world,
} from '../place/index.ts'

/** A surface that is moved, with its box. */
export interface MovedSurface {
  readonly tree: TriangleTree
  readonly box: Box
}

/** What is nearer than this does not get past, mm. */
export const tight = 0.02
/** Farther than this nothing need be known exactly, mm. */
const looked = 4
/** Steps of `tight` over 120 mm come to as many, and most are far longer; what takes more is not known. */
const mostSteps = 6000

/** How far a body got that was moved straight on. */
export interface Gone {
  /** undefined where that was not found out in as many steps as are taken */
  readonly away: boolean | undefined
  /** where it met the other one, in the frame of that */
  readonly met?: Vec3
}

/**
 * Whether a body that stands in `frame` can be moved straight along `way`, away from another one, until their boxes are apart. It goes as
 * far at a time as both are apart, so that nothing in between is missed (conservative advancement: Mirtich 1996). Bodies that meet
 * already do not get away.
 */
export function goneAway(from: MovedSurface, body: MovedSurface, frame: Frame, way: Vec3): Gone {
  const standing = boxOut(frame, body.box)
  if (isStopped(from, body, frame, way, standing)) return { away: false }
  return goneUntilMet(from, body, frame, way)
}

/** Whether both are in each other at one of a few places on the way: most of what is held is after a little of it, which is soon seen. */
function isStopped(from: MovedSurface, body: MovedSurface, frame: Frame, way: Vec3, standing: Box): boolean {
  return probes.some((gone) => {
    const by = scaled(way, gone)
    if (isClear(from.box, standing, by)) return false
    const at = compose({ ...world, origin: by }, frame)
    return apart(from.tree, body.tree, { frame: at, within: tight }) !== undefined
  })
}

/** mm */
const probes = [0.6, 1.3, 2.7, 5.3]

/** The same with where it met the other one, by going no farther at a time than both are apart. */
function goneUntilMet(from: MovedSurface, body: MovedSurface, frame: Frame, way: Vec3): Gone {
  const standing = boxOut(frame, body.box)
  const far =
    Math.max(...corners(from.box).map((p) => dot(p, way))) - Math.min(...corners(standing).map((p) => dot(p, way)))
  for (let gone = 0, step = 0; step < mostSteps; step++) {
    if (gone > far || isClear(from.box, standing, scaled(way, gone))) return { away: true }
    const at = compose({ ...world, origin: scaled(way, gone) }, frame)
    const { clear, met } = ahead(from.tree, body.tree, { frame: at, way, tight, most: far - gone + tight })
    if (met) return { away: false, met: apart(from.tree, body.tree, { frame: at, within: tight })?.from ?? met }
    gone += clear
  }
  return { away: undefined }
}

function isClear(a: Box, b: Box, by: Vec3): boolean {
  return [0, 1, 2].some((i) => b.min[i]! + by[i]! > a.max[i]! || b.max[i]! + by[i]! < a.min[i]!)
}

/** More of its width than this nothing gives, as a share. */
const mostGive = 0.6

/**
 * About how much would have to give, mm on each side, for a body that is held to be pulled out along a joint's n: it, or what it is
 * held by, narrowed or widened about that axis until it gets past. Undefined where that takes too much, or is not what holds it.
 */
export function* giveOut(from: MovedSurface, mesh: TriangleMesh, joint: Frame): Paced<number | undefined> {
  const { met } = goneUntilMet(from, bodyOf(mesh, joint, 1), world, joint.n)
  if (!met) return undefined
  const [x, y] = pointIn(joint, met)
  const passes = (share: number) => goneAway(from, bodyOf(mesh, joint, 1 + share), world, joint.n).away === true
  yield
  let sign = -1
  if (!passes(-mostGive)) {
    yield
    if (!passes(mostGive)) return undefined
    sign = 1
  }
  let [low, high] = [0, mostGive]
  for (let i = 0; i < 7; i++) {
    yield
    const share = (low + high) / 2
    if (passes(sign * share)) high = share
    else low = share
  }
  // What is narrowed is wider than where it meets the other one, by as much as it had to be narrowed.
  return (high * Math.hypot(x, y)) / (sign < 0 ? 1 - high : 1)
}

/** The body with its width about the n of a frame made so much of what it is. */
function bodyOf({ positions, triangles }: TriangleMesh, about: Frame, share: number): MovedSurface {
  const moved = new Float64Array(positions.length)
  for (let i = 0; i < positions.length; i += 3) {
    const [x, y, z] = pointIn(about, [positions[i]!, positions[i + 1]!, positions[i + 2]!])
    moved.set(pointOut(about, [x * share, y * share, z]), i)
  }
  const { min, max } = meshBox(moved)
  return { tree: new TriangleTree({ positions: moved, triangles }), box: { min, max } }
}

function meshBox(positions: Float64Array): Box {
  const [min, max] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ] as [[number, number, number], [number, number, number]]
  for (let i = 0; i < positions.length; i++) {
    min[i % 3] = Math.min(min[i % 3]!, positions[i]!)
    max[i % 3] = Math.max(max[i % 3]!, positions[i]!)
  }
  return { min, max }
}

/** Along the axes of a frame, both ways, and half way between any two of them. */
export function waysOf({ u, v, n }: Frame): { readonly along: readonly Vec3[]; readonly between: readonly Vec3[] } {
  const signs = [1, -1] as const
  // What a joint holds last is along its own n: up from the face that it stands on.
  const along = [n, u, v].flatMap((axis) => signs.map((sign) => scaled(axis, sign)))
  const pairs = [
    [u, n],
    [v, n],
    [u, v],
  ] as const
  const between = pairs.flatMap(([a, b]) =>
    signs.flatMap((one) =>
      signs.map((two) => unit([0, 1, 2].map((i) => one * a[i]! + two * b[i]!) as unknown as Vec3)),
    ),
  )
  return { along, between }
}

/** Directions that differ by no more lead less than `tight` apart over the longest bed: they are one, degrees. */
export const oneWay = 0.005
const oneWayCosine = Math.cos((oneWay * Math.PI) / 180)

/** Whether two unit directions are one, or each other's opposite. */
export function isOneWay(a: Vec3, b: Vec3): boolean {
  return Math.abs(dot(a, b)) > oneWayCosine
}

/** What surfaces meet in at a smaller angle is no edge, as a cosine. */
const flatOn = Math.cos((0.5 * Math.PI) / 180)
/** So many directions of edges are gone along, the most of them first. */
const mostAxes = 6

/**
 * The directions that most of a surface's edges run along, unit, the greatest length of them first: what is straight can be drawn out
 * that way, whichever way it leans. A round wall has them along its axis, between its flats.
 */
export function axesOf({ positions, triangles }: TriangleMesh): readonly Vec3[] {
  const at = (v: number): Vec3 => [positions[3 * v]!, positions[3 * v + 1]!, positions[3 * v + 2]!]
  const normalOf = (t: number): Vec3 => {
    const [a, b, c] = [0, 1, 2].map((k) => at(triangles[3 * t + k]!)) as [Vec3, Vec3, Vec3]
    const across = cross(subtract(b, a), subtract(c, a))
    return norm(across) > 0 ? unit(across) : across
  }
  const normals = Array.from({ length: triangles.length / 3 }, (_, t) => normalOf(t))
  const twins = halfEdgeTwins({ positions, triangles })
  const edges: { readonly along: Vec3; readonly long: number }[] = []
  for (let h = 0; h < triangles.length; h++) {
    const twin = twins[h]!
    if (twin < h || dot(normals[(h / 3) | 0]!, normals[(twin / 3) | 0]!) > flatOn) continue
    const along = subtract(at(triangles[nextHalfEdge(h)]!), at(triangles[h]!))
    const long = norm(along)
    if (long >= tight) edges.push({ along, long })
  }
  const found: { readonly way: Vec3; long: number }[] = []
  // The longest tell their direction best; and what bends all over has a great many short ones, in all directions.
  for (const { along, long } of edges.sort((a, b) => b.long - a.long).slice(0, mostEdges)) {
    const way = unit(along)
    const known = found.find((other) => isOneWay(other.way, way))
    if (known) known.long += long
    else if (found.length < mostFound) found.push({ way, long })
  }
  return found
    .sort((a, b) => b.long - a.long)
    .slice(0, mostAxes)
    .map(({ way }) => way)
}

/** So many edges are looked at, the longest first, and so many directions told apart. */
const [mostEdges, mostFound] = [4000, 200]

/** Of a surface with more corners or triangles than these some are passed over. */
const mostPlaces = 800
/** How far around the narrowest place others are looked for that hold as well, mm: in as many ways as there may be to come out. */
const beside = [0.05, 0.5, 2]
/** Two places are each other's nearest where this share of the way between them leads to no other. */
const mutual = 0.9
/** So often a way is turned out of what holds it most, and so often a nearer place is looked for. */
const turns = 60
/** What stands in the way by less than this, as a sine, leads less than `tight` into it over 20 cm. */
const hardlyAgainst = 1e-4

/**
 * The ways in which a body is least in the way of another one that it lies close to: from each place where they come near, straight away from
 * the other's surface as far as that can be for all at once. What is round all over, as a dome in its socket, comes out that way alone. None
 * where they hold it from all sides.
 */
export function freestWays(from: MovedSurface, body: MovedSurface, frame: Frame): readonly Vec3[] {
  const least = apart(from.tree, body.tree, { frame, within: looked })?.distance
  if (least === undefined) return []
  const reach = least + beside.at(-1)!
  const near: { readonly away: Vec3; readonly far: number }[] = []
  /** Past an edge what is nearest to a place has something nearer itself: it is not in the way of it. */
  const note = (p: Vec3, q: Vec3, far: number, other: number | undefined) => {
    if (far > 0 && other !== undefined && other > mutual * far)
      near.push({ away: scaled(subtract(p, q), 1 / far), far })
  }
  for (const p of placesOn(body.tree)) {
    const at = pointOut(frame, p)
    const to = from.tree.nearest(at, reach)
    if (to) note(at, to.to, to.distance, body.tree.nearest(pointIn(frame, to.to), reach)?.distance)
  }
  for (const p of placesOn(from.tree)) {
    const to = body.tree.nearest(pointIn(frame, p), reach)
    if (!to) continue
    const at = pointOut(frame, to.to)
    note(at, p, to.distance, from.tree.nearest(at, reach)?.distance)
  }
  return beside.flatMap((more) => {
    const all = near.flatMap(({ away, far }) => (far <= least + more ? [away] : []))
    const way = all.length > 0 ? wayAlong(all) : undefined
    return way ? [way] : []
  })
}

/** The corners of a surface, and the middles of its triangles: a corner lies nearest to one thing alone, whatever else its faces lie close to. */
function placesOn({ nodes: { mesh } }: TriangleTree): Vec3[] {
  const { positions, triangles } = mesh
  const at = (corner: number): Vec3 => [positions[3 * corner]!, positions[3 * corner + 1]!, positions[3 * corner + 2]!]
  const some = (count: number, place: (i: number) => Vec3) => {
    const stride = Math.max(1, Math.ceil(count / mostPlaces))
    return Array.from({ length: Math.ceil(count / stride) }, (_, i) => place(i * stride))
  }
  const middle = (t: number): Vec3 =>
    scaled([0, 1, 2].map((i) => at(triangles[3 * t + i]!)).reduce(add, [0, 0, 0]), 1 / 3)
  return [...some(positions.length / 3, at), ...some(triangles.length / 3, middle)]
}

/**
 * A way that goes against none of these unit directions by more than `hardlyAgainst`; undefined where each goes against some of them.
 * That is the way to the place of their hull that is nearest to 0. Where two of them are each other's opposite, 0 lies on it: then they
 * are moved a little, along a way that is about right.
 */
export function wayAlong(all: readonly Vec3[]): Vec3 | undefined {
  const to = nearestOfHull(all) ?? nearestOfHull(movedABit(all))
  return to && unit(to)
}

function movedABit(all: readonly Vec3[]): readonly Vec3[] {
  const by = scaled(wayAbout(all), hardlyAgainst)
  return all.map((way) => add(way, by))
}

/**
 * From the middle of all directions, turned into the plane across the one that it goes against most, over and over (Agmon and Motzkin
 * 1954, the relaxation method for linear inequalities).
 */
function wayAbout(all: readonly Vec3[]): Vec3 {
  const sum = all.reduce(add)
  let way = norm(sum) > 0 ? unit(sum) : perpendicular(all[0]!)
  for (let i = 0; i < turns; i++) {
    const worst = leastAlong(all, way)
    const against = dot(worst, way)
    if (against >= 0) return way
    const turned = subtract(way, scaled(worst, against))
    way = norm(turned) < hardlyAgainst ? perpendicular(worst) : unit(turned)
  }
  return way
}

function leastAlong(all: readonly Vec3[], way: Vec3): Vec3 {
  let least = all[0]!
  let along = dot(least, way)
  for (const each of all) {
    const own = dot(each, way)
    if (own >= along) continue
    along = own
    least = each
  }
  return least
}

/** The place of the convex hull of points that is nearest to 0, by at most four of them at a time (Gilbert, Johnson and Keerthi 1988); undefined where 0 lies in it. */
function nearestOfHull(points: readonly Vec3[]): Vec3 | undefined {
  let [some, near] = [[points[0]!] as readonly Vec3[], points[0]!]
  for (let i = 0; i < turns; i++) {
    const next = leastAlong(points, near)
    // Nothing lies nearer than its plane.
    if (dot(next, near) >= dot(near, near) * (1 - 1e-9)) return near
    const found = nearestOfSome([...some, next])
    if (!found || norm(found.near) < rounding) return undefined
    if (norm(found.near) >= norm(near)) return near
    some = found.some
    near = found.near
  }
  return near
}

/** What is nearer to 0 than this is there, as far as can be told. */
const rounding = 1e-12

/** The same of two to four points, with those of them that it lies between. */
function nearestOfSome(points: readonly Vec3[]): { readonly some: readonly Vec3[]; readonly near: Vec3 } | undefined {
  const [a, b, c, d] = points as [Vec3, Vec3, Vec3 | undefined, Vec3 | undefined]
  if (!c) {
    const along = subtract(b, a)
    const share = Math.min(1, Math.max(0, -dot(a, along) / dot(along, along)))
    return { some: points, near: add(a, scaled(along, share)) }
  }
  if (!d) return { some: points, near: nearestOnTriangle([0, 0, 0], [a, b, c]) }
  const sides = [
    [a, b, c, d],
    [a, b, d, c],
    [a, c, d, b],
    [b, c, d, a],
  ] as const
  // 0 lies in it where it is on the same side of each face as the fourth point.
  const isIn = sides.every(([p, q, r, other]) => {
    const n = cross(subtract(q, p), subtract(r, p))
    return dot(n, scaled(p, -1)) * dot(n, subtract(other, p)) > 0
  })
  if (isIn) return undefined
  return sides
    .map(([p, q, r]) => ({ some: [p, q, r], near: nearestOnTriangle([0, 0, 0], [p, q, r]) }))
    .reduce((best, each) => (norm(each.near) < norm(best.near) ? each : best))
}
