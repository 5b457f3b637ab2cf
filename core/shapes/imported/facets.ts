import { halfEdgeTwins, nextHalfEdge, oneRound, type TriangleMesh } from '../../mesh/index.ts'
import { cross, dot, norm, scaled, subtract, type Vec3 } from '../../place/index.ts'

/** Triangles of a mesh that hang together in one plane. */
export interface Facet {
  /** unit, outward */
  readonly normal: Vec3
  /** of its plane along the normal, mm */
  readonly offset: number
  /** mm² */
  readonly area: number
  readonly triangles: readonly number[]
  /** facets beside it that it bends into */
  readonly bendsInto: ReadonlySet<number>
}

/** Triangles of one plane agree within this: the sine of an angle, and mm. */
const sameDirection = 1 - 1e-6
const samePlane = 1e-3

/** The facets of a closed mesh, in no order. */
export function facetsOf({ positions, triangles }: TriangleMesh): readonly Facet[] {
  const count = triangles.length / 3
  const twins = halfEdgeTwins({ positions, triangles })
  const corner = (h: number): Vec3 => {
    const v = 3 * triangles[h]!
    return [positions[v]!, positions[v + 1]!, positions[v + 2]!]
  }
  const normals: Vec3[] = []
  const areas = new Float64Array(count)
  for (let t = 0; t < count; t++) {
    const [a, b, c] = [corner(3 * t), corner(3 * t + 1), corner(3 * t + 2)]
    const across = cross(subtract(b, a), subtract(c, a))
    const size = norm(across)
    areas[t] = size / 2
    normals.push(size > 0 ? scaled(across, 1 / size) : [0, 0, 0])
  }
  const facetOf = new Int32Array(count).fill(-1)
  const found: { normal: Vec3; offset: number; area: number; triangles: number[]; bendsInto: Set<number> }[] = []
  // The largest first: what is nearly flat belongs to what it is nearest to.
  const order = Array.from({ length: count }, (_, t) => t).sort((a, b) => areas[b]! - areas[a]!)
  for (const seed of order) {
    if (facetOf[seed]! >= 0) continue
    const normal = normals[seed]!
    const offset = dot(normal, corner(3 * seed))
    const own = [seed]
    facetOf[seed] = found.length
    let area = 0
    for (let i = 0; i < own.length; i++) {
      const t = own[i]!
      area += areas[t]!
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        const other = twins[h]! < 0 ? -1 : Math.floor(twins[h]! / 3)
        if (other < 0 || facetOf[other]! >= 0) continue
        const flat = areas[other] === 0 || dot(normals[other]!, normal) > sameDirection
        const apex = corner(nextHalfEdge(nextHalfEdge(twins[h]!)))
        if (!flat || Math.abs(dot(normal, apex) - offset) > samePlane) continue
        facetOf[other] = found.length
        own.push(other)
      }
    }
    found.push({ normal, offset, area, triangles: own, bendsInto: new Set() })
  }
  for (let h = 0; h < triangles.length; h++) {
    if (twins[h]! < 0) continue
    const [a, b] = [facetOf[Math.floor(h / 3)]!, facetOf[Math.floor(twins[h]! / 3)]!]
    if (a !== b && dot(found[a]!.normal, found[b]!.normal) > oneRound) found[a]!.bendsInto.add(b)
  }
  return found
}
