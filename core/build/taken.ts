import type { Outline, Part, Seat, TakenPoint } from '../document/index.ts'
import { composed, type Frame, frame, pointIn, pointOut, world } from '../place/index.ts'
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

/** Where all points are now that outlines took over. Those whose face is gone stay where they were last. */
export function takenPoints(part: Part, plan: Plan): TakenPoints {
  const out = new Map<string, ReadonlyMap<string, Vec2>>()
  for (const outline of part.outlines) {
    const plane = outline.points.some(({ taken }) => taken) ? planeOf(outline, plan) : undefined
    if (!plane) continue
    const points = outline.points.flatMap(({ id, taken }): [string, Vec2][] => {
      const at = taken && takenAt(taken, plane, plan)
      return at ? [[id, at]] : []
    })
    out.set(outline.id, new Map(points))
  }
  return out
}

export function takenAlike(a: TakenPoints, b: TakenPoints): boolean {
  const text = (points: TakenPoints) => JSON.stringify([...points].map(([id, own]) => [id, [...own]]))
  return text(a) === text(b)
}
