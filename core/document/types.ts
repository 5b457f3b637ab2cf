import type { FieldKind } from '../fields/index.ts'
import type { Measure } from '../measures/index.ts'
import type { Dimension, PartUnit } from '../units/index.ts'

/** A part: one document. All numbers a maker typed are kept as typed, as expressions. */
export interface Part {
  readonly format: 'makrel-part'
  readonly version: typeof currentVersion
  readonly id: string
  readonly name: string
  readonly unit: PartUnit
  readonly printer: string
  readonly material: string
  readonly note: string
  readonly measures: readonly Measure[]
  readonly variants: readonly Variant[]
  /** the variant in force; empty for the measures as they are typed */
  readonly variant: string
  readonly outlines: readonly Outline[]
  readonly pieces: readonly Piece[]
  readonly joints: readonly Joint[]
  readonly readouts: readonly Readout[]
  /** the step of dragging and arrow keys, a length as it is shown; empty for that of the unit */
  readonly stepSize: string
  /** ways of looking at it that were kept by name */
  readonly views: readonly KeptView[]
}
export const currentVersion = 6

/** Where the part is looked at from, and how near; lengths in mm. */
export interface KeptView {
  readonly id: string
  readonly name: string
  /** unit, from the part towards the eye */
  readonly from: Triple
  /** in the middle of the view */
  readonly target: Triple
  /** of the view, across its height */
  readonly tall: number
  readonly parallel: boolean
}

/** A named set of values: measure -> the expression that it has in this variant, in place of its own. */
export interface Variant {
  readonly id: string
  readonly name: string
  readonly values: Readonly<Record<string, string>>
}

/** One body that prints as one solid. */
export interface Piece {
  readonly id: string
  readonly name: string
  readonly colour: PieceColour
  readonly steps: readonly Step[]
}
export const pieceColours = ['pewter', 'sand', 'slate', 'sage', 'clay'] as const
/** one of the muted tints by name, or any colour as #rrggbb */
export type PieceColour = (typeof pieceColours)[number] | `#${string}`

export const effects = ['add', 'cut', 'keep'] as const
export type Effect = (typeof effects)[number]

/** A shape's fields by name: expression, choice or yes/no, always as text. */
export type FieldTexts = Readonly<Record<string, string>>

/** One line of the build sheet. */
export interface Step {
  readonly id: string
  readonly name: string
  readonly effect: Effect
  readonly shape: string
  readonly fields: FieldTexts
  readonly place: Place
  readonly repeats: readonly Repeat[]
  /** numbers of the copies that are left out, from 1 in the order of the repeats */
  readonly omit: readonly number[]
  readonly ghost: boolean
  readonly mute: boolean
  /** a condition; where it does not hold, the step is left out. Empty: always */
  readonly when: string
  /** what a bundle holds; only bundles have it */
  readonly steps?: readonly Step[]
}

/** The kind of a step that makes one operand of the steps it holds. */
export const bundleKind = 'bundle'
/** The kind of a step that has the shape of another step, named by its field `of`. */
export const sameKind = 'same'

/** What a step's shape stands on. `held` is the last known frame of a reference that was removed. */
export type Seat =
  | { readonly kind: 'bed' }
  | { readonly kind: 'face'; readonly step: string; readonly face: string }
  | { readonly kind: 'held'; readonly was: string; readonly frame: HeldFrame }

export interface HeldFrame {
  readonly origin: Triple
  readonly u: Triple
  readonly v: Triple
  readonly size: readonly [number, number]
  /** of a round face: its radius, negative in a bore */
  readonly round?: number | undefined
}
export type Triple = readonly [number, number, number]

/**
 * Where a step's shape stands, in the directions of its seat: `across` along u, `along` along v.
 * `lift` is along the outward normal; `turn` about it, `tilt` about u and `lean` about v turn with the shape, in this
 * order; mm and degrees as expressions.
 * `rest`: `on` puts the shape's lowest point on the seat, `in` its highest point flush with it.
 * `base`: the face of the shape that lies on the seat; empty for its own underside.
 * `level` takes the place of `rest`: the height is that of another step, and `lift` goes on from there.
 * `pivot` turns the placed shape, last of all, about a line.
 * `until`: what a cut that goes "up to" something ends at.
 */
export interface Place {
  readonly on: Seat
  readonly across: Offset
  readonly along: Offset
  readonly rest: 'on' | 'in'
  readonly lift: string
  readonly turn: string
  readonly tilt: string
  readonly lean: string
  readonly base: string
  readonly level?: Level | undefined
  readonly pivot?: Pivot | undefined
  readonly until?: Until | undefined
}

/**
 * "12 from the left edge to its centre": `from` names the side of the seat (low is left or front), `to` the point of the
 * shape. From the high side the distance counts back into the face. `near` is the shape's side that faces the one
 * measured from, `far` the opposite one; measured from the centre, `near` is the low side. `own` is the point that a
 * shape is drawn about; for a bundle it is where its steps stand, so that 0 from the centre leaves them there.
 * `of`: the step whose extents take the place of the seat's, as in "in line with 5" or "flush with the left of 5".
 */
export interface Offset {
  readonly of?: string | undefined
  readonly from: 'low' | 'centre' | 'high'
  readonly to: 'near' | 'centre' | 'far' | 'own'
  readonly by: string
}

/** The height of a point of the shape is that of a point of step `of`, along the normal of the seat. */
export interface Level {
  readonly of: string
  readonly from: LevelPoint
  readonly to: LevelPoint
}
export const levelPoints = ['low', 'centre', 'high'] as const
export type LevelPoint = (typeof levelPoints)[number]

