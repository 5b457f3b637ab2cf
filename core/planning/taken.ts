import type { Outline, Part, Seat, TakenEdge, TakenPoint } from '../document/index.ts'
import { compose, type Frame, frame, pointIn, pointOut, world } from '../place/index.ts'
import { crossings, endOf, norm2, plus, type Segment, startOf, type Vec2 } from '../plane/index.ts'
import { type Problem, problem } from '../problems/index.ts'
import { edgesSeen } from './edges.ts'
import type { TakenPoints } from './outlines.ts'
import type { Plan } from './plan.ts'
import { faceCalled } from './sides.ts'

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
      const face = below && faceCalled(below, on.face)
      return below && face && compose(below.frame, face.frame)
    }
  }
}

/** Where the plan has what a point was taken over from, in the plane of the outline, mm; undefined where that is gone. */
export function takenAt(taken: TakenPoint, plane: Frame, plan: Plan): Vec2 | undefined {
  if ('edges' in taken) {
    const [a, b] = taken.edges.map((edge) => edgeOf(edge, plane, plan))
    return a && b && crossings(a, b, touching)[taken.nth]?.at
  }
  if ('point' in taken) {
    const segment = edgeOf(taken, plane, plan)
    return segment && curveFor(segment).points[taken.point]
  }
  const { step, face, u, v } = taken
  const known = plan.geometry.get(step)
  const named = face === '' ? undefined : known?.faces.find(({ name }) => name === face)
  if (!known || (face !== '' && !named)) return undefined
  const at = named
    ? pointOut(compose(known.frame, named.frame), [(u * named.size[0]) / 2, (v * named.size[1]) / 2, 0])
    : known.frame.origin
  const [x, y] = pointIn(plane, at)
  return [x, y]
}

/** Edges nearer than this meet, mm. */
export const touching = 1e-6

function edgeOf({ step, face, copy = 1 }: TakenEdge, plane: Frame, plan: Plan): Segment | undefined {
  return edgesSeen(plane, plan, step, copy).find((edge) => edge.face === face)?.segment
}

/** The curve of an outline that an edge is taken over as: its kind, its points, and its size where it has one. */
export function curveFor(s: Segment): {
  readonly kind: string
  readonly points: readonly Vec2[]
  readonly size?: number
} {
  switch (s.kind) {
    case 'line':
      return { kind: 'line', points: [s.from, s.to] }
    case 'arc': {
      if (Math.abs(s.sweepRad) > 2 * Math.PI - 1e-9) return { kind: 'circle', points: [s.centre], size: s.radius }
      // An outline's arcs run counter-clockwise.
      const ends = [startOf(s), endOf(s)]
      return { kind: 'arc', points: [s.centre, ...(s.sweepRad > 0 ? ends : ends.reverse())] }
    }
    case 'ellipse':
      return { kind: 'ellipse', points: [s.centre, plus(s.centre, s.major)], size: norm2(s.minor) }
    case 'cubic':
      return { kind: 'near', points: s.points }
  }
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
    const sizes = outline.curves.flatMap(({ id, taken }): [string, Vec2][] => {
      const edge = taken && edgeOf(taken, plane, plan)
      const size = edge && curveFor(edge).size
      return size === undefined ? [] : [[id, [size, 0]]]
    })
    out.set(outline.id, new Map([...points, ...sizes]))
  }
  return out
}

/** Advice where something that an outline took over is gone. */
export function takenProblems(part: Part, taken: TakenPoints): Problem[] {
  return part.outlines.flatMap(({ id, points, curves }): Problem[] => {
    const found = taken.get(id)
    const gone = [...points, ...curves].filter((each) => each.taken && !found?.has(each.id))
    if (gone.length === 0) return []
    const which = gone.map((each) => each.id).join(', ')
    return [problem('outline-taken-gone', ['outlines', id], { which }, { rank: 'advice' })]
  })
}

export function takenAlike(a: TakenPoints, b: TakenPoints): boolean {
  const text = (points: TakenPoints) => JSON.stringify([...points].map(([id, own]) => [id, [...own]]))
  return text(a) === text(b)
}
