import { apart, halfEdgeTwins, nextHalfEdge, type TriangleMesh, TriangleTree } from '../mesh/index.ts'
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
/** A rail of 120 mm with a play of `tight` takes as many steps; what takes more is not known. */
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
  let start: readonly [number, number] | undefined
  for (let gone = 0, step = 0; step < mostSteps; step++) {
    if (gone > far || isClear(from.box, standing, scaled(way, gone))) return { away: true }
    const at = compose({ ...world, origin: scaled(way, gone) }, frame)
    const near = apart(from.tree, body.tree, { frame: at, within: looked, start })
    if (near && near.distance < tight) return { away: false, met: near.from }
    start = near?.triangles
    gone += near ? near.distance : looked
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
export function giveOut(from: MovedSurface, mesh: TriangleMesh, joint: Frame): number | undefined {
  const { met } = goneUntilMet(from, bodyOf(mesh, joint, 1), world, joint.n)
  if (!met) return undefined
  const [x, y] = pointIn(joint, met)
  const passes = (share: number) => goneAway(from, bodyOf(mesh, joint, 1 + share), world, joint.n).away === true
  const sign = [-1, 1].find((each) => passes(each * mostGive))
  if (sign === undefined) return undefined
  let [low, high] = [0, mostGive]
  for (let i = 0; i < 7; i++) {
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

/** Of a surface with more corners than these some are passed over. */
const mostCorners = 800
/** How far around the narrowest place others are looked for that hold as well, mm: in as many ways as there may be to come out. */
const beside = [0.05, 0.5, 2]
/** Two places are each other's nearest where this share of the way between them leads to no other. */
const mutual = 0.9
/** So often a way is turned out of what holds it most: for what comes out one way alone that leads to within a hundredth of a degree. */
const turns = 400
/** A way that after all turns still goes against something by more than this is none, as a sine. */
const nearlyAlong = 0.02
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
  for (const p of cornersOf(body.tree)) {
    const at = pointOut(frame, p)
    const to = from.tree.nearest(at, reach)
    if (to) note(at, to.to, to.distance, body.tree.nearest(pointIn(frame, to.to), reach)?.distance)
  }
  for (const p of cornersOf(from.tree)) {
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

function cornersOf({ nodes: { mesh } }: TriangleTree): Vec3[] {
  const { positions } = mesh
  const count = positions.length / 3
  const stride = Math.max(1, Math.ceil(count / mostCorners))
  return Array.from({ length: Math.ceil(count / stride) }, (_, i): Vec3 => {
    const v = 3 * i * stride
    return [positions[v]!, positions[v + 1]!, positions[v + 2]!]
  })
}

/**
 * A way that goes against none of these directions, as nearly as that can be: from the middle of all, turned into the plane across the one
 * that it goes against most, over and over (Agmon and Motzkin 1954, the relaxation method for linear inequalities).
 */
function wayAlong(all: readonly Vec3[]): Vec3 | undefined {
  const [xs, ys, zs] = [0, 1, 2].map((k) => Float64Array.from(all, (way) => way[k]!)) as [
    Float64Array,
    Float64Array,
    Float64Array,
  ]
  const sum = all.reduce(add)
  let way = norm(sum) > 0 ? unit(sum) : all[0]!
  let last = 0
  for (let i = 0; i < turns; i++) {
    const [x, y, z] = way
    let worst = 0
    let against = Number.POSITIVE_INFINITY
    for (let k = 0; k < xs.length; k++) {
      const along = xs[k]! * x + ys[k]! * y + zs[k]! * z
      if (along >= against) continue
      against = along
      worst = k
    }
    if (against > -hardlyAgainst) return way
    const turned = subtract(way, scaled(all[worst]!, against))
    if (norm(turned) < hardlyAgainst) return undefined
    way = unit(turned)
    last = against
  }
  // What is held from all sides goes against some of them whichever way it is turned.
  return last > -nearlyAlong ? way : undefined
}
