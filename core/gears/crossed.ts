import { add, cross, dot, type Frame, norm, scaled, type Vec3 } from '../place/index.ts'
import { tipRadius } from './profile.ts'
import { rootOf } from './root.ts'
import { type Teeth, toothSizes } from './teeth.ts'

/**
 * Two gears whose axes cross without meeting (crossed helical gears, and a worm with its wheel): they touch in a plane that touches
 * both pitch cylinders, where their teeth run alike (ISO 21771, 6; Litvin, Gear Geometry and Applied Theory, ch. 16).
 */
export interface LeaningTeeth {
  readonly teeth: Teeth
  /** of the teeth to the axis, right-hand above 0, rad */
  readonly lean: number
  /** of a flank in the section across the tooth, rad */
  readonly normal: number
  /** how far the middle of its first tooth is turned at a height, rad */
  turnAt(height: number): number
}

/** How two crossed axes lie. All in the frame of the first gear. */
export interface CrossedAxes {
  readonly distance: number
  /** from the first axis to the second, unit */
  readonly away: Vec3
  /** over the lower face of each, where their common perpendicular meets its axis */
  readonly heights: readonly [number, number]
}

/** Undefined where the axes are parallel or meet. */
export function crossedAxes({ origin, n }: Frame): CrossedAxes | undefined {
  const own: Vec3 = [0, 0, 1]
  const across = cross(own, n)
  const sine = norm(across)
  if (sine < 1e-6) return undefined
  const unit = scaled(across, 1 / sine)
  const apart = dot(origin, unit)
  if (Math.abs(apart) < 1e-6) return undefined
  const away = scaled(unit, Math.sign(apart))
  // Along both axes, so that what is between their points is square to both.
  const [a, b, c] = [origin[2], dot(origin, n), n[2]]
  const heights = [(a - b * c) / (1 - c * c), (a * c - b) / (1 - c * c)] as const
  return { away, heights, distance: Math.abs(apart) }
}

/** How the teeth of one lie where they touch: `out` from its axis to there, unit. */
function touching({ lean }: LeaningTeeth, axis: Vec3, out: Vec3) {
  const round = cross(axis, out)
  return { round, trace: add(scaled(axis, Math.cos(lean)), scaled(round, Math.sin(lean))) }
}

/** The way that the teeth of both go by: along it, how each turns counter-clockwise. */
function goingBy(one: LeaningTeeth, two: LeaningTeeth, { n }: Frame, { away }: CrossedAxes) {
  const a = touching(one, [0, 0, 1], away)
  const b = touching(two, n, scaled(away, -1))
  // Where they do not run alike yet, half-way between both.
  const alike = dot(a.trace, b.trace) < 0 ? -1 : 1
  const along = cross(add(a.trace, scaled(b.trace, alike)), away)
  return { a, b, signs: [Math.sign(dot(a.round, along)), Math.sign(dot(b.round, along))] as const }
}

/** The angle between the teeth of both where they touch, rad: 0 where they run alike. */
export function tracesApart(one: LeaningTeeth, two: LeaningTeeth, second: Frame, axes: CrossedAxes): number {
  const { a, b } = goingBy(one, two, second, axes)
  return Math.acos(Math.min(1, Math.abs(dot(a.trace, b.trace))))
}

/** The lean that one of both needs to run with the other on these axes, right-hand above 0, rad. */
export function leanFor(side: 0 | 1, one: LeaningTeeth, two: LeaningTeeth, second: Frame, axes: CrossedAxes): number {
  const { a, b } = goingBy(one, two, second, axes)
  const [trace, round] = side === 0 ? [b.trace, a.round] : [a.trace, b.round]
  const axis: Vec3 = side === 0 ? [0, 0, 1] : second.n
  return Math.atan(dot(trace, round) / dot(trace, axis))
}

