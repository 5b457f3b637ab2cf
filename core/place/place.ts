import { compose, directionIn, type Frame, moved, turnedAbout, turnedX, turnedY, turnedZ, world } from './frames.ts'
import { add, scaled, type Vec3 } from './vectors.ts'

/**
 * What a shape can stand on: a frame in the middle of a rectangle, `size` = [along u, along v] in mm (zero for the bed,
 * which is measured from its datum), and what its four sides are called.
 */
export interface Seating {
  readonly frame: Frame
  readonly size: readonly [number, number]
  readonly sides: SideNames
  /**
   * On a round face: its radius, the axis along v; negative in a bore, where the outward normal looks to the axis. What
   * stands there stands on the plane that touches it, and distances along u are measured along its circumference.
   */
  readonly round?: number | undefined
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
  readonly from: 'low' | 'centre' | 'high' | 'axis'
  readonly to: 'near' | 'centre' | 'far' | 'own' | 'middle'
  /** mm */
  readonly by: number
  /** what the distance is counted from in place of the seat's own sides, mm from the middle of the seat */
  readonly range?: Range | undefined
}
export type Range = readonly [low: number, high: number]

/** A place with its expressions computed; mm and degrees. */
export interface PlaceValues {
  readonly across: OffsetValue
  readonly along: OffsetValue
  readonly rest: 'on' | 'in'
  readonly lift: number
  readonly turn: number
  readonly tilt: number
  readonly lean: number
  /** in place of `rest`: which point of the shape comes to what height above the seat, mm */
  readonly level?: { readonly to: 'low' | 'centre' | 'high'; readonly at: number } | undefined
  /** how far it is turned about its pivot, and what an "up to" leaves standing */
  readonly pivot?: number | undefined
  readonly less?: number | undefined
}

/** How far a shape reaches from its own origin along a direction (unit, in the shape's own frame), mm. */
export type SupportFunction = (direction: Vec3) => number

/**
 * The frame of a shape placed on `seating`, in the frame that the seating is given in.
 *
 *     low edge            centre            high edge          from low:     edge + by
 *        |<------ by ------->(to)                              from centre:  middle + by
 *        |                             (to)<----- by ----->|   from high:    edge − by
 *
 * Near and far are the shape's true extents after all turns. How it `lies`: `by-origin` (holes) leaves the shape's own
 * origin on the seat, whatever the tilt, and so does `bundled`; `on-underside` rests it on its lowest point; a face of
 * the shape (in its own frame) is laid on the seat. `middled`: its centre is the middle of its extents, as that of a
 * bundle, of what is laid, and of what was drawn somewhere is; of all others it is their own origin, which of what is tilted is the middle of
 * its foot. The middle is that of its extents for all of them.
 */
export function placed(
  seating: Seating,
  values: PlaceValues,
  reach: SupportFunction,
  lies: Lying,
  middled = lies === 'bundled' || typeof lies === 'object',
): Frame {
  const turned = compose(compose(turnedZ(values.turn), turnedX(values.tilt)), turnedY(values.lean))
  const rotation = typeof lies === 'object' ? compose(turned, faceDown(lies)) : turned
  const along = (d: Vec3) => reach(directionIn(rotation, d))
  const across = solved(values.across, seating.size[0], along([1, 0, 0]), along([-1, 0, 0]), middled)
  const deep = solved(values.along, seating.size[1], along([0, 1, 0]), along([0, -1, 0]), middled)
  const rise = risen(values, along([0, 0, -1]), along([0, 0, 1]), lies)
  const own = { ...rotation, origin: [0, deep, rise + values.lift] as const }
  return compose(shifted(seating, across), own)
}

/** The frame of a seat, moved along u by `across` mm; on a round one it goes round its axis. */
export function shifted({ frame, round }: Seating, across: number): Frame {
  if (!round) return compose(frame, moved(world, [across, 0, 0]))
  const axis = add(frame.origin, scaled(frame.n, -round))
  return compose(turnedAbout(axis, frame.v, (across / round) * (180 / Math.PI)), frame)
}

export type Lying = 'by-origin' | 'bundled' | 'on-underside' | Frame

/** Turns a shape so that `face`, given in its own frame, looks down: u stays to the right, v turns to the front. */
function faceDown({ u, v, n }: Frame): Frame {
  const image = (i: 0 | 1 | 2): Vec3 => [u[i], -v[i], -n[i]]
  return { origin: [0, 0, 0], u: image(0), v: image(1), n: image(2) }
}

/** Height of the shape's origin above the seat, before its lift; `down` and `up` are its reaches. */
function risen({ rest, level }: PlaceValues, down: number, up: number, lies: Lying): number {
  const points = { low: -down, centre: (up - down) / 2, high: up }
  if (level) return level.at - (lies === 'by-origin' ? 0 : points[level.to])
  if (lies === 'by-origin' || lies === 'bundled') return 0
  return rest === 'on' ? down : -up
}

/** Position of the shape's origin; `high` and `low` are its reaches along + and −. */
function solved(offset: OffsetValue, size: number, high: number, low: number, middled: boolean): number {
  const points = {
    own: 0,
    centre: middled ? (high - low) / 2 : 0,
    middle: (high - low) / 2,
    near: offset.from === 'high' ? high : -low,
    far: offset.from === 'high' ? -low : high,
  }
  const [left, right] = offset.range ?? [-size / 2, size / 2]
  const middle = (left + right) / 2 + offset.by
  const marks = { low: left + offset.by, centre: middle, axis: middle, high: right - offset.by }
  return marks[offset.from] - points[offset.to]
}
