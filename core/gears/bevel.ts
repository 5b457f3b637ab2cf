import type { Ring } from '../plane/index.ts'
import { arc, flankFiner, ringOf, sampled } from './profile.ts'
import type { SpacePoint } from './root.ts'

/**
 * A straight bevel gear: all of it lies on rays from its apex, so that its teeth are told by angles, as on a sphere about that. Its
 * flanks are spherical involutes, which run true at any ratio and angle of the axes (Figliolini and Angeles, "Algorithms for
 * involute and octoidal bevel-gear generation", 2005). Sizes in mm are those at the outer end.
 */
export interface Bevel {
  readonly count: number
  /** teeth of the gear that it runs with */
  readonly mate: number
  /** between the axes, degrees */
  readonly axes: number
  readonly module: number
  /** degrees */
  readonly pressure: number
  readonly addendum: number
  readonly dedendum: number
  /** how much thinner each tooth is along the pitch circle */
  readonly thinner: number
}

export interface BevelSizes {
  /** from the apex to the pitch circle */
  readonly distance: number
  /** half angles of the pitch, base, tip and root cones, rad */
  readonly pitch: number
  readonly base: number
  readonly tip: number
  readonly root: number
  /** half of a tooth at an angle to the axis, seen from the axis, rad; below 0 past where both flanks meet */
  halfAngle(angle: number): number
}

const radians = (degrees: number) => (degrees * Math.PI) / 180

/** ISO 23509, 6.2, for teeth that taper towards the apex, tips and roots alike. */
export function bevelSizes(bevel: Bevel): BevelSizes {
  const { count, mate, module, addendum, dedendum, thinner } = bevel
  const axes = radians(bevel.axes)
  const pitch = Math.atan2(Math.sin(axes), mate / count + Math.cos(axes))
  const distance = (count * module) / 2 / Math.sin(pitch)
  const base = Math.asin(Math.sin(pitch) * Math.cos(radians(bevel.pressure)))
  const middle = Math.PI / (2 * count) - thinner / (count * module) + sphericalInv(base, pitch)
  return {
    ...{ distance, pitch, base },
    tip: pitch + Math.atan(addendum / distance),
    root: pitch - Math.atan(dedendum / distance),
    halfAngle: (angle) => middle - sphericalInv(base, angle),
  }
}

/** Along the great circle that unwinds from the base cone, from where it leaves that to an angle to the axis, rad. */
export function unwound(base: number, angle: number): number {
  return angle <= base ? 0 : Math.acos(Math.min(1, Math.cos(angle) / Math.cos(base)))
}

/** How far a spherical involute has gone round the axis at an angle to it; 0 within the base cone. */
export function sphericalInv(base: number, angle: number): number {
  const s = unwound(base, angle)
  return s / Math.sin(base) - Math.atan2(Math.tan(s), Math.sin(base))
}

/** The gear that it runs with, its teeth without play. */
export function mateOf(bevel: Bevel): Bevel {
  return { ...bevel, count: bevel.mate, mate: bevel.count, thinner: 0 }
}

/** How far out a cone lies at a depth below the apex. */
const out = (angle: number, depth: number) => depth * Math.tan(angle)

/**
 * The section of all rays at a depth below the apex, counter-clockwise about the axis as seen from the apex, the middle of a tooth
 * on the x axis; at the depth of the pitch circle it is as near to true as `gearRing`.
 */
export function bevelRing(bevel: Bevel, depth: number, fineness: number): Ring {
  const sizes = bevelSizes(bevel)
  const { tip, halfAngle, pitch, distance } = sizes
  const half = Math.PI / bevel.count
  // Flats are told at the pitch circle, wherever the section lies.
  const scale = depth / (distance * Math.cos(pitch))
  const near = fineness * scale
  const root = bevelRoot(bevel)
  const flank = sampled((share) => {
    const angle = root.form + share * (tip - root.form)
    return { radius: out(angle, depth), beside: half - halfAngle(angle) }
  }, near / flankFiner)
  const round = sampled((share) => {
    const { angle, beside } = root.at(share)
    return { radius: out(angle, depth), beside }
  }, near)
  const floor = arc(out(root.at(0).angle, depth), 0, root.at(0).beside, near)
  const ends: SpacePoint[] = [...floor, ...round.slice(1), ...flank.slice(1)]
  return ringOf(bevel.count, ends, arc(out(tip, depth), half - halfAngle(tip), half, near))
}

