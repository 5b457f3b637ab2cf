import { flatsRound, type Ring } from '../plane/index.ts'
import { ProblemError } from '../problems/index.ts'

/** Beyond this a circle is refused rather than built: no slicer is helped by it. */
export const mostSegments = 4096

/**
 * Flats round a circle of `radius` mm so that no flat is farther than `fineness` mm from the arc (see `flatsRound`): a
 * multiple of four, so that the circle's four extreme points are corners. Inscribed flats have their corners on the
 * circle, circumscribed ones touch it.
 * @throws ProblemError too-many-triangles
 */
export function segmentsFor(radius: number, fineness: number, circumscribed = false): number {
  const segments = flatsRound(radius, fineness, circumscribed)
  if (segments > mostSegments) throw new ProblemError('too-many-triangles', { count: segments })
  return segments
}

/** The radius of the corners of a regular polygon whose flats touch a circle of `radius`. */
export function circumradius(radius: number, segments: number): number {
  return radius / Math.cos(Math.PI / segments)
}

/** Area of a regular polygon with `segments` corners on a circle of `radius`. */
export function polygonArea(radius: number, segments: number): number {
  return (segments / 2) * radius ** 2 * Math.sin((2 * Math.PI) / segments)
}

/** An arc from `fromDegrees` to `toDegrees` about (x, y), both ends included, in `steps` flats. */
export function arc(x: number, y: number, radius: number, fromDegrees: number, toDegrees: number, steps: number): Ring {
  return Array.from({ length: steps + 1 }, (_, i) => {
    const rad = ((fromDegrees + ((toDegrees - fromDegrees) * i) / steps) * Math.PI) / 180
    return [x + radius * Math.cos(rad), y + radius * Math.sin(rad)] as const
  })
}

/** A rectangle about the origin with its corners rounded by `radius` (0: sharp), counter-clockwise. */
export function roundedRectangle(width: number, depth: number, radius: number, segments: number): Ring {
  const [x, y] = [width / 2, depth / 2]
  if (radius <= 0)
    return [
      [-x, -y],
      [x, -y],
      [x, y],
      [-x, y],
    ]
  const quarter = segments / 4
  const centres = [
    [x - radius, y - radius],
    [radius - x, y - radius],
    [radius - x, radius - y],
    [x - radius, radius - y],
  ] as const
  return distinct(centres.flatMap(([cx, cy], i) => [...arc(cx, cy, radius, i * 90, i * 90 + 90, quarter)]))
}

/** Without points that repeat the one before (full rounds meet in one point). */
function distinct(ring: Ring): Ring {
  return ring.filter((p, i) => {
    const before = ring[(i + ring.length - 1) % ring.length]!
    return Math.hypot(p[0] - before[0], p[1] - before[1]) > 1e-9
  })
}
