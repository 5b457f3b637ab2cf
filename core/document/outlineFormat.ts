import {
  anyOf,
  type Described,
  flag,
  list,
  number,
  oneOf,
  optional,
  pairOf,
  record,
  type Typed,
  whole,
} from './described.ts'
import { expression, fieldText, fieldTexts, hash, id, name } from './formatTerms.ts'
import { documentLimits } from './limits.ts'
import { seat } from './placeFormat.ts'

/** Coordinates on the plane of an outline, mm. */
const onPlane = pairOf(number({ least: -1e6, most: 1e6 }))
const side = oneOf(-1, 0, 1)

/** A corner, the middle of a side, or the middle of a face of a step; of its own axis where `face` is empty. */
const takenFacePoint = record({ step: id, face: name, u: side, v: side })

const edgeMembers = {
  step: id,
  face: name,
  /** from 1 */
  copy: optional(whole(1)),
}
/** An edge of a step as it is seen on the plane of the outline: the face that it bounds, of the first copy or another one. */
const takenEdge = record(edgeMembers)

/** One of the points of the curve that an edge is taken over as, from 0. */
const takenEdgePoint = record({ ...edgeMembers, point: whole(0, 3) })

/** Where two edges meet; `nth` tells which of these places it is along the first one, from 0. */
const takenMeeting = record({ edges: pairOf(takenEdge), nth: whole(0, 1000) })

/** Names of what a point was taken over from, by which it is found again whatever the sizes become. */
const takenPoint = anyOf(takenFacePoint, takenEdgePoint, takenMeeting)

export const outlinePoint = record({
  id,
  /** mm */
  at: onPlane,
  /** smoothing keeps an edge here */
  sharp: optional(flag),
  /** taken over from a face or an edge, and kept where that is */
  taken: optional(takenPoint),
})

/** Its kinds are those of the registry of curves. */
export const outlineCurve = record({
  id,
  kind: id,
  points: list(id, { most: documentLimits.curvePoints }),
  /** it helps to draw and bounds no material */
  helper: flag,
  /** a circle's radius, an ellipse's smaller semi-axis; mm */
  size: optional(number({ least: 0, most: 1e6 })),
  /** a circle or ellipse that was taken over from an edge, and is kept as large as that */
  taken: optional(takenEdge),
  fields: optional(fieldTexts),
})

/** Points and curves that the kind names, by id; `origin`, `x-axis` and `y-axis` are always there. */
export const outlineConstraint = record({
  id,
  kind: id,
  of: list(id, { most: 3 }),
  /** of a dimension: its expression */
  value: optional(expression),
  /** a dimension that only tells what it is */
  driven: optional(flag),
  /** where its number stands, from the middle of what it measures, mm */
  label: optional(onPlane),
})

export const derived = record({
  id,
  kind: id,
  of: list(name, { most: documentLimits.outlineCurves }),
  fields: fieldTexts,
})

/** A photograph or scan under the drawing. Its middle stands at `at`, it is `width` mm wide, turned by `turn` degrees. */
const outlinePicture = record({
  /** a PNG or JPEG among the part's assets, by its hash */
  asset: hash,
  at: onPlane,
  width: number({ above: 0, most: 1e5 }),
  turn: number({ least: -360, most: 360 }),
  /** 0 (not to be seen) to 1 */
  strength: number({ least: 0, most: 1 }),
})

const listOf = <T>(item: Described<T>, most: number) => list(item, { most, distinct: 'id' })

/**
 * A flat drawing that shapes are made from. Points and sizes are where they were last; constraints and dimensions say
 * where they belong. It is drawn on the plane of `on`, its origin in the middle of that seat.
 */
export const outline = record({
  id,
  name,
  on: seat,
  points: listOf(outlinePoint, documentLimits.outlinePoints),
  curves: listOf(outlineCurve, documentLimits.outlineCurves),
  constraints: listOf(outlineConstraint, documentLimits.outlineConstraints),
  /** what follows from the drawn curves: rounded corners, offsets, copies; each works on what the ones before it made */
  derived: listOf(derived, documentLimits.derived),
  /** regions that are taken or left out against what nesting says, by their key */
  toggled: list(fieldText, { most: documentLimits.toggled }),
  picture: optional(outlinePicture),
})

export interface TakenFacePoint extends Typed<typeof takenFacePoint> {}
export interface TakenEdge extends Typed<typeof takenEdge> {}
export interface TakenEdgePoint extends Typed<typeof takenEdgePoint> {}
export interface TakenMeeting extends Typed<typeof takenMeeting> {}
export type TakenPoint = Typed<typeof takenPoint>
export interface OutlinePoint extends Typed<typeof outlinePoint> {}
export interface OutlineCurve extends Typed<typeof outlineCurve> {}
export interface OutlineConstraint extends Typed<typeof outlineConstraint> {}
export interface Derived extends Typed<typeof derived> {}
export interface OutlinePicture extends Typed<typeof outlinePicture> {}
export interface Outline extends Typed<typeof outline> {}
