import type { Ring, Vec2 } from './vectors.ts'

/** Rings in two lists: they take a quarter of the room, and are given from one worker to another without a copy. */
export interface PackedRings {
  /** x, y of all corners, mm */
  readonly points: Float64Array
  /** behind the last corner of each ring, counted in corners */
  readonly ends: Uint32Array
}

export function packedRings(rings: readonly Ring[]): PackedRings {
  const count = rings.reduce((sum, ring) => sum + ring.length, 0)
  const [points, ends] = [new Float64Array(2 * count), new Uint32Array(rings.length)]
  let at = 0
  for (const [i, ring] of rings.entries()) {
    for (const [x, y] of ring) {
      points[2 * at] = x
      points[2 * at + 1] = y
      at++
    }
    ends[i] = at
  }
  return { points, ends }
}

export function unpackedRings({ points, ends }: PackedRings): readonly Ring[] {
  let at = 0
  return Array.from(ends, (end) => {
    const ring: Vec2[] = []
    for (; at < end; at++) ring.push([points[2 * at]!, points[2 * at + 1]!])
    return ring
  })
}

/** Calls `visit` with each corner of each ring; `isFirst` of a ring. */
export function forEachCorner(
  { points, ends }: PackedRings,
  visit: (x: number, y: number, isFirst: boolean) => void,
): void {
  let at = 0
  for (const end of ends)
    for (const first = at; at < end; at++) visit(points[2 * at]!, points[2 * at + 1]!, at === first)
}
