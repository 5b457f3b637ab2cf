import { add, cross, dot, norm, scaled, subtract, type Vec3 } from '../place/index.ts'
import type { SolidEdge } from './edges.ts'

/** What an edge measures, mm and degrees. */
export interface EdgeFigures {
  readonly length: number
  /** of one that runs along a circle */
  readonly radius: number | undefined
  /** through the material, from one face to the other: 90 at the edge of a block, 270 at the foot of an upright */
  readonly angle: number
}

export function edgeFigures({ points, closed, bend }: Pick<SolidEdge, 'points' | 'closed' | 'bend'>): EdgeFigures {
  const all = Array.from(
    { length: points.length / 3 },
    (_, i): Vec3 => [points[3 * i]!, points[3 * i + 1]!, points[3 * i + 2]!],
  )
  const ends = closed ? [...all, all[0]!] : all
  const chords = ends.slice(1).map((p, i) => norm(subtract(p, ends[i]!)))
  const radius = radiusOf(all, closed)
  // Along a circle each chord stands for its arc.
  const along = radius === undefined ? chords : chords.map((c) => 2 * radius * Math.asin(Math.min(1, c / 2 / radius)))
  return { length: along.reduce((sum, one) => sum + one, 0), radius, angle: 180 - bend }
}

/** An edge is a circle where no corner lies farther off it than this share of its radius. */
const roundWithin = 2e-3

/** The radius of the circle through the points, undefined where they lie on none. */
function radiusOf(points: readonly Vec3[], closed: boolean): number | undefined {
  if (points.length < 4) return undefined
  // Three that lie far apart: of an arc its ends and what is between.
  const last = closed ? (2 * points.length) / 3 : points.length - 1
  const [a, b, c] = [points[0]!, points[Math.round(last / 2)]!, points[Math.round(last)]!]
  const [ab, ac] = [subtract(b, a), subtract(c, a)]
  const n = cross(ab, ac)
  const twice = 2 * dot(n, n)
  // Nearly a line: no radius can be told.
  if (norm(n) < 1e-6 * norm(ab) * norm(ac) || twice === 0) return undefined
  const from = scaled(add(scaled(cross(n, ab), dot(ac, ac)), scaled(cross(ac, n), dot(ab, ab))), 1 / twice)
  const [centre, radius, axis] = [add(a, from), norm(from), scaled(n, 1 / norm(n))]
  const lies = points.every((p) => {
    const away = subtract(p, centre)
    return Math.abs(norm(away) - radius) < roundWithin * radius && Math.abs(dot(away, axis)) < roundWithin * radius
  })
  return lies ? radius : undefined
}
