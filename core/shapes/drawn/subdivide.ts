import type { Ring } from '../../kernel/index.ts'
import { cross2, minus, norm2, type Vec2 } from '../../plane/index.ts'

/**
 * A ring with each flat halved and its corners drawn in, `levels` times over: the cubic B-spline that its corners pull
 * (Lane and Riesenfeld 1980). Corners for which `sharp` holds stay where they are, and edges between two of them straight.
 * A flat whose corners are drawn in by no more than `within` mm is not halved any more: nothing is seen of it.
 */
export function subdivided(ring: Ring, levels: number, sharp: (p: Vec2) => boolean, within: number): Ring {
  let points = ring.map((at) => ({ at, sharp: sharp(at) }))
  for (let level = 0; level < levels; level++) {
    const count = points.length
    const moved = points.map(({ at, sharp: kept }, i): Vec2 => {
      const [before, after] = [points[(i + count - 1) % count]!.at, points[(i + 1) % count]!.at]
      return kept ? at : [(before[0] + 6 * at[0] + after[0]) / 8, (before[1] + 6 * at[1] + after[1]) / 8]
    })
    // Along a straight line they only slide.
    const bends = points.map(({ at, sharp: kept }, i) => {
      const [before, after] = [points[(i + count - 1) % count]!.at, points[(i + 1) % count]!.at]
      const chord = minus(after, before)
      return !kept && Math.abs(cross2(chord, minus(at, before))) > 4 * within * norm2(chord)
    })
    if (!bends.includes(true)) break
    points = points.flatMap(({ at, sharp: kept }, i) => {
      const next = (i + 1) % count
      const own = { at: moved[i]!, sharp: kept }
      if (!bends[i] && !bends[next]) return [own]
      const after = points[next]!.at
      return [own, { at: [(at[0] + after[0]) / 2, (at[1] + after[1]) / 2] as Vec2, sharp: false }]
    })
  }
  return points.map(({ at }) => at)
}
