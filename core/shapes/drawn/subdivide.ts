import type { Ring } from '../../kernel/index.ts'
import type { Vec2 } from '../../plane/index.ts'

/**
 * A ring with each flat halved and its corners drawn in, `levels` times over: the cubic B-spline that its corners pull
 * (Lane and Riesenfeld 1980). Corners for which `sharp` holds stay where they are, and edges between two of them straight.
 */
export function subdivided(ring: Ring, levels: number, sharp: (p: Vec2) => boolean): Ring {
  let points = ring.map((at) => ({ at, sharp: sharp(at) }))
  for (let level = 0; level < levels; level++) {
    const count = points.length
    points = points.flatMap(({ at, sharp: kept }, i) => {
      const [before, after] = [points[(i + count - 1) % count]!.at, points[(i + 1) % count]!.at]
      const own: Vec2 = kept ? at : [(before[0] + 6 * at[0] + after[0]) / 8, (before[1] + 6 * at[1] + after[1]) / 8]
      const middle: Vec2 = [(at[0] + after[0]) / 2, (at[1] + after[1]) / 2]
      return [
        { at: own, sharp: kept },
        { at: middle, sharp: false },
      ]
    })
  }
  return points.map(({ at }) => at)
}
