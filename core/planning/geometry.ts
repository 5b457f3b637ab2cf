import type { HeldFrame } from '../document/index.ts'
import {
  type Box,
  compose,
  cross,
  directionIn,
  type Frame,
  frame,
  isMirrored,
  levelSides,
  type PlaceValues,
  type Range,
  type Seating,
  type SupportFunction,
  scaled,
  type Vec3,
  world,
} from '../place/index.ts'
import type { NamedFace } from '../shapes/index.ts'
import type { ResolvedRepeat } from './fieldWork.ts'

/** Where a step stands, for drawing its dimensions and for what stands on it. */
export interface StepGeometry {
  readonly seating: Seating
  /** of the first copy, in the bed's frame */
  readonly frame: Frame
  /** of the first copy, before its repeats moved it */
  readonly stands: Frame
  /** in the step's own frame */
  readonly faces: readonly NamedFace[]
  /** of all copies, those left out too */
  readonly frames: readonly Frame[]
  /** the same as they are made: where a bundle is scaled, directions are as long as it is scaled along them, and may lean */
  readonly made: readonly Frame[]
  /** how far the first copy reaches from its origin along the seat's directions: [low, high] across and along, mm */
  readonly extent: readonly [Range, Range]
  /** how far it reaches from the origin of `frame`, in that frame */
  readonly reach: SupportFunction
  /** with what other steps say filled in; of the first copy */
  readonly place: PlaceValues
}

export const bedSeating: Seating = { frame: world, size: [0, 0], sides: levelSides }

export function isFinitePlaced(known: StepGeometry | undefined, box: Box | undefined): boolean {
  const numbers = [
    ...(known ? [...known.frames.flatMap(({ origin, u, v }) => [...origin, ...u, ...v]), ...known.extent.flat()] : []),
    ...(known?.faces.flatMap(({ frame: own }) => [...own.origin, ...own.n]) ?? []),
    ...(box ? [...box.min, ...box.max] : []),
  ]
  return numbers.every(Number.isFinite)
}

/** What carries the first copy of a step to all of them, later repeats copying what earlier ones made. */
export function motions(seat: Seating, repeats: readonly ResolvedRepeat[]): readonly Frame[] {
  return repeats.reduce<readonly Frame[]>(
    (before, { definition, values }) =>
      definition.motions(values, seat).flatMap((motion) => before.map((each) => compose(motion, each))),
    [world],
  )
}

/** How far a shape that stands in `frame` reaches along the two directions of its seat, about its origin. */
export function extentOn(seating: Seating, f: Frame, reach: SupportFunction): readonly [Range, Range] {
  const along = (d: Vec3): Range => {
    const own = directionIn(f, d)
    return [-reach(scaled(own, -1)), reach(own)]
  }
  const { u, v } = seating.frame
  return [along(u), along(v)]
}

/** On a mirrored copy, a seat is looked at from outside as any other: its sides change names, not the way it turns. */
export function unmirrored(seating: Seating): Seating {
  if (!isMirrored(seating.frame)) return seating
  const [low, high] = seating.sides.across
  return {
    frame: { ...seating.frame, u: scaled(seating.frame.u, -1) },
    size: seating.size,
    sides: { ...seating.sides, across: [high, low] },
    round: seating.round,
  }
}

/** Where a step that loses its reference stays. */
export function heldFrameOf(seating: Seating): HeldFrame {
  const { frame, size, round } = seating
  const { origin, u, v } = frame
  return { origin, u, v, size, ...(round === undefined ? {} : { round }) }
}

export function heldSeating({ origin, u, v, size, round }: HeldFrame): Seating {
  return { frame: { ...frame(origin, u, v), n: cross(u, v) }, size, sides: levelSides, round }
}
