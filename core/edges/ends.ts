import { nextHalfEdge } from '../mesh/index.ts'
import { add, cross, dot, norm, scaled, subtract, unit, type Vec3 } from '../place/index.ts'
import { type Contact, type EdgeForm, flatsOver, type Sense, type Station } from './ball.ts'
import { apexOf, arcOf, type ClosedSurface, type Making, profileOf } from './body.ts'
import { ballCornerOf, meetingOf, type PivotCorner, pivotAt, pivotOf } from './corner.ts'
import { directionOf, type Spoke, spokesOf } from './courses.ts'
import type { Placed, Rolled } from './roll.ts'
import type { Foot, Surface } from './surface.ts'

/** A course whose ends are being settled. */
export interface Ending extends Rolled {
  /** faces that its first and its last profile go on to */
  readonly onTo: [OnTo | undefined, OnTo | undefined]
}

/** Faces at an end: those that it goes past, and those that stand in its way. */
export interface OnTo {
  readonly beyond: readonly Facing[]
  readonly walls: readonly Facing[]
  /** whether the wall is a plane in which it meets another course */
  readonly isMitre?: boolean
}
interface Facing {
  readonly point: Vec3
  readonly normal: Vec3
  readonly face: number
}

/** The first (0) or the last (1) end of a course. */
export interface End {
  readonly rolled: Ending
  readonly end: 0 | 1
}

/** A body at a corner, and the courses that come to it. */
export interface CornerBody extends ClosedSurface {
  readonly sense: Sense
  readonly of: readonly Rolled[]
  /** where a ball goes on round an edge of the other sense: with the face that both courses have in common on the left */
  readonly turn?: Turn
  /** the ball that lies in it, with the ends that come to it, counter-clockwise as seen from outside */
  readonly ball?: { readonly centre: Vec3; readonly ends: readonly End[] }
}

/** How a ball goes on from one course to the next. */
export interface Turn {
  readonly arrives: End
  readonly leaves: End
  readonly stations: readonly Station[]
  readonly flats: number
}

/** Finds how all courses go on at their ends, and makes the bodies between those that come to one corner. */
export function settledEnds(
  surface: Surface,
  rolled: readonly Ending[],
  form: EdgeForm,
  fineness: number,
): CornerBody[] {
  const all = new Map<number, End[]>()
  for (const each of rolled) {
    const { halfEdges, closed } = each.course
    if (closed) continue
    for (const end of [0, 1] as const) {
      const vertex = surface.from(end === 0 ? halfEdges[0]! : nextHalfEdge(halfEdges.at(-1)!))
      const there = all.get(vertex)
      if (there) there.push({ rolled: each, end })
      else all.set(vertex, [{ rolled: each, end }])
    }
  }
  return [...all].flatMap(
    ([vertex, ends]) => cornerAt({ surface, form, fineness, vertex: surface.at(vertex) }, ends) ?? [],
  )
}

interface Corner {
  readonly surface: Surface
  readonly form: EdgeForm
  readonly fineness: number
  readonly vertex: Vec3
}

/** The half-edge in which an end's course leaves its vertex. */
function leaving(surface: Surface, { rolled, end }: End): number {
  const { halfEdges } = rolled.course
  return end === 0 ? halfEdges[0]! : surface.twin(halfEdges.at(-1)!)
}

function stationAt({ rolled, end }: End): Placed {
  return rolled.stations.at(end === 0 ? 0 : -1)!
}

