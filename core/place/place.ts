import { composed, directionIn, type Frame, inverse, turnedX, turnedZ } from './frames.ts'
import type { Vec3 } from './vectors.ts'

/**
 * What a shape can stand on: a frame in the middle of a rectangle, `size` = [along u, along v] in mm (zero for the bed,
 * which is measured from its datum), and what its four sides are called.
 */
export interface Seating {
  readonly frame: Frame
  readonly size: readonly [number, number]
  readonly sides: SideNames
}
export interface SideNames {
  readonly across: readonly [low: string, high: string]
  readonly along: readonly [low: string, high: string]
}
/** Seen from above, as the bed is looked at. */
export const levelSides: SideNames = { across: ['left', 'right'], along: ['front', 'back'] }
/** Seen from outside, upright. */
export const uprightSides: SideNames = { across: ['left', 'right'], along: ['bottom', 'top'] }

export interface OffsetValue {
  readonly from: 'low' | 'centre' | 'high'
  readonly to: 'near' | 'centre' | 'far'
  /** mm */
  readonly by: number
}

/** A place with its expressions computed; mm and degrees. */
export interface PlaceValues {
  readonly across: OffsetValue
  readonly along: OffsetValue
  readonly rest: 'on' | 'in'
  readonly lift: number
  readonly turn: number
  readonly tilt: number
}

/** How far a shape reaches from its own origin along a direction (unit, in the shape's own frame), mm. */
export type Reach = (direction: Vec3) => number

/**
 * The frame of a shape placed on `seating`, in the frame that the seating is given in.
 *
 *     low edge            centre            high edge          from low:     edge + by
 *        |<------ by ------->(to)                              from centre:  middle + by
 *        |                             (to)<----- by ----->|   from high:    edge − by
 *
 * Near and far are the shape's true extents after turn and tilt. `reachesDown` false (holes) leaves the shape's own
 * origin on the seat, whatever the tilt.
 */
export function placed(seating: Seating, values: PlaceValues, reach: Reach, reachesDown: boolean): Frame {
  const rotation = composed(turnedZ(values.turn), turnedX(values.tilt))
  const along = (d: Vec3) => reach(directionIn(rotation, d))
  const across = solved(values.across, seating.size[0], along([1, 0, 0]), along([-1, 0, 0]))
  const deep = solved(values.along, seating.size[1], along([0, 1, 0]), along([0, -1, 0]))
  const rise = reachesDown ? (values.rest === 'on' ? along([0, 0, -1]) : -along([0, 0, 1])) : 0
  return composed(seating.frame, { ...rotation, origin: [across, deep, rise + values.lift] })
}

/** Position of the shape's origin; `high` and `low` are its reaches along + and −. */
function solved(offset: OffsetValue, size: number, high: number, low: number): number {
  const point = offset.to === 'centre' ? 0 : (offset.to === 'near') === (offset.from !== 'high') ? -low : high
  const mark = offset.from === 'low' ? -size / 2 + offset.by : offset.from === 'high' ? size / 2 - offset.by : offset.by
  return mark - point
}

export interface RowValues {
  readonly kind: 'row'
  readonly direction: 'across' | 'along' | 'up'
  readonly count: number
  readonly spacing: number
}
export interface RingValues {
  readonly kind: 'ring'
  readonly count: number
  readonly sweep: number
}

/** The frames of all copies of a shape that stands in `first`, the original first; nested repeats multiply. */
export function copies(first: Frame, seat: Frame, repeats: readonly (RowValues | RingValues)[]): Frame[] {
  return repeats.reduce<Frame[]>(
    (frames, repeat) =>
      Array.from({ length: repeat.count }, (_, i) => i).flatMap((i) =>
        frames.map((f) =>
          i === 0 ? f : repeat.kind === 'row' ? shifted(f, seat, repeat, i) : swung(f, seat, repeat, i),
        ),
      ),
    [first],
  )
}

function shifted(f: Frame, seat: Frame, row: RowValues, i: number): Frame {
  const d = row.direction === 'across' ? seat.u : row.direction === 'along' ? seat.v : seat.n
  const by = row.spacing * i
  return { ...f, origin: [f.origin[0] + d[0] * by, f.origin[1] + d[1] * by, f.origin[2] + d[2] * by] }
}

function swung(f: Frame, seat: Frame, ring: RingValues, i: number): Frame {
  const closed = Math.abs(Math.abs(ring.sweep) - 360) < 1e-9
  const step = ring.sweep / (closed ? ring.count : Math.max(1, ring.count - 1))
  // seat · turn · seat⁻¹ · f
  const turn = composed(seat, composed(turnedZ(step * i), inverse(seat)))
  return composed(turn, f)
}
