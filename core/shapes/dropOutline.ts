import { arc, circumradius, type Ring, segmentsFor } from '../kernel/index.ts'
import type { Vec3 } from '../place/index.ts'

/** How high the point of a teardrop lies above its middle, in radii: its flanks touch the circle at 45°. */
export const pointOfDrop = Math.SQRT2

/** Whether the section of a hole lies level, the hole upright: there is nothing to hold up then. */
export function isLevel([x, y]: Vec3): boolean {
  return Math.hypot(x, y) < 1e-6
}

/** A point in the plane of the section, told along the way up and to the left of it. */
export function turnedUp([x, y]: Vec3, along: number, beside: number): readonly [number, number] {
  const rad = Math.atan2(y, x)
  return [along * Math.cos(rad) - beside * Math.sin(rad), along * Math.sin(rad) + beside * Math.cos(rad)]
}

/**
 * The section of a hole of radius `r`, mm, that prints without support: a circle whose flanks rise at 45° towards `up`, told in the
 * frame of the section, as high as `high` above its middle; that is from `r`, cut flat, to `r` times `pointOfDrop`. A full circle
 * where the hole stands upright. It makes room: its flats lie outside the circle.
 * @throws ProblemError too-many-triangles
 */
export function dropOutline(r: number, high: number, up: Vec3, fineness: number): Ring {
  const segments = segmentsFor(r, fineness, true)
  const radius = circumradius(r, segments)
  if (isLevel(up)) return arc(0, 0, radius, 0, 360 - 360 / segments, segments - 1)
  const towards = (Math.atan2(up[1], up[0]) * 180) / Math.PI
  const half = 180 / segments
  // From where the left flank touches the circle, round below, to where the right one does. Flats stand tangent there.
  const from = towards + 45 + half
  const round = arc(0, 0, radius, from, from + 270 - 2 * half, Math.max(2, (3 * segments) / 4 - 1))
  const flat = Math.max(0, r * pointOfDrop - high)
  const at = (beside: number) => turnedUp(up, high, beside)
  return [...round, ...(flat < 1e-9 ? [at(0)] : [at(-flat), at(flat)])]
}
