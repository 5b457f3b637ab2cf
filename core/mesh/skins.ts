import { cross, dot, norm, scaled, subtract, type Vec3 } from '../place/index.ts'
import { halfEdgeTwins } from './halfEdges.ts'

/** A surface that turns by more than this turns right back, as a cosine. */
const rightBack = -1 + 1e-9
/** Triangles of less than this are rounding, mm². */
const least = 1e-3

/** How many edges of a closed surface it turns right back at: there it encloses nothing, or leaves a gap of no width. */
export function skinEdges({
  positions,
  triangles,
}: {
  readonly positions: ArrayLike<number>
  readonly triangles: Uint32Array
}): number {
  const at = (v: number): Vec3 => [positions[3 * v]!, positions[3 * v + 1]!, positions[3 * v + 2]!]
  const normals: (Vec3 | undefined)[] = []
  for (let h = 0; h < triangles.length; h += 3) {
    const [a, b, c] = [at(triangles[h]!), at(triangles[h + 1]!), at(triangles[h + 2]!)]
    const n = cross(subtract(b, a), subtract(c, a))
    const size = norm(n)
    normals.push(size > 2 * least ? scaled(n, 1 / size) : undefined)
  }
  let count = 0
  halfEdgeTwins({ positions, triangles }).forEach((twin, h) => {
    if (twin < h) return
    const [n, m] = [normals[(h / 3) | 0], normals[(twin / 3) | 0]]
    if (n && m && dot(n, m) < rightBack) count++
  })
  return count
}
