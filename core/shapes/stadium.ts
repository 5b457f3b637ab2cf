import { arc, circumradius, type Ring, segmentsFor } from '../kernel/index.ts'
import type { Vec3 } from '../place/index.ts'
import { arcEdge, type ShapeEdge } from './edges.ts'
import type { Round } from './prismatic.ts'

/**
 * A stadium about the origin: two half discs of `width` with a rectangle between them, `length` over all along x.
 * Circumscribed where it makes room. With `width` = `length` it is a circle.
 */
export function stadium(length: number, width: number, fineness: number, room: boolean): Ring {
  const r = width / 2
  const segments = segmentsFor(r, fineness, room)
  const radius = room ? circumradius(r, segments) : r
  const middle = (length - width) / 2
  // Half a flat is left out at each end of an arc that is circumscribed, so that its long sides stay at the true width.
  const half = room ? 180 / segments : 0
  const steps = room ? segments / 2 - 1 : segments / 2
  const ends = [
    ...arc(middle, 0, radius, -90 + half, 90 - half, steps),
    ...arc(-middle, 0, radius, 90 + half, 270 - half, steps),
  ]
  return ends.filter((p, i) => {
    const before = ends[(i + ends.length - 1) % ends.length]!
    return Math.hypot(p[0] - before[0], p[1] - before[1]) > 1e-9
  })
}

/** Which of its round ends a place on its wall belongs to; undefined on its flats and on what lies level. */
export function roundEndAt(p: Vec3, normal: Vec3, length: number, width: number): 'left' | 'right' | undefined {
  if (Math.abs(normal[2]) > 0.5 || Math.abs(p[0]) <= (length - width) / 2 + 1e-6) return undefined
  return p[0] < 0 ? 'left' : 'right'
}

/** Its two round ends. */
export function stadiumEnds(length: number, width: number): ShapeEdge[] {
  const [x, r] = [(length - width) / 2, width / 2]
  return [arcEdge('right end', [x, 0], r, -90, 90), arcEdge('left end', [-x, 0], r, 90, 270)]
}

export function stadiumRounds(length: number, width: number): Round[] {
  const [x, r] = [(length - width) / 2, width / 2]
  return [
    { x, y: 0, r },
    { x: -x, y: 0, r },
  ]
}