function cornerAt(corner: Corner, ends: readonly End[]): CornerBody | undefined {
  const { surface } = corner
  const spokes = spokesOf(surface, leaving(surface, ends[0]!))
  const own = spokes.map((spoke) => ends.find((end) => leaving(surface, end) === spoke.halfEdge))
  const { sense } = ends[0]!.rolled.course
  if (spokes.length === 3 && corner.form.corners === 'ball') {
    const radii = ends.map((end) => stationAt(end).radius)
    const alike = radii.every((r) => Math.abs(r - radii[0]!) < 1e-9)
    if (alike && own.every((end) => end !== undefined)) {
      const made = ballCorner(corner, spokes, own, radii[0]!, sense)
      if (made) return made
    }
    const other = spokes.findIndex((spoke, j) => !own[j] && spoke.sense !== sense)
    const made = ends.length === 2 && other >= 0 ? pivotCorner(corner, spokes, own, other, sense) : undefined
    if (made) return made
  }
  const mitre = corner.form.corners === 'mitre' && spokes.length === 3 ? mitreAt(corner, spokes, own, sense) : undefined
  own.forEach((end, j) => {
    if (end && mitre) end.rolled.onTo[end.end] = { beyond: [], walls: [mitre(end)], isMitre: true }
    else if (end) end.rolled.onTo[end.end] = goingOn(surface, spokes, j, sense)
  })
  return undefined
}

/** Where two bevels of one face meet over an edge of the other sense: in the plane half-way between. */
function mitreAt(
  { surface, vertex }: Corner,
  spokes: readonly Spoke[],
  own: readonly (End | undefined)[],
  sense: Sense,
): ((end: End) => Facing) | undefined {
  const other = spokes.findIndex((spoke, j) => !own[j] && spoke.sense !== sense)
  const both = own.filter((end) => end !== undefined)
  if (other < 0 || both.length !== 2) return undefined
  const onwards = (end: End) => scaled(stationAt(end).along, end.end === 0 ? -1 : 1)
  return (end) => {
    const beside = both.find((each) => each !== end)!
    const normal = scaled(unit(subtract(onwards(end), onwards(beside))), -sense)
    // It holds the edge between.
    const axis = directionOf(surface, spokes[other]!.halfEdge)
    return { point: vertex, normal: unit(subtract(normal, scaled(axis, dot(normal, axis)))), face: -1 }
  }
}

/** An end goes on up to the faces beside it that face it, or past those that do not. */
function goingOn(surface: Surface, spokes: readonly Spoke[], j: number, sense: Sense): OnTo | undefined {
  const count = spokes.length
  if (count < 3) return undefined
  const [beyond, walls]: [Facing[], Facing[]] = [[], []]
  const note = (over: Spoke, { halfEdge }: Spoke) => {
    const face = surface.face(halfEdge)
    const facing = { point: surface.at(surface.from(halfEdge)), normal: surface.normal(halfEdge), face }
    if (over.sense === sense) beyond.push(facing)
    else walls.push(facing)
  }
  const [after, before, last] = [1, count - 1, count - 2].map((k) => spokes[(j + k) % count]!) as [Spoke, Spoke, Spoke]
  note(after, after)
  note(before, last)
  return { beyond, walls }
}

/** Makes `station` the end of a course, which has no balls behind it. */
function endWith({ rolled, end }: End, station: Station, gone: number): void {
  const kept = rolled.stations.filter((each) => (end === 0 ? each.gone > gone + 1e-9 : each.gone < gone - 1e-9))
  const placed = { ...station, gone }
  rolled.stations = end === 0 ? [placed, ...kept] : [...kept, placed]
}

/** Where the plane through `centre` across a course meets it, beginning at its end, and how far along that is. */
function footOn(surface: Surface, { rolled, end }: End, centre: Vec3): { edge: Vec3; gone: number } {
  const { halfEdges } = rolled.course
  const count = halfEdges.length
  for (let k = 0; ; k++) {
    const i = end === 0 ? k : count - 1 - k
    const h = halfEdges[i]!
    const [p, q] = [surface.at(surface.from(h)), surface.at(surface.from(nextHalfEdge(h)))]
    const line = subtract(q, p)
    const share = dot(subtract(centre, p), line) / dot(line, line)
    if ((end === 0 ? share <= 1 : share >= 0) || k === count - 1)
      return { edge: add(p, scaled(line, share)), gone: i + share }
  }
}

