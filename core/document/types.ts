import type { Measure } from '../measures/index.ts'
import type { PartUnit } from '../units/index.ts'

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
  readonly pieces: readonly Piece[]
  readonly joints: readonly Joint[]
}
export const currentVersion = 1

/** One body that prints as one solid. */
export interface Piece {
  readonly id: string
  readonly name: string
  readonly colour: PieceColour
  readonly steps: readonly Step[]
}
export const pieceColours = ['pewter', 'sand', 'slate', 'sage', 'clay'] as const
export type PieceColour = (typeof pieceColours)[number]

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
  readonly ghost: boolean
  readonly mute: boolean
}

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
}
export type Triple = readonly [number, number, number]

/**
 * Where a step's shape stands, in the directions of its seat: `across` along u, `along` along v.
 * `lift` is along the outward normal, `turn` about it, `tilt` about u after turning; mm and degrees as expressions.
 * `rest`: `on` puts the shape's lowest point on the seat, `in` its highest point flush with it.
 */
export interface Place {
  readonly on: Seat
  readonly across: Offset
  readonly along: Offset
  readonly rest: 'on' | 'in'
  readonly lift: string
  readonly turn: string
  readonly tilt: string
}

/**
 * "12 from the left edge to its centre": `from` names the side of the seat (low is left or front), `to` the point of the
 * shape. From the high side the distance counts back into the face. `near` is the shape's side that faces the one
 * measured from, `far` the opposite one; measured from the centre, `near` is the low side.
 */
export interface Offset {
  readonly from: 'low' | 'centre' | 'high'
  readonly to: 'near' | 'centre' | 'far'
  readonly by: string
}

export type Repeat = RowRepeat | RingRepeat
export interface RowRepeat {
  readonly kind: 'row'
  readonly direction: 'across' | 'along' | 'up'
  readonly count: string
  readonly spacing: string
}
/** Round the centre of the seat, about its normal. A sweep of 360° closes the ring; a smaller one has a copy at each end. */
export interface RingRepeat {
  readonly kind: 'ring'
  readonly count: string
  readonly sweep: string
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
