import { flankFiner, sampledOn, tipRadius } from './profile.ts'
import { type Teeth, toothSizes } from './teeth.ts'

/**
 * A worm as involute helicoids (ISO 10828, flank form I): in the section across its axis its threads are the teeth of a gear with as many
 * teeth as it has starts, which lean by 90° less its lead angle; so it runs true with a helical gear.
 */
export interface Worm {
  readonly teeth: Teeth
  /** of its threads to a plane across its axis, on the pitch circle, degrees */
  readonly lead: number
  /** radius of the round between flank and root, in a section along the axis, mm */
  readonly fillet: number
}

const radians = (degrees: number) => (degrees * Math.PI) / 180

/** How far it goes on along its axis for a turn by one radian, mm. */
export function wormRise({ teeth, lead }: Worm): number {
  return toothSizes(teeth).pitch * Math.tan(radians(lead))
}

/** From one thread to the next along the axis, mm. */
export function wormPitch(worm: Worm): number {
  return (2 * Math.PI * wormRise(worm)) / worm.teeth.count
}

/** Half of a thread along the axis at a radius, mm. */
export function threadAt(worm: Worm, radius: number): number {
  return toothSizes(worm.teeth).halfAngle(radius) * wormRise(worm)
}

/** The round between flank and root, no larger than the room between two threads, in a section along the axis. */
function rootRound(worm: Worm) {
  const { root, pressure } = toothSizes(worm.teeth)
  // The flank in a section along the axis, which is all but straight.
  const lean = Math.atan(Math.tan(pressure) * Math.tan(radians(worm.lead)))
  const from = (fillet: number) => root + fillet * (1 - Math.sin(lean))
  const foot = (fillet: number) => threadAt(worm, from(fillet)) + fillet * Math.cos(lean)
  const room = wormPitch(worm) / 2
  let [low, high] = [0, worm.fillet]
  if (foot(high) > room)
    for (let i = 0; i < 60; i++) {
      const middle = (low + high) / 2
      if (foot(middle) > room) high = middle
      else low = middle
    }
  else low = high
  return { fillet: low, from: from(low), lean }
}

/** A point of a thread in a section along the axis: its radius, and how far it lies from the middle of the thread, mm. */
export interface ThreadPoint {
  readonly radius: number
  readonly along: number
}

/**
 * A thread in a section along the axis, from the middle of a root to the next. Its corners lie on the true curve, flats within
 * `fineness` of it.
 */
export function wormProfile(worm: Worm, fineness: number): ThreadPoint[] {
  const { root } = toothSizes(worm.teeth)
  const tip = tipRadius(worm.teeth)
  const { fillet, from, lean } = rootRound(worm)
  const flat = ({ radius, along }: ThreadPoint) => [along, radius] as const
  const flank = sampledOn(
    (share) => {
      const radius = from + share * (tip - from)
      return { radius, along: -threadAt(worm, radius) }
    },
    flat,
    fineness / flankFiner,
  )
  // A round of no size is a corner.
  const turn = Math.PI / 2 - lean
  const round =
    fillet > 1e-6
      ? sampledOn(
          (share) => ({
            radius: root + fillet * (1 - Math.cos(share * turn)),
            along: flank[0]!.along - fillet * (Math.cos(lean) - Math.sin(share * turn)),
          }),
          flat,
          fineness,
          turn,
        )
      : [flank[0]!]
  const half = [{ radius: root, along: -wormPitch(worm) / 2 }, ...round, ...flank.slice(1)]
  const apart = half.filter(
    (point, i) => i === 0 || Math.hypot(point.radius - half[i - 1]!.radius, point.along - half[i - 1]!.along) > 1e-9,
  )
  return [...apart, ...apart.toReversed().map(({ radius, along }) => ({ radius, along: -along }))]
}