/** What is said of a place where a ball touches a flat face near a corner. */
function contactOn(surface: Surface, at: Vec3, normal: Vec3, h: number): Contact {
  return { at, normal, bulge: 0, curve: 0, past: -1, face: surface.face(h) }
}

function ballCorner(
  { surface, form, fineness, vertex }: Corner,
  spokes: readonly Spoke[],
  ends: readonly End[],
  radius: number,
  sense: Sense,
): CornerBody | undefined {
  const ball = ballIn(surface, vertex, spokes, radius, sense)
  if (!ball) return undefined
  const { centre, feet } = ball
  const [contacts, normals] = [feet.map(({ at }) => at), feet.map(({ normal }) => normal)]
  const making = ends.map((end, j) => {
    const before = (j + 2) % 3
    const { edge, gone } = footOn(surface, end, centre)
    const contact = (k: number) => contactOn(surface, contacts[k]!, normals[k]!, spokes[k]!.halfEdge)
    const [left, right] = end.end === 0 ? [j, before] : [before, j]
    endWith(
      end,
      { edge, along: stationAt(end).along, centre, radius, left: contact(left), right: contact(right) },
      gone,
    )
    return makingOf(end.rolled.stations, form, fineness)
  })
  const arcs = ends.map((end, j) => {
    const arc = arcOf(stationAt(end), making[j]!)
    return end.end === 0 ? arc.reverse() : arc
  })
  const overs = ends.map((end, j) => {
    const profile = profileOf(stationAt(end), sense, making[j]!, flatIn(surface))
    return profile[apexOf(profile)]!
  })
  const clear = Math.max(...making.map((each) => each.clear))
  const ways = ends.map((end) => scaled(stationAt(end).along, end.end === 0 ? 1 : -1))
  const body = ballCornerOf({ vertex, centre, contacts, normals, arcs, overs, ways }, sense, clear)
  return { ...body, sense, of: ends.map(({ rolled }) => rolled), ball: { centre, ends } }
}

/** The ball that touches the three faces of a corner, and where; the faces are left of their spokes. */
function ballIn(
  surface: Surface,
  vertex: Vec3,
  spokes: readonly Spoke[],
  radius: number,
  sense: Sense,
): { readonly centre: Vec3; readonly feet: readonly Foot[] } | undefined {
  let planes = spokes.map(({ halfEdge }): Foot => ({ at: vertex, normal: surface.normal(halfEdge) }))
  const under = ({ at, normal }: Foot) => ({ point: subtract(at, scaled(normal, sense * radius)), normal })
  let centre = meetingOf(planes.map(under))
  const flat = spokes.map(({ halfEdge }) => surface.flatFace(surface.face(halfEdge)) !== undefined)
  // On round faces the plane at the nearest place leads on (Newton's method).
  for (let i = 0; centre && i < 20 && !flat.every(Boolean); i++) {
    const from: Vec3 = centre
    planes = planes.map((plane, k) =>
      flat[k] ? plane : (surface.nearest(surface.face(spokes[k]!.halfEdge), from) ?? plane),
    )
    centre = meetingOf(planes.map(under))
    if (centre && norm(subtract(centre, from)) < 1e-9) break
  }
  if (!centre || norm(subtract(centre, vertex)) > farthest * radius) return undefined
  const middle = centre
  const feet = planes.map(
    ({ at, normal }, k): Foot =>
      flat[k] ? { at: add(middle, scaled(normal, sense * radius)), normal } : { at, normal },
  )
  return { centre: middle, feet }
}

/** A ball farther from its corner than so many radii lies in none that could be rounded. */
const farthest = 20

