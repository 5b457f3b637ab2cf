import { add, cross, dot, type Frame, norm, scaled, subtract, type Vec3 } from '../place/index.ts'

/** A round wall, of a boss or of a bore. */
export interface Cylinder {
  /** as of a round seat: touching the wall in the middle of what there is of it, v along the axis */
  readonly frame: Frame
  /** mm; negative in a bore */
  readonly round: number
  /** [round the axis, along it], mm */
  readonly size: readonly [number, number]
}

/** Corners may stand off the true round by this share of the radius, and by so many mm. */
const offRound = 0.005
const offRoundMm = 0.01
/** Of a whole turn, what a wall must go round, degrees. */
const leastArc = 60

interface Wall {
  /** each of its facets: unit and outward, with a point of it */
  readonly facets: readonly { readonly normal: Vec3; readonly at: Vec3; readonly area: number }[]
  /** asked for where the facets alone do not tell */
  readonly corners: () => readonly Vec3[]
}

/** The cylinder that facets stand for; undefined where they stand for something else. */
export function cylinderOf({ facets, corners: allCorners }: Wall): Cylinder | undefined {
  const axis = leastDirection(facets)
  if (!axis || facets.some(({ normal }) => Math.abs(dot(normal, axis)) > 0.01)) return undefined
  const v = upward(axis)
  const x = anyAcross(v)
  const y = cross(v, x)
  const flatten = (p: Vec3) => [dot(p, x), dot(p, y)] as const
  // A corner of each facet first: most of what is no cylinder is none by these.
  if (!roundThrough(facets.map(({ at }) => flatten(at)))) return undefined
  const corners = allCorners()
  const flat = corners.map(flatten)
  const circle = roundThrough(flat)
  if (!circle) return undefined
  const { centre, radius } = circle
  const middle = add(scaled(x, centre[0]), scaled(y, centre[1]))
  const outwards = facets.reduce(
    (sum, { normal, at, area }) => sum + area * Math.sign(dot(normal, subtract(at, middle))),
    0,
  )
  const arc = arcOf(flat.map((p) => Math.atan2(p[1] - centre[1], p[0] - centre[0])))
  if (arc.wide < (leastArc * Math.PI) / 180) return undefined
  const heights = corners.map((p) => dot(p, v))
  const [low, high] = [Math.min(...heights), Math.max(...heights)]
  // All round it is looked at from the front.
  const whole = arc.wide > 2 * Math.PI - 0.8
  const bore = outwards < 0
  const outmost = add(scaled(x, Math.cos(arc.middle)), scaled(y, Math.sin(arc.middle)))
  const n = whole ? frontOf(v) : scaled(outmost, bore ? -1 : 1)
  const round = bore ? -radius : radius
  const origin = add(add(middle, scaled(v, (low + high) / 2)), scaled(n, round))
  return {
    frame: { origin, u: cross(v, n), v, n },
    round,
    size: [radius * (whole ? 2 * Math.PI : arc.wide), high - low],
  }
}

/** The direction that the normals have least of: the axis of what they go round. */
function leastDirection(facets: Wall['facets']): Vec3 | undefined {
  // Two of them that differ most span the plane across it.
  const [first] = facets
  if (!first) return undefined
  let best: { axis: Vec3; size: number } | undefined
  for (const { normal } of facets) {
    const axis = cross(first.normal, normal)
    const size = norm(axis)
    if (!best || size > best.size) best = { axis, size }
  }
  return best && best.size > 0.2 ? scaled(best.axis, 1 / best.size) : undefined
}

function upward(axis: Vec3): Vec3 {
  const main = [2, 1, 0].find((i) => Math.abs(axis[i]!) > 1e-6)!
  const sign = Math.sign(axis[main]!)
  // Square ones are so to the last digit.
  const tidy = axis.map((value) => (Math.abs(value) < 1e-6 ? 0 : value)) as unknown as Vec3
  return scaled(tidy, sign / norm(tidy))
}

function anyAcross(v: Vec3): Vec3 {
  const side: Vec3 = Math.abs(v[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0]
  const across = subtract(side, scaled(v, dot(side, v)))
  return scaled(across, 1 / norm(across))
}

function frontOf(v: Vec3): Vec3 {
  const front: Vec3 = Math.abs(v[1]) < 0.9 ? [0, -1, 0] : [0, 0, 1]
  const across = subtract(front, scaled(v, dot(front, v)))
  return scaled(across, 1 / norm(across))
}

/** The circle that all points are on. */
function roundThrough(points: readonly (readonly [number, number])[]) {
  const circle = circleThrough(points)
  if (!circle) return undefined
  const { centre, radius } = circle
  const most = offRoundMm + offRound * radius
  return points.every((p) => Math.abs(Math.hypot(p[0] - centre[0], p[1] - centre[1]) - radius) <= most)
    ? circle
    : undefined
}

/** The circle nearest to points: least squares of x² + y² = 2ax + 2by + c (Kåsa 1976). */
function circleThrough(points: readonly (readonly [number, number])[]) {
  const n = points.length
  const [mx, my] = [0, 1].map((i) => points.reduce((sum, p) => sum + p[i]!, 0) / n) as [number, number]
  let [xx, xy, yy, xz, yz] = [0, 0, 0, 0, 0]
  for (const p of points) {
    const [x, y] = [p[0] - mx, p[1] - my]
    const z = x * x + y * y
    xx += x * x
    xy += x * y
    yy += y * y
    xz += x * z
    yz += y * z
  }
  const whole = xx * yy - xy * xy
  if (whole < 1e-12 * (xx + yy) ** 2) return undefined
  const a = (xz * yy - yz * xy) / (2 * whole)
  const b = (yz * xx - xz * xy) / (2 * whole)
  return { centre: [a + mx, b + my] as const, radius: Math.sqrt(a * a + b * b + (xx + yy) / n) }
}

/** How far round angles go, and the middle of that: all but the widest gap between two of them. */
function arcOf(angles: readonly number[]): { readonly wide: number; readonly middle: number } {
  const sorted = [...angles].sort((a, b) => a - b)
  let gap = { wide: 2 * Math.PI + sorted[0]! - sorted.at(-1)!, from: sorted.at(-1)! }
  for (let i = 1; i < sorted.length; i++) {
    const wide = sorted[i]! - sorted[i - 1]!
    if (wide > gap.wide) gap = { wide, from: sorted[i - 1]! }
  }
  const wide = 2 * Math.PI - gap.wide
  return { wide, middle: gap.from + gap.wide + wide / 2 }
}
