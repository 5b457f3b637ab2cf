import type { TriangleMesh } from '../mesh/index.ts'
import { cross, norm, subtract, type Vec3 } from '../place/index.ts'

/** Three points on a line come so far off it, of the farthest coordinate, once each is rounded to single precision (6e-8). */
const roundedOff = 2.5e-7

/**
 * Which triangles of a mesh that was read have an area: those that are higher over their longest side than rounding their corners
 * to single precision makes three points on a line.
 */
export function trianglesWithArea({ positions, triangles }: TriangleMesh): readonly boolean[] {
  let far = 0
  for (const v of triangles) for (let k = 0; k < 3; k++) far = Math.max(far, Math.abs(positions[3 * v + k]!))
  const corner = (v: number): Vec3 => [positions[3 * v]!, positions[3 * v + 1]!, positions[3 * v + 2]!]
  return Array.from({ length: triangles.length / 3 }, (_, t) => {
    const [a, b, c] = [corner(triangles[3 * t]!), corner(triangles[3 * t + 1]!), corner(triangles[3 * t + 2]!)]
    const [ab, ac, bc] = [subtract(b, a), subtract(c, a), subtract(c, b)]
    return norm(cross(ab, ac)) > roundedOff * far * Math.max(norm(ab), norm(ac), norm(bc))
  })
}
