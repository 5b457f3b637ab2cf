import { cross2, minus, type Ring, type Vec2 } from './vectors.ts'

/** The convex hull of points, counter-clockwise (Andrew, "Another efficient algorithm for convex hulls in two dimensions", 1979). */
export function hullOf(points: readonly Vec2[]): Ring {
  const sorted = [...points].sort((p, q) => p[0] - q[0] || p[1] - q[1])
  const half = (row: readonly Vec2[]) => {
    const kept: Vec2[] = []
    for (const p of row) {
      while (kept.length > 1 && cross2(minus(kept.at(-1)!, kept.at(-2)!), minus(p, kept.at(-2)!)) <= 0) kept.pop()
      kept.push(p)
    }
    return kept.slice(0, -1)
  }
  return [...half(sorted), ...half(sorted.toReversed())]
}
