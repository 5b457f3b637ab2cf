import type { Ring } from '../plane/index.ts'
import { arc, flankFiner, ringOf, sampled, tipRadius } from './profile.ts'
import type { SpacePoint } from './root.ts'
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

/** Where the flank begins above the round of the root, and half of the thread there and below, seen from the axis. */
function rootRound(worm: Worm) {
  const { teeth, lead } = worm
  const { root, pressure, halfAngle } = toothSizes(teeth)
  const rise = wormRise(worm)
  // The flank in a section along the axis, which is all but straight.
  const lean = Math.atan(Math.tan(pressure) * Math.tan(radians(lead)))
  const from = (fillet: number) => root + fillet * (1 - Math.sin(lean))
  const foot = (fillet: number) => halfAngle(from(fillet)) + (fillet * Math.cos(lean)) / rise
  const room = Math.PI / teeth.count
  let [low, high] = [0, worm.fillet]
  if (foot(high) > room)
    for (let i = 0; i < 60; i++) {
      const middle = (low + high) / 2
      if (foot(middle) > room) high = middle
      else low = middle
    }
  else low = high
  const fillet = low
  return {
    fillet,
    from: from(fillet),
    /** along the round, from the root circle to the flank */
    at(share: number): SpacePoint {
      const turn = share * (Math.PI / 2 - lean)
      const [out, along] = [root + fillet * (1 - Math.cos(turn)), fillet * (Math.cos(lean) - Math.sin(turn))]
      return { radius: out, beside: room - halfAngle(from(fillet)) - along / rise }
    },
  }
}

/** The section of a worm across its axis, counter-clockwise, the middle of a thread on the x axis; as near to true as `gearRing`. */
export function wormRing(worm: Worm, fineness: number): Ring {
  const { teeth } = worm
  const { root, halfAngle } = toothSizes(teeth)
  const half = Math.PI / teeth.count
  const tip = tipRadius(teeth)
  const { at, from, fillet } = rootRound(worm)
  const flank = sampled((share) => {
    const radius = from + share * (tip - from)
    return { radius, beside: half - halfAngle(radius) }
  }, fineness / flankFiner)
  // A round of no size is a corner.
  const round = fillet > 1e-6 ? sampled(at, fineness / 2, Math.PI / 2) : [at(0)]
  const floor = arc(root, 0, Math.max(0, round[0]!.beside), fineness)
  return ringOf(
    teeth.count,
    [...floor, ...round, ...flank.slice(fillet > 1e-6 ? 1 : 0)],
    arc(tip, half - halfAngle(tip), half, fineness),
  )
}
