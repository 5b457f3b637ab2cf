import { nextHalfEdge } from '../mesh/index.ts'
import { cross, dot, type Frame, frame, norm, pointIn, pointOut, subtract, unit, type Vec3 } from '../place/index.ts'
import { boxAround, boxesMeet, inset, liesWell, type Ring, type Vec2 } from '../plane/index.ts'
import { type Sense, startAt, wayFrom } from './ball.ts'
import type { ClosedSurface } from './body.ts'
import { type Course, directionOf } from './courses.ts'
import type { Surface } from './surface.ts'

/**
 * The whole rim of a flat face whose walls are square to it, as of a letter or of anything extruded. Corners there may be
 * tighter than what is made along them: it is followed as the rim moves inwards in the plane, where flats vanish.
 */
export interface Rim {
  readonly sense: Sense
  readonly courses: readonly Course[]
  /** round it, the flat face on their left */
  readonly halfEdges: readonly number[]
  /** of the flat face: its plane, looking out */
  readonly plane: Frame
  /** the corners of the rim in that plane, the face to the left */
  readonly ring: Ring
}

/** One corner of a profile: how far in on the face, and how far under it (over it, at an inner edge), mm. */
export interface LevelCorner {
  readonly in: number
  readonly under: number
}

/** The rim that a course is of, where all of it is among `courses`, and no other of them comes to it. */
export function rimThrough(surface: Surface, course: Course, courses: readonly Course[]): Rim | undefined {
  for (const isLeft of [true, false]) {
    const own = course.halfEdges.map((h) => (isLeft ? h : surface.twin(h)))
    const face = surface.face(own[0]!)
    const normal = surface.flatFace(face)
    if (!normal || own.some((h) => surface.face(h) !== face)) continue
    const rim = loopFrom(surface, own[0]!, face, course.sense, courses)
    if (!rim || rim.halfEdges.some((h) => !isSquare(surface, h, normal))) continue
    const origin = surface.at(surface.from(rim.halfEdges[0]!))
    const u = unit(directionOf(surface, rim.halfEdges[0]!))
    const plane = frame(origin, u, unit(cross(normal, u)))
    const ring = rim.halfEdges.map((h): Vec2 => {
      const [x, y] = pointIn(plane, surface.at(surface.from(h)))
      return [x, y]
    })
    return { sense: course.sense, ...rim, plane, ring }
  }
  return undefined
}

/** Round the face from a half-edge and back to it, over chosen edges of one sense alone. */
function loopFrom(surface: Surface, start: number, face: number, sense: Sense, courses: readonly Course[]) {
  const leaving = new Map<number, { readonly h: number; readonly course: Course }[]>()
  const touching = new Map<number, Set<Course>>()
  for (const course of courses)
    for (const each of course.halfEdges) {
      const h = surface.face(each) === face ? each : surface.twin(each)
      for (const vertex of [surface.from(each), surface.from(nextHalfEdge(each))])
        touching.set(vertex, (touching.get(vertex) ?? new Set()).add(course))
      if (course.sense !== sense || surface.face(h) !== face) continue
      const from = surface.from(h)
      leaving.set(from, [...(leaving.get(from) ?? []), { h, course }])
    }
  const halfEdges: number[] = []
  const own = new Set<Course>()
  for (let h = start; halfEdges.length === 0 || h !== start; ) {
    const here = leaving.get(surface.from(h))
    if (here?.length !== 1 || halfEdges.length > surface.solid.triangles.length) return undefined
    halfEdges.push(h)
    own.add(here[0]!.course)
    const next = leaving.get(surface.from(nextHalfEdge(h)))
    if (next?.length !== 1) return undefined
    h = next[0]!.h
  }
  const alone = halfEdges.every((h) => [...touching.get(surface.from(h))!].every((course) => own.has(course)))
  return alone ? { halfEdges, courses: [...own] } : undefined
}

/** Walls that lean less than this, as a sine, are square to their face. */
const square = 1e-6

function isSquare(surface: Surface, h: number, normal: Vec3): boolean {
  return Math.abs(dot(surface.flat((surface.twin(h) / 3) | 0), normal)) < square
}

/**
 * What is cut off or filled in along a rim; undefined where it does not fit: the walls end before it does, or the rim runs into
 * itself or into one of `others`, which lie in the plane of the face.
 */
