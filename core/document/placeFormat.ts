import { byKind, number, oneOf, optional, orEmpty, pairOf, record, type Typed } from './described.ts'
import { expression, id, name, triple } from './formatTerms.ts'

const heldFrame = record({
  origin: triple,
  u: triple,
  v: triple,
  size: pairOf(number({ least: 0 })),
  /** of a round face: its radius, negative in a bore */
  round: optional(number()),
})

/** What a step's shape stands on. `held` is the last known frame of a reference that was removed. */
export const seat = byKind(
  'kind',
  {
    bed: record({ kind: oneOf('bed') }),
    face: record({ kind: oneOf('face'), step: id, face: name }),
    held: record({ kind: oneOf('held'), was: name, frame: heldFrame }),
  },
  'the bed, a face or a held place',
)

/**
 * "12 from the left edge to its centre": `from` names the side of the seat (low is left or front), `to` the point of the
 * shape. From the high side the distance counts back into the face. `near` is the shape's side that faces the one
 * measured from, `far` the opposite one; measured from the centre, `near` is the low side. `own` is the point that a
 * shape is drawn about, `middle` the middle of its extents; for a bundle it is where its steps stand, so that 0 from the centre leaves them there.
 * `of`: the step whose extents take the place of the seat's, as in "in line with 5" or "flush with the left of 5"; from its `axis`, the point
 * that it is drawn about takes their place: with `own` that is the distance between two axes.
 */
const offset = record({
  of: optional(id),
  from: oneOf('low', 'centre', 'high', 'axis'),
  to: oneOf('near', 'centre', 'far', 'own', 'middle'),
  by: expression,
})

export const levelPoints = ['low', 'centre', 'high'] as const
/** The height of a point of the shape is that of a point of step `of`, along the normal of the seat. */
const level = record({ of: id, from: oneOf(...levelPoints), to: oneOf(...levelPoints) })

export const pivotLines = ['normal', 'across', 'along', 'low-across', 'high-across', 'low-along', 'high-along'] as const
/**
 * Turned by `by` about a line of step `of`, or of the seat where that is empty: its normal (a round shape's axis), its
 * direction across or along, each through its middle; of a seat also the edge on one of its sides.
 */
const pivot = record({ of: orEmpty(id), line: oneOf(...pivotLines), by: expression })

/** Up to a face or datum, less a distance that is left standing. */
const until = record({ step: id, face: name, less: expression })

/**
 * Where a step's shape stands, in the directions of its seat: `across` along u, `along` along v.
 * `lift` is along the outward normal; `turn` about it, `tilt` about u and `lean` about v turn with the shape, in this
 * order; mm and degrees as expressions.
 */
export const place = record({
  on: seat,
  across: offset,
  along: offset,
  /** `on` puts the shape's lowest point on the seat, `in` its highest point flush with it */
  rest: oneOf('on', 'in'),
  lift: expression,
  turn: expression,
  tilt: expression,
  lean: expression,
  /** the face of the shape that lies on the seat; empty for its own underside */
  base: name,
  /** takes the place of `rest`: the height is that of another step, and `lift` goes on from there */
  level: optional(level),
  /** turns the placed shape, last of all, about a line */
  pivot: optional(pivot),
  /** what a cut that goes "up to" something ends at */
  until: optional(until),
})

export interface HeldFrame extends Typed<typeof heldFrame> {}
export type Seat = Typed<typeof seat>
export interface Offset extends Typed<typeof offset> {}
export interface Level extends Typed<typeof level> {}
export type LevelPoint = (typeof levelPoints)[number]
export interface Pivot extends Typed<typeof pivot> {}
export type PivotLine = (typeof pivotLines)[number]
export interface Until extends Typed<typeof until> {}
export interface Place extends Typed<typeof place> {}
