import type { Surface } from '../edges/index.ts'
import { add, cross, norm, scaled, subtract, type Vec3 } from '../place/index.ts'
import type { Wall } from './walls.ts'

/** Places of a wall that are looked at lie as far apart as this at most, mm; farther where they would be too many. */
const apart = 1.5
const mostPlaces = 20_000

/** What leans less from the level than this has no way sideways, as a sine. */
const level = 1e-4

export interface Place {
  readonly at: Vec3
  /** unit and level, out of the material */
  readonly way: Vec3
  readonly wall: number
  readonly t: number
  /** of what it stands for, mm² */
  readonly area: number
}

/** Places all over some walls, in the middles of triangles and of what large ones are cut into. */
export function placesOn(
  surface: Surface,
  walls: readonly Wall[],
  which: readonly number[],
  most = mostPlaces,
): Place[] {
  const triangles = which.flatMap((wall) => walls[wall]!.triangles.map((t) => ({ wall, t })))
  const area = triangles.reduce((sum, { t }) => sum + areaOf(surface, t), 0)
  const step = Math.max(apart, Math.sqrt(area / most))
  return triangles.flatMap(({ wall, t }): Place[] => {
    const [x, y] = surface.flat(t)
    const steep = Math.hypot(x, y)
    if (steep < level) return []
    const way: Vec3 = [x / steep, y / steep, 0]
    const [a, b, c] = [0, 1, 2].map((i) => surface.at(surface.from(3 * t + i))) as [Vec3, Vec3, Vec3]
    const [u, v] = [subtract(b, a), subtract(c, a)]
    const longest = Math.max(norm(u), norm(v), norm(subtract(c, b)))
    const parts = Math.min(mostParts, Math.max(1, Math.ceil(longest / step)))
    const out: Place[] = []
    for (let i = 0; i < parts; i++)
      for (let k = 0; k < parts - i; k++) {
        const at = add(a, add(scaled(u, (i + 1 / 3) / parts), scaled(v, (k + 1 / 3) / parts)))
        out.push({ at, way, wall, t, area: (2 * areaOf(surface, t)) / (parts * (parts + 1)) })
      }
    return out
  })
}

/** So many times at most the sides of a triangle are cut. */
const mostParts = 60

/** mm² */
export function areaOf(surface: Surface, t: number): number {
  const [a, b, c] = [0, 1, 2].map((i) => surface.at(surface.from(3 * t + i))) as [Vec3, Vec3, Vec3]
  return norm(cross(subtract(b, a), subtract(c, a))) / 2
}