function pivotCorner(
  { surface, form, fineness, vertex }: Corner,
  spokes: readonly Spoke[],
  own: readonly (End | undefined)[],
  other: number,
  sense: Sense,
): CornerBody | undefined {
  const axis = directionOf(surface, spokes[other]!.halfEdge)
  // The face that both have in common lies left of the spoke after the other one, and right of the next.
  const [one, two] = [(other + 1) % 3, (other + 2) % 3]
  const normalAt = (j: number) => surface.normal(spokes[j]!.halfEdge)
  const pivot: PivotCorner = {
    ...{ vertex, axis, normal: normalAt(one) },
    from: scaled(normalAt(two), -sense),
    to: scaled(normalAt(other), -sense),
    radii: [stationAt(own[two]!).radius, stationAt(own[one]!).radius],
  }
  if (Math.abs(dot(axis, pivot.normal)) < tooFlat) return undefined
  const making: Making[] = []
  for (const [share, j, face] of [
    [0, two, two],
    [1, one, other],
  ] as const) {
    const end = own[j]!
    const ball = pivotAt(pivot, share, sense)
    const { edge, gone } = footOn(surface, end, ball.centre)
    const shared = contactOn(surface, ball.left.at, ball.left.normal, spokes[one]!.halfEdge)
    const beside = contactOn(surface, ball.right.at, ball.right.normal, spokes[face]!.halfEdge)
    const onLeft = (j === one) === (end.end === 0)
    const [left, right] = onLeft ? [shared, beside] : [beside, shared]
    const { centre, radius } = ball
    endWith(end, { edge, along: stationAt(end).along, centre, radius, left, right }, gone)
    making.push(makingOf(end.rolled.stations, form, fineness))
  }
  const most = { ...making[0]!, flats: Math.max(...making.map((each) => each.flats)) }
  const wide = norm(subtract(pivotAt(pivot, 0, sense).left.at, vertex))
  const turn = Math.atan2(norm(cross(pivot.from, pivot.to)), dot(pivot.from, pivot.to))
  const steps = flatsOver(turn, Math.max(wide, ...pivot.radii), fineness)
  const stations = Array.from({ length: steps + 1 }, (_, i) => pivotAt(pivot, i / steps, sense))
  const arcs = stations.map((station) => arcOf(station, most))
  const ways = [pivotAt(pivot, 0, sense).along, pivotAt(pivot, 1, sense).along] as const
  const body = pivotOf(pivot, arcs, ways, sense, Math.max(...making.map(({ clear }) => clear)))
  const foot = stations[0]!.right.at
  // Where it touches that edge at one place; along a slanted one it slides.
  const isOne = stations.every(({ right }) => norm(subtract(right.at, foot)) < 1e-9)
  const round = stations.map((station) => ({ ...station, right: { ...station.right, at: foot } }))
  const goesOn = { arrives: own[two]!, leaves: own[one]!, stations: round, flats: most.flats }
  return { ...body, sense, of: [own[one]!.rolled, own[two]!.rolled], ...(isOne && { turn: goesOn }) }
}

/** An edge that leaves a face at less than this, as a sine, has no room for a ball to go round it. */
const tooFlat = 0.2

/** Whether a contact lies on a face that is flat as a whole. */
export function flatIn(surface: Surface): (contact: Contact) => boolean {
  return ({ face }) => surface.flatFace(face) !== undefined
}

/** How bodies at these balls are made. */
export function makingOf(stations: readonly Station[], form: EdgeForm, fineness: number): Making {
  const turns = stations.map(({ left, right }) =>
    Math.atan2(norm(cross(left.normal, right.normal)), dot(left.normal, right.normal)),
  )
  const radius = Math.max(...stations.map((each) => each.radius))
  const bulge = Math.max(...stations.flatMap(({ left, right }) => [left.bulge, right.bulge]))
  // Farther out than a flat is off its curve.
  return {
    flats: form.flats(Math.max(...turns), radius, fineness),
    clear: 2 * fineness + 1e-3 + bulge,
    deeper: form.deeper ?? 0,
  }
}
