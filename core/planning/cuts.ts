import type { BodyStep } from '../document/index.ts'
import type { AnyValues } from '../fields/index.ts'
import {
  type Box,
  compose,
  corners,
  directionIn,
  dot,
  type Frame,
  type PlaceValues,
  pointOut,
  type Seating,
  type SupportFunction,
  scaled,
  subtract,
} from '../place/index.ts'
import { type Problem, problem } from '../problems/index.ts'
import { goesThrough, type ShapeDefinition } from '../shapes/index.ts'
import type { Body, BodyOperand } from './operand.ts'

/** How far cuts go: through all that is there, and past the faces they begin and end at. */

/** How far cuts reach out of the face they begin at, mm: less than any printer shows, more than numbers are rounded by. */
export const cutOverlap = 0.005

/** A bore's flats lie outside of its circle: so much farther at most, as a share, where there are twelve of them. */
const outOfRound = 1 / Math.cos(Math.PI / 12)

/** A mouth in `frame` that leans to its seat must reach so much farther that its lower rim still clears the face. */
export function overlapFor(frame: Frame, seat: Frame, reach: SupportFunction): number {
  const [x, y, up] = directionIn(frame, seat.n)
  const leans = Math.hypot(x, y)
  if (leans < 1e-9) return cutOverlap
  const slope = Math.min(10, leans / Math.abs(up))
  return cutOverlap + outOfRound * Math.max(0, reach([-x / leans, -y / leans, 0])) * slope
}

/** How far down its own axis a shape must go to leave the far side of all material, from any of its copies. */
export function depthThrough(frames: readonly Frame[], material: Box): number {
  // 1 mm past the far side, whatever the rounding of the numbers.
  return Math.max(1, ...frames.map((f) => depthBelow(f, material))) + 1
}

export function depthBelow(f: Frame, material: Box): number {
  return Math.max(...corners(material).map((corner) => -dot(subtract(corner, f.origin), f.n)))
}

/**
 * What makes the values of a cut as deep as all that is there, from its mouth in the seat on, whatever its depth says;
 * of what stands on its seat, as high.
 */
export function throughAll(
  { step, operation }: Pick<BodyOperand, 'step' | 'operation'>,
  body: Body,
  values: AnyValues,
  all: readonly Frame[],
  from: Frame,
  material: Box | undefined,
): (values: AnyValues) => AnyValues {
  if (body.kind !== 'shape' || !goesThrough(body.shape, operation.material === 'more', values)) return (each) => each
  const field = body.shape.deep!
  const own = values[field] as number
  const stands = step.place.rest === 'on'
  const mouths = all.map((motion) => {
    const frame = compose(motion, from)
    // What stands begins at its foot and rises, what is sunk begins at its top.
    return stands ? { ...frame, n: scaled(frame.n, -1) } : { ...frame, origin: pointOut(frame, [0, 0, own]) }
  })
  const depth = material ? depthThrough(mouths, material) : own
  return (each) => ({ ...each, [field]: depth })
}

/** A cut that is as deep as the body is thick ends in its far face. */
export function flushEnds(
  step: BodyStep,
  body: Body,
  values: AnyValues,
  place: PlaceValues,
  material: Box | undefined,
  thick: readonly number[],
) {
  const level = place.lift === 0 && place.tilt === 0 && place.lean === 0 && step.place.base === ''
  if (!level || !material || body.kind === 'bundle') return { top: false, bottom: false }
  if (body.shape.seat === 'stands' && place.rest === 'on') return { top: false, bottom: false }
  const { min, max } = body.shape.box(values, 0)
  const bottom = thick.some((mm) => Math.abs(mm - (max[2] - min[2])) < 1e-6)
  return { top: body.shape.seat === 'stands', bottom }
}

/** The plane of the face that a cut begins at, in its own frame; undefined where it begins at none, or at a round one. */
export function mouthOf(
  body: Body,
  values: AnyValues,
  frame: Frame,
  seating: Seating,
  { top }: BodyOperand['flush'],
): BodyOperand['mouth'] {
  if (body.kind === 'bundle' || seating.round !== undefined) return undefined
  if (top) return { normal: [0, 0, 1], offset: body.shape.box(values, 0).max[2] }
  return body.shape.seat === 'enters' ? { normal: directionIn(frame, seating.frame.n), offset: 0 } : undefined
}

/** A hole wider than the face it enters is built, but hardly meant. */
export function adviceOnSize(
  step: BodyStep,
  shape: ShapeDefinition,
  values: AnyValues,
  seating: Seating,
): Problem | undefined {
  if (shape.seat !== 'enters' || step.place.on.kind === 'bed') return undefined
  const { min, max } = shape.box(values, 0)
  const wide = Math.min(max[0] - min[0], max[1] - min[1])
  const body = Math.min(...seating.size)
  if (wide < body) return undefined
  const data = { size: `${Math.round(wide * 1000) / 1000} mm`, body: `${Math.round(body * 1000) / 1000} mm` }
  const quick = shape.quick[0]
  const field = typeof quick === 'object' ? quick.field : (quick ?? '')
  return problem('cut-wider-than-body', ['steps', step.id, 'fields', field], data, { rank: 'warning' })
}
