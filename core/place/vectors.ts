/** Points and directions in mm, as triples. Right-handed; z is up from the bed. */
export type Vec3 = readonly [number, number, number]

export const add = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]]
export const subtract = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]]
export const scaled = (a: Vec3, s: number): Vec3 => [a[0] * s, a[1] * s, a[2] * s]
export const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
export const cross = (a: Vec3, b: Vec3): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
]
// Nothing here is so large or small that its square is lost, which `Math.hypot` takes ten times as long to guard against.
export const norm = (a: Vec3): number => Math.sqrt(a[0] * a[0] + a[1] * a[1] + a[2] * a[2])
export const unit = (a: Vec3): Vec3 => scaled(a, 1 / norm(a))

/** A unit vector square to another one, whichever. */
export function perpendicular(way: Vec3): Vec3 {
  const axis: Vec3 = Math.abs(way[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]
  return unit(cross(way, axis))
}

export interface Box {
  readonly min: Vec3
  readonly max: Vec3
}

export function corners({ min, max }: Box): Vec3[] {
  return [0, 1, 2, 3, 4, 5, 6, 7].map((i) => [
    i & 1 ? max[0] : min[0],
    i & 2 ? max[1] : min[1],
    i & 4 ? max[2] : min[2],
  ])
}

/** The least box round all points; undefined where there are none. */
export function boxOf(points: readonly Vec3[]): Box | undefined {
  if (points.length === 0) return undefined
  const low = [Infinity, Infinity, Infinity]
  const high = [-Infinity, -Infinity, -Infinity]
  for (const p of points)
    for (let i = 0; i < 3; i++) {
      low[i] = Math.min(low[i]!, p[i]!)
      high[i] = Math.max(high[i]!, p[i]!)
    }
  return { min: low as unknown as Vec3, max: high as unknown as Vec3 }
}

export function joined(a: Box | undefined, b: Box): Box {
  return a ? boxOf([a.min, a.max, b.min, b.max])! : b
}

/** Whether two boxes come within `gap` mm of each other. */
export function meet(a: Box, b: Box, gap = 0): boolean {
  return [0, 1, 2].every((i) => a.min[i]! <= b.max[i]! + gap && b.min[i]! <= a.max[i]! + gap)
}

/** What two boxes share, once both are `gap` mm larger on each side; undefined where they share nothing. */
export function meeting(a: Box, b: Box, gap = 0): Box | undefined {
  if (!meet(a, b, 2 * gap)) return undefined
  const low = [0, 1, 2].map((i) => Math.max(a.min[i]!, b.min[i]!) - gap)
  const high = [0, 1, 2].map((i) => Math.min(a.max[i]!, b.max[i]!) + gap)
  return { min: low as unknown as Vec3, max: high as unknown as Vec3 }
}