export function rimBody(
  surface: Surface,
  { sense, halfEdges, plane, ring }: Rim,
  profile: readonly LevelCorner[],
  clear: number,
  others: readonly (readonly Vec3[])[],
): (ClosedSurface & { readonly inner: readonly Vec3[] }) | undefined {
  const [deep, tall] = [profile[0]!.in, profile.at(-1)!.under]
  if (halfEdges.some((h) => wallAt(surface, h, tall) < tall - 1e-6)) return undefined
  const [inwards, outwards] = [inset([ring], deep), inset([ring], -clear)]
  const inner = inwards.at(deep)
  const outer = outwards.at(clear)
  if (!inner || !outer || !liesWell(inner, [ring])) return undefined
  // Each by itself: what lies round it, or in it, still does.
  const near = others
    .map((points) => points.map((p): Vec2 => [pointIn(plane, p)[0], pointIn(plane, p)[1]]))
    .filter((other) => boxesMeet(boxOf(ring), boxOf(other), deep))
  if (near.some((other) => !liesWell([inner[0]!, other], [ring, other]))) return undefined
  const levels: Level[] = [
    ...withEvents(profile, inwards.events),
    { in: -clear, under: tall },
    { in: -clear, under: -clear },
    { in: deep, under: -clear },
  ]
  const rings = levels.map((level) => (level.in < 0 ? outer[0]! : inwards.at(Math.min(level.in, deep))![0]!))
  const paths = ring.map((_, i): Path => {
    const at = levels.map(({ under }, k): Vec3 => [rings[k]![i]![0], rings[k]![i]![1], under])
    const kept = levels.flatMap((level, k) => (level.between && isStraight(at[k - 1]!, at[k]!, at[k + 1]!) ? [] : [k]))
    return { kept, points: kept.map((k) => pointOut(plane, [at[k]![0], at[k]![1], -sense * at[k]![2]])) }
  })
  const body = zipped(paths, levels.length, sense)
  return { ...body, inner: inner[0]!.map(([x, y]) => pointOut(plane, [x, y, 0])) }
}

function boxOf(ring: Ring) {
  return boxAround(ring.map((p) => ({ min: p, max: p })))!
}

interface Level extends LevelCorner {
  /** within a flat of the profile, where a flat of the rim vanishes */
  readonly between?: true
}

/** Where one corner of the rim goes, at those levels at which its way turns. */
interface Path {
  readonly kept: readonly number[]
  readonly points: readonly Vec3[]
}

function isStraight(a: Vec3, p: Vec3, b: Vec3): boolean {
  const [along, there] = [subtract(b, a), subtract(p, a)]
  const size = norm(along)
  return size > 0 && norm(cross(along, there)) / size < 1e-9
}

/** The surface round the ways of all corners, from each to the next, and from the last level to the first. */
function zipped(paths: readonly Path[], levels: number, sense: Sense): ClosedSurface {
  const begins: number[] = []
  const points: Vec3[] = []
  for (const path of paths) {
    begins.push(points.length)
    points.push(...path.points)
  }
  const triangles: [number, number, number][] = []
  const face = (a: number, b: number, c: number) => triangles.push(sense > 0 ? [a, b, c] : [a, c, b])
  paths.forEach((one, i) => {
    const next = (i + 1) % paths.length
    const other = paths[next]!
    const [a, b] = [begins[i]!, begins[next]!]
    const place = (path: Path, begin: number, k: number) => begin + (k % path.points.length)
    const level = (path: Path, k: number) => path.kept[k] ?? levels
    let [p, q] = [0, 0]
    while (p < one.points.length || q < other.points.length) {
      const onOne = level(one, p + 1) <= level(other, q + 1) && p < one.points.length
      if (onOne || q >= other.points.length) {
        face(place(one, a, p), place(other, b, q), place(one, a, p + 1))
        p++
      } else {
        face(place(one, a, p), place(other, b, q), place(other, b, q + 1))
        q++
      }
    }
  })
  return { points, triangles }
}

/** A profile with a corner wherever a flat vanishes: between corners all sides are flat. */
function withEvents(profile: readonly LevelCorner[], events: readonly number[]): Level[] {
  return profile.flatMap((corner, i) => {
    const next = profile[i + 1]
    if (!next) return [corner]
    const between = events
      .map((by) => ({ by, share: (by - corner.in) / (next.in - corner.in) }))
      .filter(({ share }) => share > 1e-9 && share < 1 - 1e-9)
      .sort((a, b) => a.share - b.share)
    return [
      corner,
      ...between.map(({ by, share }): Level => {
        return { in: by, under: corner.under + share * (next.under - corner.under), between: true }
      }),
    ]
  })
}

/** How far the wall beside a half-edge goes straight on from the middle of that, up to `reach`. */
function wallAt(surface: Surface, h: number, reach: number): number {
  const along = directionOf(surface, h)
  const place = { left: h, share: 0.5, direction: along }
  const start = startAt(surface, place, 'right')
  const { walk } = wayFrom(surface, place, 'right', start, { along, offset: 0, turn: 'right' }, reach)
  const end = walk.steps.at(-1)!.on
  return walk.end < 0 ? reach : norm(subtract(end, start.edge))
}

/** How far a body stands out beyond the surface, mm. */
export function clearOf(fineness: number): number {
  return 2 * fineness + 1e-3
}

/** All rims of a flat face, each by its vertices. */
export function rimsOf(surface: Surface, face: number): (readonly number[])[] {
  const leaving = new Map<number, number>()
  for (const t of surface.trianglesOf(face))
    for (let h = 3 * t; h < 3 * t + 3; h++) if (surface.face(surface.twin(h)) !== face) leaving.set(surface.from(h), h)
  const rims: number[][] = []
  while (leaving.size > 0) {
    const [first] = leaving.values()
    const rim: number[] = []
    for (let h: number | undefined = first; h !== undefined; ) {
      rim.push(surface.from(h))
      leaving.delete(surface.from(h))
      h = leaving.get(surface.from(nextHalfEdge(h)))
    }
    if (rim.length > 2) rims.push(rim)
  }
  return rims
}
