import { flatsForTurn, flatsInUse, type Ring, type Vec2 } from '../plane/index.ts'
import { rootOf, type SpacePoint } from './root.ts'
import { pointedAt, type Teeth, toothSizes } from './teeth.ts'

/** The tip circle, or where the flanks meet before that. */
export function tipRadius(teeth: Teeth): number {
  return Math.min(toothSizes(teeth).tip, pointedAt(teeth))
}

/**
 * The outline of a gear about the origin, counter-clockwise, the middle of a tooth on the x axis. Its corners lie on the true
 * curves, and its flats no farther than `fineness` mm from them; those of flanks and tips lie within the teeth.
 */
export function gearRing(teeth: Teeth, fineness: number): Ring {
  const root = rootOf(teeth)
  const { flank, over } = upperHalf(teeth, root.form, fineness)
  const round = sampled(root.at, fineness, Math.PI / 2 - toothSizes(teeth).pressure)
  // From the middle of a space to the middle of the next tooth.
  const half = [...arc(root.at(0).radius, 0, root.floor, fineness), ...round, ...flank.slice(1)]
  return ringOf(teeth.count, half, over)
}

/**
 * Flanks run along each other, flat on flat at every turn: what is between two of them is measured between their flats. So these are
 * so many times as fine as others.
 */
export const flankFiner = 8

/** One half of a tooth above a radius: its flank, and what is over that up to the middle of its tip. */
export function upperHalf(teeth: Teeth, from: number, fineness: number) {
  const { halfAngle } = toothSizes(teeth)
  const [tip, pitch] = [tipRadius(teeth), (2 * Math.PI) / teeth.count]
  const space = (radius: number): SpacePoint => ({ radius, beside: pitch / 2 - halfAngle(radius) })
  const corner = roundedTip(teeth, from)
  const end = corner ? corner.from : tip
  // By the square root: an involute leaves its base circle straight outward, and bends most there.
  const reach = Math.sqrt(end - from)
  const flank = sampled((share) => space(from + (share * reach) ** 2), fineness / flankFiner)
  if (!corner) return { flank, over: arc(tip, space(tip).beside, pitch / 2, fineness) }
  const { centre, radius } = corner
  const beside = pitch / 2 - centre.beside
  const start = Math.atan2(
    end * Math.sin(space(end).beside - beside),
    end * Math.cos(space(end).beside - beside) - centre.radius,
  )
  const round = sampled(
    (share) => {
      const turn = start * (1 - share)
      const [x, y] = [centre.radius + radius * Math.cos(turn), radius * Math.sin(turn)]
      return { radius: Math.hypot(x, y), beside: beside + Math.atan2(y, x) }
    },
    fineness,
    Math.abs(start),
  )
  return { flank: [...flank, ...round.slice(1)], over: arc(tip, beside, pitch / 2, fineness) }
}

/**
 * The round between flank and tip, where there is one: its middle, seen from the middle of the tooth, lies on the involute that runs by its
 * radius within the flank, and so much below the tip; along the line that both involutes are square to, the flank is so much
 * farther from the base circle. No larger than that both rounds of a tooth meet.
 */
function roundedTip(teeth: Teeth, from: number) {
  const { round = 0, relief } = teeth
  if (!(round > 0) || relief) return undefined
  const { base, halfAngle } = toothSizes(teeth)
  const tip = tipRadius(teeth)
  const at = (radius: number) => {
    const middle = Math.max(base, tip - radius)
    const touch = Math.hypot(base, Math.sqrt(middle ** 2 - base ** 2) + radius)
    return { centre: { radius: middle, beside: halfAngle(middle) - radius / base }, from: touch, radius }
  }
  const fits = (radius: number) => at(radius).centre.beside >= 0 && tip - radius > Math.max(base, from)
  if (fits(round)) return at(round)
  let [low, high] = [0, round]
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2
    if (fits(middle)) low = middle
    else high = middle
  }
  return low > 1e-6 ? at(low) : undefined
}

