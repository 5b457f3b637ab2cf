import type { LevelPoint, Offset, Pivot, Place } from '../document/index.ts'
import {
  add,
  compose,
  directionIn,
  dot,
  type Frame,
  norm,
  type PlaceValues,
  type Range,
  type Seating,
  type SupportFunction,
  scaled,
  subtract,
  turnedAbout,
  type Vec3,
} from '../place/index.ts'

/** Another step, as a place is told by it: where its first copy stands, and how far it reaches from there. */
export interface Neighbour {
  readonly frame: Frame
  readonly reach: SupportFunction
}

/** `values` with the distances that are told by other steps found; `neighbour` answers for each of these. */
export function related(
  place: Place,
  values: PlaceValues,
  seating: Seating,
  neighbour: (id: string) => Neighbour,
): PlaceValues {
  const ranged = (offset: Offset, given: PlaceValues['across'], across: boolean) =>
    offset.of ? { ...given, range: rangeFrom(offset, seating, neighbour(offset.of), across) } : given
  return {
    ...values,
    across: ranged(place.across, values.across, true),
    along: ranged(place.along, values.along, false),
    ...(place.level
      ? {
          level: {
            to: place.level.to,
            at: pointOf(rangeAlong(seating.frame, seating.frame.n, neighbour(place.level.of)), place.level.from),
          },
        }
      : {}),
  }
}

function pointOf([low, high]: Range, point: LevelPoint): number {
  return { low, centre: (low + high) / 2, high }[point]
}

/** From where to where a step reaches along `direction`, counted from the middle of the seat, mm. */
function rangeAlong(seat: Frame, direction: Vec3, { frame, reach }: Neighbour): Range {
  const at = dot(subtract(frame.origin, seat.origin), direction)
  const own = directionIn(frame, direction)
  return [at - reach(scaled(own, -1)), at + reach(own)]
}

/** From where to where a step reaches; from its axis, where the point is that it is drawn about. */
function rangeFrom({ from }: Offset, seating: Seating, other: Neighbour, across: boolean): Range {
  return rangeOn(seating, from === 'axis' ? { ...other, reach: () => 0 } : other, across)
}

/** On a round seat, across goes round the axis: the step's middle lies so far round, and it is as wide as it is there. */
function rangeOn(seating: Seating, other: Neighbour, across: boolean): Range {
  const { frame, round } = seating
  if (!across) return rangeAlong(frame, frame.v, other)
  if (!round) return rangeAlong(frame, frame.u, other)
  const axis = add(frame.origin, scaled(frame.n, -round))
  const away = subtract(other.frame.origin, axis)
  // In a bore the seat's normal looks to the axis.
  const out = Math.sign(round)
  const angle = Math.atan2(out * dot(away, frame.u), out * dot(away, frame.n))
  const { u } = compose(turnedAbout([0, 0, 0], frame.v, (angle * 180) / Math.PI), frame)
  const own = directionIn(other.frame, u)
  const middle = angle * round
  return [middle - other.reach(scaled(own, -1)), middle + other.reach(own)]
}

/** The motion that a pivot comes to: `own` is the step that it names, or undefined for the seat. */
export function pivotMotion({ line }: Pivot, degrees: number, seating: Seating, own: Frame | undefined): Frame {
  const { point, direction } = pivotLine(line, own ? { frame: own, size: [0, 0] } : seating)
  return turnedAbout(point, direction, degrees)
}

export interface Line {
  readonly point: Vec3
  /** unit */
  readonly direction: Vec3
}

/** The line of a frame, or of an edge of a seat, that something is turned about. */
export function pivotLine(line: Pivot['line'], { frame, size }: Pick<Seating, 'frame' | 'size'>): Line {
  const { origin, u, v, n } = frame
  const [x, y] = [size[0] / 2, size[1] / 2]
  switch (line) {
    case 'normal':
      return { point: origin, direction: n }
    case 'across':
      return { point: origin, direction: u }
    case 'along':
      return { point: origin, direction: v }
    case 'low-across':
      return { point: add(origin, scaled(u, -x)), direction: v }
    case 'high-across':
      return { point: add(origin, scaled(u, x)), direction: v }
    case 'low-along':
      return { point: add(origin, scaled(v, -y)), direction: u }
    case 'high-along':
      return { point: add(origin, scaled(v, y)), direction: u }
  }
}

/** How deep something that goes straight down from `from` is when it ends at a face, less `until.less`; mm. */
export function depthUpTo(from: Frame, target: Seating, less: number): number | undefined {
  const down = scaled(from.n, -1)
  const away = subtract(target.frame.origin, from.origin)
  if (target.round !== undefined) {
    // To the near side of the round: the axis, less the radius, measured in the plane across the axis.
    const axis = target.frame.v
    const flat = subtract(down, scaled(axis, dot(down, axis)))
    const steep = norm(flat)
    if (steep < 1e-6) return undefined
    const centre = add(away, scaled(target.frame.n, -target.round))
    const across = subtract(centre, scaled(axis, dot(centre, axis)))
    const along = dot(across, scaled(flat, 1 / steep))
    const beside = norm(subtract(across, scaled(flat, along / steep)))
    const half = target.round ** 2 - beside ** 2
    if (half < 0) return undefined
    // The near side; from inside of a bore, that is the far one.
    const near = along - Math.sqrt(half)
    return (near > 1e-9 ? near : along + Math.sqrt(half)) / steep - less
  }
  const facing = dot(down, target.frame.n)
  return Math.abs(facing) < 1e-6 ? undefined : dot(away, target.frame.n) / facing - less
}
