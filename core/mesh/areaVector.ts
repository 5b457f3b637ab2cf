import { cross, subtract, type Vec3 } from '../place/index.ts'
import type { TriangleMesh } from './define.ts'

/** Square to a triangle, outwards, and as long as twice its area, mm². */
export function areaVector({ positions, triangles }: TriangleMesh, t: number): Vec3 {
  const at = (k: number): Vec3 => {
    const v = 3 * triangles[3 * t + k]!
    return [positions[v]!, positions[v + 1]!, positions[v + 2]!]
  }
  return cross(subtract(at(1), at(0)), subtract(at(2), at(0)))
}
