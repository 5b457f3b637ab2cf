import type { Box, Vec3 } from '../../place/index.ts'

/** Points that a solid lies within the hull of; kept with the values that they were made for. */
const known = new WeakMap<object, readonly Vec3[]>()

/** The corners of what is made from values, made once for each. */
export function cloudOf(values: object, make: () => readonly Vec3[]): readonly Vec3[] {
  const kept = known.get(values)
  if (kept) return kept
  const points = make()
  known.set(values, points)
  return points
}

/** Fine enough for placing, mm. */
export const placingFineness = 0.004

export function cloudReach(points: readonly Vec3[], [x, y, z]: Vec3): number {
  let far = -Infinity
  for (const p of points) far = Math.max(far, p[0] * x + p[1] * y + p[2] * z)
  return far
}

export function cloudBox(points: readonly Vec3[]): Box {
  const side = (i: 0 | 1 | 2, sign: 1 | -1) => points.reduce((far, p) => Math.max(far, sign * p[i]), -Infinity)
  return { min: [-side(0, -1), -side(1, -1), -side(2, -1)], max: [side(0, 1), side(1, 1), side(2, 1)] }
}
