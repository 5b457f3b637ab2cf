import { skinEdges, TriangleTree } from '../mesh/index.ts'
import { add, dot, scaled, subtract, type Vec3 } from '../place/index.ts'
import type { EdgeForm, Sense } from './ball.ts'
import {
  apexOf,
  type ClosedSurface,
  intoStrip,
  type Making,
  outlineOf,
  type ProfileCorner,
  profileOf,
  stripOf,
} from './body.ts'
import { type Course, coursesOf } from './courses.ts'
import { type CornerBody, type Ending, flatIn, makingOf, type OnTo, settledEnds } from './ends.ts'
import { eatenBy, foldsUp, largestShare, liesOnFaces } from './fits.ts'
import { Rims } from './rims.ts'
import { type Rolled, rolledAlong } from './roll.ts'
import type { Network } from './sewn.ts'
import { networksOf } from './strips.ts'
import type { Surface } from './surface.ts'

/** A body to cut off or to fill in, and the edges that it is of. */
export interface EdgeBody extends ClosedSurface {
  readonly sense: Sense
  readonly edges: readonly number[]
  /** what it leaves together with all others of which that is said */
  readonly network?: Network
}

/** Edges that could not be worked on, and what would fit there. */
export interface Refusal {
  readonly edges: readonly number[]
  /** what its sizes may be times at most; 0 where nothing fits */
  readonly most: number
}

/**
 * Bodies that round or bevel edges when they are cut off or filled in; `edges` by their places in the list of all, `up` unit, away
 * from the bed.
 */
export function edgeBodies(
  surface: Surface,
  edges: readonly number[],
  form: EdgeForm,
  up: Vec3,
  fineness: number,
): { readonly bodies: readonly EdgeBody[]; readonly refused: readonly Refusal[] } {
  const refused = new Set<Course>()
  const crossing = new Set<Course>()
  const courses = coursesOf(surface, edges)
  const rims = new Rims(surface, courses, form, fineness)
  const known = new Map<Course, Rolled | undefined>()
  for (;;) {
    const rolled: Ending[] = []
    const before = refused.size
    for (const course of courses) {
      if (refused.has(course) || rims.of.has(course)) continue
      if (!known.has(course)) known.set(course, fitting(surface, course, form, 1, up, fineness))
      const rolls = known.get(course)
      if (rolls) rolled.push({ ...rolls, onTo: [undefined, undefined] })
      else refused.add(course)
    }
    for (const i of eatenBy(rolled, 2 * fineness)) refused.add(rolled[i]!.course)
    if (rims.takenFrom(refused) || refused.size > before) continue
    const corners = settledEnds(surface, rolled, form, fineness)
    for (const { course, stations } of rolled) if (!isInOrder(stations)) refused.add(course)
    if (rims.takenFrom(refused) || refused.size > before) continue
    const strips = rolled.map((each) => soundStrip(surface, each, form, fineness))
    for (const [i, { course }] of rolled.entries())
      if (!strips[i]) {
        refused.add(course)
        crossing.add(course)
      }
    if (rims.takenFrom(refused) || refused.size > before) continue
    const left = networksOf(surface, rolled, corners, form, fineness)
    const networkOf = (of: Ending | CornerBody) => (left.has(of) ? { network: left.get(of)! } : {})
    return {
      bodies: [
        ...rims.bodies,
        ...corners.map((corner) => ({
          ...{ points: corner.points, triangles: corner.triangles, sense: corner.sense },
          edges: corner.of.flatMap(({ course }) => course.edges),
          ...networkOf(corner),
        })),
        ...rolled.flatMap((each, i) => {
          const { sense, edges: own } = each.course
          return strips[i]!.map((body) => Object.assign(body, { sense, edges: own, ...networkOf(each) }))
        }),
      ],
      refused: [...refused].map((course) => ({
        edges: course.edges,
        // What would fit but for its ends, or what lies beside it, has no size that is known to.
        most: crossing.has(course) ? 0 : (rims.mostFor(course) ?? mostFor(surface, course, form, up, fineness)),
      })),
    }
  }
}

function fitting(
  surface: Surface,
  course: Course,
  form: EdgeForm,
  scale: number,
  up: Vec3,
  fineness: number,
): Rolled | undefined {
  const rolled = rolledAlong(surface, course, form, scale, fineness, levelOnLeft(surface, course, up))
  return rolled && liesOnFaces(surface, course, rolled.inner, rolled.middle) && !foldsUp(rolled.stations)
    ? rolled
    : undefined
}

/** Whether the face on the left of a course lies more level than that on its right; of two that lie alike, that looks up more. */
function levelOnLeft(surface: Surface, { halfEdges }: Course, up: Vec3): boolean {
  const h = halfEdges[0]!
  const [left, right] = [dot(surface.flat((h / 3) | 0), up), dot(surface.flat((surface.twin(h) / 3) | 0), up)]
  const apart = Math.abs(left) - Math.abs(right)
  return Math.abs(apart) > 1e-6 ? apart > 0 : left >= right
}

/** Corners at both ends leave something between them. */
function isInOrder(stations: Rolled['stations']): boolean {
  return stations.length > 1 && stations.every(({ gone }, i) => i === 0 || gone > stations[i - 1]!.gone)
}

/** What sizes that do not fit along a course may be times to fit, rounded down. */
function mostFor(surface: Surface, course: Course, form: EdgeForm, up: Vec3, fineness: number): number {
  return largestShare((scale) => fitting(surface, course, form, scale, up, fineness) !== undefined)
}