interface BevelRoot {
  /** along the root: 0 where the floor ends, 1 where the flank begins; beside the middle of the space */
  at(share: number): { readonly angle: number; readonly beside: number }
  /** the angle to the axis that the flank begins at */
  readonly form: number
  readonly undercut: boolean
}

/**
 * What a cutter leaves of a space that is the gear that it runs with, with teeth as much longer as roots are deeper than tips are
 * high: the way of its sharp corners, up to where they leave the flank or the flank leaves them.
 */
export function bevelRoot(bevel: Bevel): BevelRoot {
  const sizes = bevelSizes(bevel)
  const { addendum, dedendum } = bevel
  const cutter: Bevel = { ...mateOf(bevel), addendum: dedendum, dedendum: addendum, thinner: -bevel.thinner }
  const other = bevelSizes(cutter)
  const ratio = bevel.count / cutter.count
  // Where the cutter's teeth come to a point before that, they end there.
  const end = other.halfAngle(other.tip) > 0 ? other.tip : pointed(other)
  const wide = Math.max(0, other.halfAngle(end))
  const axes = radians(bevel.axes)
  /** The corner once the gear has turned by so much, in the frame of the gear, whose space begins in the middle. */
  const corner = (turn: number) => {
    const round = -wide - turn * ratio
    const [x, y, z] = [Math.sin(end) * Math.cos(round), -Math.sin(end) * Math.sin(round), Math.cos(end)]
    const [far, high] = [-Math.cos(axes) * x + Math.sin(axes) * z, Math.sin(axes) * x + Math.cos(axes) * z]
    return { angle: Math.acos(Math.max(-1, Math.min(1, high))), beside: Math.atan2(y, far) - turn }
  }
  const start = -wide / ratio
  const [s, whole] = [unwound(other.base, end), unwound(sizes.base, sizes.pitch) + unwound(other.base, other.pitch)]
  const undercut = s > whole
  const space = (angle: number) => Math.PI / bevel.count - sizes.halfAngle(angle)
  const contact =
    (-other.halfAngle(other.pitch) + (s - unwound(other.base, other.pitch)) / Math.sin(other.base)) / ratio
  const last = undercut ? crossing(corner, space, sizes.base, start) : contact
  return {
    at: (share) => corner(start + (last - start) * share),
    form: corner(last).angle,
    undercut,
  }
}

/** The angle at which both flanks meet. */
function pointed({ base, tip, halfAngle }: BevelSizes): number {
  let [low, high] = [base, tip]
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2
    if (halfAngle(middle) > 0) low = middle
    else high = middle
  }
  return low
}

/** Where the corner leaves the flank that it has cut into. */
function crossing(
  corner: (turn: number) => { readonly angle: number; readonly beside: number },
  space: (angle: number) => number,
  base: number,
  start: number,
): number {
  const cuts = (turn: number) => {
    const { angle, beside } = corner(turn)
    return angle <= base || beside > space(angle)
  }
  const step = 0.002
  let turn = start
  for (let i = 0; i < 2000 && cuts(turn); i++) turn += step
  let [low, high] = [turn - step, turn]
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2
    if (cuts(middle)) low = middle
    else high = middle
  }
  return (low + high) / 2
}

/** How many pairs of teeth touch on the average: along the great circle that unwinds from both base cones. */
export function bevelContact(one: Bevel, two: Bevel): number {
  const [a, b] = [bevelSizes(one), bevelSizes(two)]
  const reach = ({ base, tip, pitch }: BevelSizes) => unwound(base, tip) - unwound(base, pitch)
  return (reach(a) + reach(b)) / ((2 * Math.PI * Math.sin(a.base)) / one.count)
}
