import type { TriangleMesh } from '../mesh/index.ts'
import { add, cross, norm, scaled, subtract, type Vec3 } from '../place/index.ts'

/** The triangles of a mesh, but for those that are next to nothing: the middle, normal and area of each, mm and mm². */
export function facetsOf({ positions, triangles }: TriangleMesh) {
  const corner = (i: number): Vec3 => [positions[3 * i]!, positions[3 * i + 1]!, positions[3 * i + 2]!]
  const found: { readonly middle: Vec3; readonly normal: Vec3; readonly area: number }[] = []
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [corner(triangles[t]!), corner(triangles[t + 1]!), corner(triangles[t + 2]!)]
    const across = cross(subtract(b, a), subtract(c, a))
    const size = norm(across)
    if (size < 1e-6) continue
    found.push({ middle: scaled(add(add(a, b), c), 1 / 3), normal: scaled(across, 1 / size), area: size / 2 })
  }
  return found
}