/** Where a tooth ends to its side: the middle of the round there, seen from the middle of the tooth, or its sharp corner. */
export function tipCorner(teeth: Teeth): SpacePoint & { readonly round: number } {
  const corner = roundedTip(teeth, 0)
  if (corner) return { ...corner.centre, round: corner.radius }
  const tip = tipRadius(teeth)
  return { radius: tip, beside: toothSizes(teeth).halfAngle(tip), round: 0 }
}

/** The radius that flanks reach up to, below the round of the tip. */
export function flankEnd(teeth: Teeth): number {
  return roundedTip(teeth, 0)?.from ?? tipRadius(teeth)
}

/** An outline of so many teeth, from half a space and flank, and half a tip. */
export function ringOf(count: number, half: readonly SpacePoint[], over: readonly SpacePoint[]): Ring {
  const pitch = (2 * Math.PI) / count
  const points: [number, number][] = []
  const put = ({ radius, beside }: SpacePoint, middle: number, side: 1 | -1) => {
    const angle = middle + side * beside
    const point: [number, number] = [radius * Math.cos(angle), radius * Math.sin(angle)]
    const last = points.at(-1)
    if (!last || Math.hypot(point[0] - last[0], point[1] - last[1]) > 1e-9) points.push(point)
  }
  for (let i = 0; i < count; i++) {
    const middle = (i + 0.5) * pitch
    for (const point of half.toReversed()) put(point, middle, -1)
    for (const point of half) put(point, middle, 1)
    for (const point of over.slice(1)) put(point, middle, 1)
    for (const point of over.toReversed().slice(1, -1)) put({ ...point, beside: pitch - point.beside }, middle, 1)
  }
  const [first, last] = [points[0]!, points.at(-1)!]
  if (Math.hypot(first[0] - last[0], first[1] - last[1]) < 1e-9) points.pop()
  return points
}

/** Points on an arc from one angle to another; none where it has no length, but its start. */
export function arc(radius: number, from: number, to: number, fineness: number): SpacePoint[] {
  const turn = Math.abs(to - from)
  // Sagitta of an inscribed flat: r turn² / 8 n².
  const count = flatsInUse(turn * Math.sqrt(radius / (8 * fineness)) * spare)
  return Array.from({ length: count + 1 }, (_, i) => ({ radius, beside: from + ((to - from) * i) / count }))
}

/** Between the places that a curve is looked at it may lie a little farther from its flats, as a share of their number. */
const spare = 1.03
/** So many flats tell how far a curve lies from its flats. */
const tried = 24

/**
 * Points on a curve from 0 to 1, evenly along what it is given by, so near that the flats between them lie within `fineness` of it;
 * at four times the fineness there are half as many. One that turns by `turn` has as many as a round of that turn.
 */
export function sampled(at: (share: number) => SpacePoint, fineness: number, turn = 0): SpacePoint[] {
  return sampledOn(at, ({ radius, beside }) => [radius * Math.cos(beside), radius * Math.sin(beside)], fineness, turn)
}

/** The same of any points, which `flat` tells the place of. */
export function sampledOn<T>(at: (share: number) => T, flat: (point: T) => Vec2, fineness: number, turn = 0): T[] {
  const off = (a: T, p: T, b: T) => {
    const [[ax, ay], [px, py], [bx, by]] = [flat(a), flat(p), flat(b)]
    const long = Math.hypot(bx - ax, by - ay)
    if (long < 1e-12) return Math.hypot(px - ax, py - ay)
    return Math.abs((bx - ax) * (py - ay) - (by - ay) * (px - ax)) / long
  }
  let most = 0
  for (let i = 0; i < tried; i++) most = Math.max(most, off(at(i / tried), at((i + 0.5) / tried), at((i + 1) / tried)))
  const count = flatsInUse(Math.max(tried * Math.sqrt(most / fineness) * spare, flatsForTurn(turn, fineness)))
  return Array.from({ length: count + 1 }, (_, i) => at(i / count))
}