/**
 * The body of a course, that does not run through itself: what goes on at its ends may, and is left off then. Undefined where it
 * does all the same: what the library made of it would be inside out in places.
 */
function soundStrip(surface: Surface, ending: Ending, form: EdgeForm, fineness: number): ClosedSurface[] | undefined {
  // What is sewn in needs none.
  if (ending.course.closed) return [whenAsked(() => stripBody(surface, ending, form, fineness))]
  const ended = stripBody(surface, ending, form, fineness)
  const isSound = !crossesItself(ended)
  if (form.deeper) return isSound ? withCaps(surface, ending, ended, form, fineness) : undefined
  if (isSound) return [ended]
  const plain = stripBody(surface, { ...ending, onTo: [undefined, undefined] }, form, fineness)
  return crossesItself(plain) ? undefined : [plain]
}

/** A body that is made when it is asked for. */
function whenAsked(make: () => ClosedSurface): ClosedSurface {
  let made: ClosedSurface | undefined
  return {
    get points() {
      made ??= make()
      return made.points
    },
    get triangles() {
      made ??= make()
      return made.triangles
    },
  }
}

/** A body that reaches deeper than the ball, with all that lies as deep in what stands in its way; that is known of flat faces. */
function withCaps(
  surface: Surface,
  ending: Ending,
  ended: ClosedSurface,
  form: EdgeForm,
  fineness: number,
): ClosedSurface[] | undefined {
  const { course, stations, onTo } = ending
  const met = onTo.flatMap((to, i) => {
    const on = i === 0 ? scaled(stations[0]!.along, -1) : stations.at(-1)!.along
    return to ? aheadIn(to.walls, on, -course.sense as Sense) : []
  })
  if (met.length === 0) return [ended]
  if (met.some(({ face }) => !surface.flatFace(face))) return undefined
  return [ended, stripBody(surface, ending, { ...form, deeper: 0 }, fineness, form.deeper)]
}

function crossesItself({ points, triangles }: ClosedSurface): boolean {
  const mesh = { positions: Float64Array.from(points.flat()), triangles: Uint32Array.from(triangles.flat()) }
  return new TriangleTree(mesh).crossesItself(shallow) || skinEdges(mesh) > 0
}

/** What runs through itself by less has only been rounded, mm. */
const shallow = 1e-3

/** The body of a course from its first ball to its last; `into`: how far it goes into what stands in its way, mm. */
function stripBody(
  surface: Surface,
  { course, stations, onTo }: Ending,
  form: EdgeForm,
  fineness: number,
  into = 0,
): ClosedSurface {
  const { sense, closed } = course
  const making = makingOf(stations, form, fineness)
  const isFlat = flatIn(surface)
  const profiles = stations.map((station) => profileOf(station, sense, making, isFlat))
  const last = profiles.length - 1
  const ended = (i: number, on: Vec3, to: OnTo) =>
    carriedOn(
      surface,
      outlineOf(stations[i]!, sense, making, isFlat),
      on,
      to,
      sense,
      { ...making, into },
      stations[i]!.radius,
    )
  const apex = apexOf(profiles[0]!)
  const goOn = (i: number, to: OnTo | undefined, way: 1 | -1) => {
    if (!to) return []
    const on = scaled(stations[i]!.along, way)
    profiles[i] = ended(i, on, to)
    // The one on the other side of a mitre begins where this one ends.
    return to.isMitre ? [intoStrip(profiles[i]!, profiles[i]![apex]!, on)] : []
  }
  const [before, behind] = [goOn(0, onTo[0], -1), goOn(last, onTo[1], 1)]
  return stripOf([...before, ...profiles, ...behind], closed, sense, apex)
}

/** A profile moved on, corner by corner, past all faces that it leaves the surface at, or up to the first that stands in its way. */
function carriedOn(
  surface: Surface,
  profile: readonly ProfileCorner[],
  on: Vec3,
  { beyond, walls }: OnTo,
  sense: Sense,
  { clear, into: deep }: Making & { readonly into: number },
  radius: number,
): Vec3[] {
  const [out, into] = [aheadIn(beyond, on, sense), aheadIn(walls, on, -sense as Sense)]
  const ways = profile.map(({ at, within }) => {
    const far = (faces: OnTo['walls'], more: number) =>
      faces.map(({ point, normal, face }) => {
        const slant = dot(on, normal)
        const plane = dot(subtract(point, at), normal) / slant
        const met = surface.flatFace(face) ? plane : (surface.crossing(face, within, on, plane) ?? plane)
        return met + (sense * more) / slant
      })
    return into.length > 0 ? Math.min(...far(into, -deep)) : Math.max(0, ...far(out, clear))
  })
  // Where faces lie so that it would go on and on, it ends across the edge.
  const most = farthest * radius + 2 * clear
  return profile.map(({ at }, i) => (ways.some((way) => Math.abs(way) > most) ? at : add(at, scaled(on, ways[i]!))))
}

/** Those that end what goes on: what runs along the edge does not. */
function aheadIn(faces: OnTo['walls'], on: Vec3, sense: Sense): OnTo['walls'] {
  return faces.filter(({ normal }) => sense * dot(on, normal) > aside)
}

/** How many radii an end may go on beyond its vertex, or fall short of it. */
const farthest = 4

/** A face whose normal is less than this along an edge runs beside it, as a cosine. */
const aside = 0.02
