import type { Outline, Part, Seat, TakenPoint, TakenRound } from '../document/index.ts'
import { composed, dot, type Frame, frame, pointIn, pointOut, world } from '../place/index.ts'
import type { Vec2 } from '../plane/index.ts'
import type { TakenPoints } from './outlines.ts'
import type { Plan } from './plan.ts'

/** The plane that an outline is drawn on: its origin, right and up, in the bed's frame; undefined where that is not known. */
export function planeOf({ on }: Pick<Outline, 'on'>, plan: Plan): Frame | undefined {
  return seatFrame(on, plan)
}

function seatFrame(on: Seat, plan: Plan): Frame | undefined {
  switch (on.kind) {
    case 'bed':
      return world
    case 'held':
      return frame(on.frame.origin, on.frame.u, on.frame.v)
    case 'face': {
      const below = plan.geometry.get(on.step)
      const face = below?.faces.find(({ name }) => name === on.face)
      return below && face && composed(below.frame, face.frame)
    }
  }
}

/** Where the plan has a point that is taken over from a step, in the plane of the outline, mm. */
export function takenAt({ step, face, u, v }: TakenPoint, plane: Frame, plan: Plan): Vec2 | undefined {
  const known = plan.geometry.get(step)
  const named = face === '' ? undefined : known?.faces.find(({ name }) => name === face)
  if (!known || (face !== '' && !named)) return undefined
  const at = named
    ? pointOut(composed(known.frame, named.frame), [(u * named.size[0]) / 2, (v * named.size[1]) / 2, 0])
    : known.frame.origin
  const [x, y] = pointIn(plane, at)
  return [x, y]
}

/** The radius of a round face; undefined where it is gone. */
function roundOf({ step, face }: TakenRound, plan: Plan): number | undefined {
  const round = plan.geometry.get(step)?.faces.find(({ name }) => name === face)?.round
  return round === undefined ? undefined : Math.abs(round)
}

/** Where all points are now that outlines took over. Those whose face is gone stay where they were last. */
export function takenPoints(part: Part, plan: Plan): TakenPoints {
  const out = new Map<string, ReadonlyMap<string, Vec2>>()
  for (const outline of part.outlines) {
    const takes = [...outline.points, ...outline.curves].some(({ taken }) => taken)
    const plane = takes ? planeOf(outline, plan) : undefined
    if (!plane) continue
    const points = outline.points.flatMap(({ id, taken }): [string, Vec2][] => {
      const at = taken && takenAt(taken, plane, plan)
      return at ? [[id, at]] : []
    })
    const rounds = outline.curves.flatMap(({ id, taken }): [string, Vec2][] => {
      const radius = taken && roundOf(taken, plan)
      return radius === undefined ? [] : [[id, [radius, 0]]]
    })
    out.set(outline.id, new Map([...points, ...rounds]))
  }
  return out
}

export function takenAlike(a: TakenPoints, b: TakenPoints): boolean {
  const text = (points: TakenPoints) => JSON.stringify([...points].map(([id, own]) => [id, [...own]]))
  return text(a) === text(b)
}

/** Something of the part that an outline can take over: a point, or an edge by its two ends. */
export interface TakenOffer {
  readonly step: string
  /** "middle of top", "front edge of top" or "axis" */
  readonly what: string
  readonly points: readonly TakenPoint[]
  /** of a round seen along its axis: the face, about its one point */
  readonly round?: TakenRound
  /** where they are in the plane of the outline, mm */
  readonly at: readonly Vec2[]
  /** of a round: its radius, mm */
  readonly radius?: number
}

/** Corners, edges and middles of all flat faces along a plane, and axes square to it; what lies on one another only once. */
export function takenOffers(plane: Frame, plan: Plan): TakenOffer[] {
  const out: TakenOffer[] = []
  for (const [step, { faces, frame: own }] of plan.geometry) {
    const offer = (what: string, ...points: readonly TakenPoint[]) => {
      const at = points.map((point) => takenAt(point, plane, plan))
      if (at.includes(undefined) || out.some((other) => alike(other.at, at as Vec2[]))) return
      out.push({ step, what, points, at: at as Vec2[] })
    }
    for (const face of faces) {
      if (face.round !== undefined || Math.abs(dot(composed(own, face.frame).n, plane.n)) < along) continue
      const corner = (u: -1 | 0 | 1, v: -1 | 0 | 1): TakenPoint => ({ step, face: face.name, u, v })
      const [left, right] = face.sides.across
      const [front, back] = face.sides.along
      offer(`middle of ${face.name}`, corner(0, 0))
      for (const [u, v, side, end] of [
        [-1, -1, left, front],
        [1, -1, right, front],
        [1, 1, right, back],
        [-1, 1, left, back],
      ] as const)
        offer(`corner ${side} ${end} of ${face.name}`, corner(u, v))
      offer(`${front} edge of ${face.name}`, corner(-1, -1), corner(1, -1))
      offer(`${back} edge of ${face.name}`, corner(-1, 1), corner(1, 1))
      offer(`${left} edge of ${face.name}`, corner(-1, -1), corner(-1, 1))
      offer(`${right} edge of ${face.name}`, corner(1, -1), corner(1, 1))
    }
    if (Math.abs(dot(own.n, plane.n)) < along) continue
    const axis: TakenPoint = { step, face: '', u: 0, v: 0 }
    offer('axis', axis)
    const at = takenAt(axis, plane, plan)
    for (const { name, round, frame: face } of faces) {
      // A round about the step's own axis; one over a drawn arc has a middle of its own.
      const about = round !== undefined && Math.abs(Math.hypot(face.origin[0], face.origin[1]) - Math.abs(round)) < 1e-6
      if (!at || !about || out.some((other) => other.radius === Math.abs(round) && alike(other.at, [at]))) continue
      out.push({
        step,
        what: `round of ${name}`,
        points: [axis],
        round: { step, face: name },
        at: [at],
        radius: Math.abs(round),
      })
    }
  }
  return out
}

/** Cosine of an angle that is still no angle. */
const along = 0.9999

/** The same point, or the same edge whichever way it is run along. */
function alike(a: readonly Vec2[], b: readonly Vec2[]): boolean {
  const meets = (order: readonly Vec2[]) =>
    a.length === order.length && a.every(([x, y], i) => Math.hypot(x - order[i]![0], y - order[i]![1]) < 0.01)
  return meets(b) || meets([...b].reverse())
}
