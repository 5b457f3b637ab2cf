import { closeDistance, closeInside, pointedAt, rootOf, tipRadius, toothSizes } from '../../gears/index.ts'
import { compose, type Frame, inverse, turnedAbout, type Vec3, world } from '../../place/index.ts'
import { teethOf } from '../../shapes/index.ts'
import { parallel } from './parallel.ts'
import { near, type Wheel } from './wheels.ts'

/** What goes round between a sun and a ring on its axis. */
export interface Planet {
  readonly wheel: Wheel
  /** from the axis of the sun to its own, mm */
  readonly distance: number
}

const axis: Vec3 = [0, 0, 1]
/** Beyond these teeth are undercut or pointed, as a rule. */
const [leastShift, mostShift] = [-0.6, 1]
/** Fewer teeth than a gear can have are none to look for. */
const leastTeeth = 5

/**
 * A planet that runs both with the sun and in the ring at one distance: of the numbers of teeth that may be, the one that needs the
 * least profile shift; undefined where none has room, or all would be undercut or pointed.
 */
export function planetBetween(sun: Wheel, ring: Wheel): Planet | undefined {
  const half = Math.floor((ring.teeth.count - sun.teeth.count) / 2)
  const found = [half, half + 1, half - 1].flatMap((count) => {
    const planet = count < leastTeeth ? undefined : shiftedPlanet(sun, ring, count)
    return planet ? [planet] : []
  })
  const shiftOf = ({ wheel }: Planet) => Math.abs(wheel.values.shift)
  // Of two that are shifted alike, the one with fewer teeth has them shifted outwards, which makes them strong.
  return found.reduce<Planet | undefined>(
    (best, each) => (best && shiftOf(best) < shiftOf(each) + 0.05 ? best : each),
    undefined,
  )
}

/** The planet of so many teeth whose profile shift lets it run with both. */
function shiftedPlanet(sun: Wheel, ring: Wheel, count: number): Planet | undefined {
  const wheelAt = (shift: number): Wheel => {
    const hand = sun.values.hand === 'right' ? 'left' : 'right'
    const values = { ...sun.values, teeth: count, shift, hand } as const
    return { kind: 'outside', values, teeth: teethOf(values) }
  }
  /** How much farther out the sun would have it than the ring: more with each bit of shift. Undefined where they never touch. */
  const apart = (shift: number): number | undefined => {
    const { teeth } = wheelAt(shift)
    try {
      const by = closeDistance(sun.teeth, teeth) - closeInside(teeth, ring.teeth)
      return Number.isFinite(by) ? by : undefined
    } catch {
      return undefined
    }
  }
  let [low, high] = [leastShift, mostShift]
  // So little shift has it too near the ring, so much too near the sun, to touch at all.
  if (!((apart(low) ?? -1) < 0 && (apart(high) ?? 1) > 0)) return undefined
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2
    const by = apart(middle)
    if (by === undefined ? middle < 0 : by < 0) low = middle
    else high = middle
  }
  const wheel = wheelAt(Number(((low + high) / 2).toFixed(6)) + 0)
  const isPointed = pointedAt(wheel.teeth) < toothSizes(wheel.teeth).tip - 0.3 * wheel.teeth.module
  if (rootOf(wheel.teeth).undercut || isPointed) return undefined
  return { wheel, distance: closeDistance(sun.teeth, wheel.teeth) }
}

/** How many planets there is room for on their circle, tip beside tip. */
export function mostPlanets({ wheel, distance }: Planet): number {
  const half = tipRadius(wheel.teeth) / distance
  return half >= 1 ? 1 : Math.floor(Math.PI / Math.asin(half) - 1e-9)
}

/** What is left between the tips of neighbours that stand so many degrees apart, mm. */
export function betweenTips({ wheel, distance }: Planet, degrees: number): number {
  return 2 * distance * Math.sin((degrees * Math.PI) / 360) - 2 * tipRadius(wheel.teeth)
}

/**
 * Degrees from one planet to the next, round from the first: they go in at every 360° / (teeth of sun and ring together) only, which is
 * what lets planetary gears be put together (Müller, Die Umlaufgetriebe), and stand as evenly as that lets them.
 */
export function spacings(sun: Wheel, ring: Wheel, count: number): number[] {
  const places = sun.teeth.count + ring.teeth.count
  const at = (i: number) => Math.round((i * places) / count)
  return Array.from({ length: count }, (_, i) => ((at(i + 1) - at(i)) * 360) / places)
}

/** Where planets stand in the frame of the sun, their teeth in the spaces of it and of the ring: the first one as near to the right as goes. */
export function planetFrames(sun: Wheel, ring: Wheel, second: Frame, planet: Planet, count: number): Frame[] {
  const first = besideSun(sun, planet, 0)
  const off = turnInto(ring, second, planet, first)
  const places = sun.teeth.count + ring.teeth.count
  // Going on by an angle a planet rolls on the sun one way and in the ring the other way.
  const start = (off * planet.wheel.teeth.count) / places
  const steps = spacings(sun, ring, count)
  return steps.map((_, i) => {
    const on = steps.slice(0, i).reduce((sum, degrees) => sum + degrees, 0)
    return besideSun(sun, planet, start + on)
  })
}

/** A planet in mesh with the sun alone, in a direction from it, degrees. */
function besideSun(sun: Wheel, { wheel, distance }: Planet, degrees: number): Frame {
  const { origin } = compose(turnedAbout([0, 0, 0], axis, degrees), { ...world, origin: [distance, 0, 0] })
  return parallel.settled(sun, wheel, { ...world, origin })!
}

/** By how many degrees a planet must turn about its axis, counter-clockwise, to have its teeth in the spaces of the ring. */
export function turnInto(ring: Wheel, second: Frame, { wheel }: Pick<Planet, 'wheel'>, frame: Frame): number {
  const own = compose(inverse(second), frame)
  const settled = compose(second, parallel.settled(ring, wheel, own)!)
  const turn = compose(inverse(frame), settled)
  return ((Math.atan2(turn.u[1], turn.u[0]) * 180) / Math.PI) * Math.sign(frame.n[2])
}

/** Whether a wheel stands as a planet must: at its distance from the axis, and its teeth in the spaces of the ring. */
export function runsInRing(ring: Wheel, second: Frame, wheel: Wheel, frame: Frame): boolean {
  const own = compose(inverse(second), frame)
  if (Math.abs(own.n[2]) < 1 - 1e-9) return false
  const far = Math.hypot(own.origin[0], own.origin[1])
  try {
    if (Math.abs(far - closeInside(wheel.teeth, ring.teeth)) > 2 * near) return false
  } catch {
    return false
  }
  const along = (turnInto(ring, second, { wheel }, frame) * Math.PI * wheel.teeth.count * wheel.teeth.module) / 360
  return Math.abs(along) < 0.01
}