/** Degrees, or radians, of the second for each of the first. */
export function crossedRatio(one: LeaningTeeth, two: LeaningTeeth, second: Frame, axes: CrossedAxes): number {
  const [a, b] = goingBy(one, two, second, axes).signs
  return (one.teeth.count * a) / (two.teeth.count * b)
}

/** The distance of the axes at which they run with nothing but their play; exact where one of both has no profile shift. */
export function crossedDistance({ teeth: a }: LeaningTeeth, { teeth: b }: LeaningTeeth): number {
  return toothSizes(a).pitch + toothSizes(b).pitch + a.shift + b.shift
}

/** By how many pitches the second would have to turn counter-clockwise for its teeth to stand in the middle of the spaces. */
export function crossedPhase(one: LeaningTeeth, two: LeaningTeeth, second: Frame, axes: CrossedAxes): number {
  const { signs } = goingBy(one, two, second, axes)
  const beside = ({ teeth, turnAt }: LeaningTeeth, { u, v }: Pick<Frame, 'u' | 'v'>, out: Vec3, height: number) =>
    ((turnAt(height) - Math.atan2(dot(out, v), dot(out, u))) * teeth.count) / (2 * Math.PI)
  const first = beside(one, { u: [1, 0, 0], v: [0, 1, 0] }, axes.away, axes.heights[0])
  const other = beside(two, second, scaled(axes.away, -1), axes.heights[1])
  const share = signs[1] * (first * signs[0] - 0.5) - other
  return share - Math.round(share)
}

/** How two crossed gears run at a distance of their axes. */
export interface CrossedPair {
  /** across the teeth, mm */
  readonly backlash: number
  /** how many pairs of teeth touch on the average */
  readonly contact: number
  /** what is left between the tip of each and the root of the other, mm */
  readonly clearance: readonly [number, number]
  /** whether the tip of the first, or of the second, reaches below the flank of the other */
  readonly interferes: readonly [boolean, boolean]
}

export function crossedPair(one: LeaningTeeth, two: LeaningTeeth, distance: number): CrossedPair {
  const close = crossedDistance(one, two)
  const sides = [one, two].map(({ teeth, lean, normal }) => {
    const sizes = toothSizes({ ...teeth, relief: undefined })
    // The line of action leans by as much as the teeth do on the base cylinder.
    const level = Math.sqrt(1 - (Math.sin(lean) * Math.cos(normal)) ** 2)
    const start = sizes.pitch * Math.sin(sizes.pressure)
    const tip = tipRadius(teeth)
    return {
      ...{ sizes, start, level, tip, thinner: teeth.thinner * Math.cos(lean) },
      reach: (Math.sqrt(Math.max(0, tip ** 2 - sizes.base ** 2)) - start) / level,
    }
  }) as [Side, Side]
  const [a, b] = sides
  const pitch = Math.PI * one.teeth.module * Math.cos(one.lean) * Math.cos(one.normal)
  const lowest = (of: Side, reach: number) => Math.hypot(of.sizes.base, Math.max(0, of.start - reach * of.level))
  const below = (of: Side, teeth: Teeth, reach: number) =>
    of.start - reach * of.level < 0 || lowest(of, reach) < formOf(teeth) - 1e-9
  return {
    backlash: a.thinner + b.thinner + 2 * (distance - close) * Math.tan(one.normal),
    contact: (a.reach + b.reach) / pitch,
    clearance: [distance - a.tip - b.sizes.root, distance - b.tip - a.sizes.root],
    interferes: [below(b, two.teeth, a.reach), below(a, one.teeth, b.reach)],
  }
}

interface Side {
  readonly sizes: ReturnType<typeof toothSizes>
  readonly start: number
  readonly level: number
  readonly tip: number
  readonly thinner: number
  readonly reach: number
}

/** The flanks of a worm begin right above its root. */
function formOf(teeth: Teeth): number {
  return teeth.count < 5 ? toothSizes(teeth).root : rootOf(teeth).form
}
