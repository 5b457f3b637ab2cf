import { pressureAt } from './involute.ts'
import { type Teeth, toothSizes } from './teeth.ts'

/** A point of a tooth space: its radius, and how far it lies beside the middle of the space, rad. */
export interface SpacePoint {
  readonly radius: number
  readonly beside: number
}

/** What the round tip of the cutter leaves of a space, from its floor to where the flank begins. */
export interface Root {
  /** half of the floor, which lies on the root circle, seen from the axis, rad; 0 where both rounds meet */
  readonly floor: number
  /** along the round: 0 at the floor, 1 where the flank begins */
  at(share: number): SpacePoint
  /** the radius that the flank begins at */
  readonly form: number
  /** whether the cutter eats into the flank that it made */
  readonly undercut: boolean
}

/**
 * The trochoid of the cutter's tip. The middle C of its round lies `deep` below the rolling line and `out` beside the middle of
 * the cutter's tooth; what it touches lies from C straight away from the point that the rolling goes about (Litvin, Gear Geometry
 * and Applied Theory, ch. 6), in a direction that leans from straight inward to square to the flank.
 */
export function rootOf(teeth: Teeth): Root {
  const { module, shift, dedendum, thinner } = teeth
  const { pitch, base, pressure, halfAngle } = toothSizes({ ...teeth, relief: undefined })
  const fillet = Math.min(teeth.fillet, roundest(teeth))
  const deep = dedendum - shift - fillet
  // Of a thinner tooth the cutter is wider.
  const wide = (Math.PI * module) / 4 + thinner / 2
  const out = Math.max(0, wide - (dedendum - fillet) * Math.tan(pressure) - fillet / Math.cos(pressure))
  const point = (lean: number): SpacePoint => {
    const [sine, cosine] = [Math.sin(lean), Math.cos(lean)]
    const along = deep * (sine / cosine)
    const [px, py] = [along + fillet * sine, pitch - deep - fillet * cosine]
    return { radius: Math.hypot(px, py), beside: Math.atan2(px, py) - (along - out) / pitch }
  }
  const space = (radius: number) => Math.PI / teeth.count - halfAngle(radius)
  const end = Math.PI / 2 - pressure
  const undercut = deep / Math.sin(pressure) + fillet > pitch * Math.sin(pressure)
  const last = undercut ? crossing(point, space, base, end) : end
  return {
    floor: out / pitch,
    at: (share) => point(share * last),
    form: point(last).radius,
    undercut,
  }
}

/** The largest round that the cutter's tip has room for. */
export function roundest({ module, pressure, dedendum, thinner }: Teeth): number {
  const alpha = (pressure * Math.PI) / 180
  const room = (Math.PI * module) / 4 + thinner / 2 - dedendum * Math.tan(alpha)
  return Math.max(0, room / (1 / Math.cos(alpha) - Math.tan(alpha)))
}

/** Where along the trochoid it leaves the involute of the flank again. */
function crossing(
  point: (lean: number) => SpacePoint,
  space: (radius: number) => number,
  base: number,
  end: number,
): number {
  const within = (lean: number) => {
    const { radius, beside } = point(lean)
    // Below the base circle there is no flank yet.
    return pressureAt(base, radius) === 0 ? 1 : beside - space(radius)
  }
  // It runs outward all the way; past its crossing it lies in the space that is cut already.
  let [low, high] = [0, end]
  for (let i = 1; i <= 400; i++) {
    const lean = (end * i) / 400
    if (within(lean) < 0) {
      high = lean
      break
    }
    low = lean
  }
  for (let i = 0; i < 100; i++) {
    const middle = (low + high) / 2
    if (within(middle) >= 0) low = middle
    else high = middle
  }
  return (low + high) / 2
}