/**
 * Turned by `by` about a line of step `of`, or of the seat where that is empty: its normal (a round shape's axis), its
 * direction across or along, each through its middle; of a seat also the edge on one of its sides.
 */
export interface Pivot {
  readonly of: string
  readonly line: PivotLine
  readonly by: string
}
export const pivotLines = ['normal', 'across', 'along', 'low-across', 'high-across', 'low-along', 'high-along'] as const
export type PivotLine = (typeof pivotLines)[number]

/** Up to a face or datum, less a distance that is left standing. */
export interface Until {
  readonly step: string
  readonly face: string
  readonly less: string
}

/**
 * What is read off the part and can be used by its name. It belongs to the faces that it was taken between: a step's
 * face by its name, or the step's own axis and middle where that is empty.
 */
export interface Readout {
  readonly id: string
  readonly name: string
  readonly kind: string
  readonly of: readonly ReadPoint[]
  readonly note: string
}
export interface ReadPoint {
  readonly step: string
  readonly face: string
  /** the name of an edge of the finished solid that bounds this face, where that is meant */
  readonly edge?: string
}

/** Copies of a step; the kinds are those of the registry of repeats. Each repeat copies what the ones before it made. */
export interface Repeat {
  readonly kind: string
  readonly fields: FieldTexts
}

/** What ties two pieces that move. `place` stands on the bed. */
export interface Joint {
  readonly id: string
  readonly name: string
  readonly kind: string
  readonly pieces: readonly [string, string]
  readonly fields: FieldTexts
  readonly place: Place
}

/**
 * A flat drawing that shapes are made from. Points and sizes are where they were last; constraints and dimensions say
 * where they belong. It is drawn on the plane of `on`, its origin in the middle of that seat.
 */
export interface Outline {
  readonly id: string
  readonly name: string
  readonly on: Seat
  readonly points: readonly OutlinePoint[]
  readonly curves: readonly OutlineCurve[]
  readonly constraints: readonly OutlineConstraint[]
  /** what follows from the drawn curves: rounded corners, offsets, copies; each works on what the ones before it made */
  readonly derived: readonly Derived[]
  /** regions that are taken or left out against what nesting says, by their key */
  readonly toggled: readonly string[]
  readonly picture?: OutlinePicture | undefined
}

export interface OutlinePoint {
  readonly id: string
  /** mm */
  readonly at: readonly [number, number]
  /** smoothing keeps an edge here */
  readonly sharp?: boolean | undefined
  /** taken over from a face or an edge, and kept where that is */
  readonly taken?: TakenPoint | undefined
}
/** Names of what a point was taken over from, by which it is found again whatever the sizes become. */
export type TakenPoint = TakenFacePoint | TakenEdgePoint | TakenMeeting

/** A corner, the middle of a side, or the middle of a face of a step; of its own axis where `face` is empty. */
export interface TakenFacePoint {
  readonly step: string
  readonly face: string
  readonly u: -1 | 0 | 1
  readonly v: -1 | 0 | 1
}

/** An edge of a step as it is seen on the plane of the outline: the face that it bounds, of the first copy or another one. */
export interface TakenEdge {
  readonly step: string
  readonly face: string
  /** from 1 */
  readonly copy?: number | undefined
}

/** One of the points of the curve that an edge is taken over as, from 0. */
export interface TakenEdgePoint extends TakenEdge {
  readonly point: number
}

/** Where two edges meet; `nth` tells which of these places it is along the first one, from 0. */
export interface TakenMeeting {
  readonly edges: readonly [TakenEdge, TakenEdge]
  readonly nth: number
}

/** Its kinds are those of the registry of curves. */
export interface OutlineCurve {
  readonly id: string
  readonly kind: string
  readonly points: readonly string[]
  /** it helps to draw and bounds no material */
  readonly helper: boolean
  /** a circle's radius, an ellipse's smaller half axis; mm */
  readonly size?: number | undefined
  /** a circle or ellipse that was taken over from an edge, and is kept as large as that */
  readonly taken?: TakenEdge | undefined
  readonly fields?: FieldTexts | undefined
}

/** Points and curves that the kind names, by id; `origin`, `x-axis` and `y-axis` are always there. */
export interface OutlineConstraint {
  readonly id: string
  readonly kind: string
  readonly of: readonly string[]
  /** of a dimension: its expression */
  readonly value?: string | undefined
  /** a dimension that only tells what it is */
  readonly driven?: boolean | undefined
  /** where its number stands, from the middle of what it measures, mm */
  readonly label?: readonly [number, number] | undefined
}

export interface Derived {
  readonly id: string
  readonly kind: string
  readonly of: readonly string[]
  readonly fields: FieldTexts
}

/** A photograph or scan under the drawing. Its middle stands at `at`, it is `width` mm wide, turned by `turn` degrees. */
export interface OutlinePicture {
  /** data: URL of a PNG or JPEG */
  readonly data: string
  readonly at: readonly [number, number]
  readonly width: number
  readonly turn: number
  /** 0 (not to be seen) to 1 */
  readonly strength: number
}

export type FieldOwner =
  | { readonly shape: string }
  | { readonly joint: string }
  | { readonly repeat: string }
  | { readonly curve: string }
  | { readonly constraint: string }
  | { readonly derived: string }

export interface FieldKindOf {
  /** The kind of value that a field holds, or undefined where the owner or the field is not known. */
  (owner: FieldOwner, field: string): FieldKind | undefined
  /** What a read-out measures, or undefined where it is not known. */
  (owner: { readonly readout: string }): Dimension | undefined
}
