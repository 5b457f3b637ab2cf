import { halfEdgeTwins, nextHalfEdge, type TriangleMesh } from '../mesh/index.ts'
import { cross, dot, norm, perpendicular, scaled, subtract, type Vec3 } from '../place/index.ts'
import {
  bodiesOf,
  cross2,
  distance2,
  dot2,
  hullOf,
  insideRings,
  minus,
  type Ring,
  ringArea,
  type Vec2,
} from '../plane/index.ts'

/** A plane and the directions of its own coordinates: u × v = n. */
export interface Plane {
  /** unit */
  readonly normal: Vec3
  /** a place in it, the origin of its coordinates */
  readonly at: Vec3
  readonly u: Vec3
  readonly v: Vec3
}

/** A plane through a place; u lies level, so that rows along it are those of layers. */
export function planeThrough(at: Vec3, normal: Vec3): Plane {
  const isLevel = Math.abs(normal[2]) > 1 - 1e-9
  const along: Vec3 = isLevel ? perpendicular(normal) : [-normal[1], normal[0], 0]
  const u = scaled(along, 1 / Math.hypot(...along))
  return { normal, at, u, v: cross(normal, u) }
}

export function liftedFrom({ at, u, v }: Plane, [x, y]: Vec2): Vec3 {
  return [at[0] + x * u[0] + y * v[0], at[1] + x * u[1] + y * v[1], at[2] + x * u[2] + y * v[2]]
}

/** A place as the plane's own coordinates have it. */
export function laidIn({ at, u, v }: Plane, p: Vec3): Vec2 {
  const from = subtract(p, at)
  return [dot(from, u), dot(from, v)]
}

/** What a plane cuts of a mesh, in the coordinates of the plane. */
export interface Cut {
  /** outer ones counter-clockwise, holes clockwise */
  readonly rings: readonly Ring[]
  /** the triangle in which the side behind each corner of a ring lies */
  readonly triangles: ReadonlyMap<Ring, readonly number[]>
  /** corners of what does not close: of a mesh that is a part of another one */
  readonly open: readonly Vec2[]
}

/** A mesh that is cut by one plane after the other. */
export class Cutter {
  readonly #mesh: TriangleMesh
  readonly #twins: Int32Array
  readonly #above: Float64Array
  /** by triangle: the number of the cut that has come through it last */
  readonly #passed: Uint32Array
  #cuts = 0

  constructor(mesh: TriangleMesh) {
    this.#mesh = mesh
    this.#twins = halfEdgeTwins(mesh)
    this.#above = new Float64Array(mesh.positions.length / 3)
    this.#passed = new Uint32Array(mesh.triangles.length / 3)
  }

  by(plane: Plane): Cut {
    const { positions, triangles } = this.#mesh
    const [above, passed, cut] = [this.#above, this.#passed, ++this.#cuts]
    const [n0, n1, n2] = plane.normal
    const level = dot(plane.normal, plane.at)
    for (let i = 0; i < above.length; i++)
      above[i] = n0 * positions[3 * i]! + n1 * positions[3 * i + 1]! + n2 * positions[3 * i + 2]! - level
    const rings: Ring[] = []
    const sides = new Map<Ring, number[]>()
    const open: Vec2[] = []
    for (let t = 0; t < passed.length; t++) {
      if (passed[t] === cut || !this.isCrossed(t)) continue
      const ring: Vec2[] = []
      const through: number[] = []
      let h = -1
      // From triangle to triangle, each left where it is gone up: the solid lies to the left.
      for (let at = t; at >= 0 && passed[at] !== cut; ) {
        passed[at] = cut
        h = 3 * at
        while (above[triangles[h]!]! >= 0 || above[triangles[nextHalfEdge(h)]!]! < 0) h++
        ring.push(this.placeAt(plane, h))
        at = this.#twins[h]! < 0 ? -1 : Math.floor(this.#twins[h]! / 3)
        through.push(at < 0 ? t : at)
      }
      const last = this.#twins[h]!
      if (last < 0 || Math.floor(last / 3) !== t) open.push(...ring)
      else if (ring.length > 2) {
        rings.push(ring)
        sides.set(ring, through)
      }
    }
    return { rings, triangles: sides, open }
  }

  /**
   * How the area in rings grows as their plane is shifted along its normal by a mm, and as it is turned so that it rises by a mm for each
   * along u, and along v: each side moves by how steep the surface is there.
   */
  growth({ normal }: Plane, rings: readonly Ring[], { triangles }: Pick<Cut, 'triangles'>): Vec3 {
    let [shift, alongU, alongV] = [0, 0, 0]
    for (const ring of rings)
      for (const [i, a] of ring.entries()) {
        const b = ring[(i + 1) % ring.length]!
        const outward = this.normalOf(triangles.get(ring)![i]!)
        const up = dot(outward, normal)
        // Flat in the plane: it has no end to move.
        const level = Math.sqrt(Math.max(1e-6, 1 - up * up))
        const grown = (-up / level) * distance2(a, b)
        shift += grown
        alongU += (grown * (a[0] + b[0])) / 2
        alongV += (grown * (a[1] + b[1])) / 2
      }
    return [shift, alongU, alongV]
  }

  private normalOf(t: number): Vec3 {
    const { positions, triangles } = this.#mesh
    const [a, b, c] = [0, 1, 2].map((i) => {
      const v = 3 * triangles[3 * t + i]!
      return [positions[v]!, positions[v + 1]!, positions[v + 2]!] as const
    }) as [Vec3, Vec3, Vec3]
    const n = cross(subtract(b, a), subtract(c, a))
    const size = norm(n)
    return size > 0 ? scaled(n, 1 / size) : [0, 0, 0]
  }

  /** Whether a triangle has corners on both sides; one in the plane counts as above it. */
  private isCrossed(t: number): boolean {
    const { triangles } = this.#mesh
    const above = this.#above
    const isAbove = above[triangles[3 * t]!]! >= 0
    return above[triangles[3 * t + 1]!]! >= 0 !== isAbove || above[triangles[3 * t + 2]!]! >= 0 !== isAbove
  }

  private placeAt({ at, u, v }: Plane, h: number): Vec2 {
    const { positions, triangles } = this.#mesh
    const [a, b] = [triangles[h]!, triangles[nextHalfEdge(h)]!]
    const share = this.#above[a]! / (this.#above[a]! - this.#above[b]!)
    let [x, y] = [0, 0]
    for (let k = 0; k < 3; k++) {
      const from = positions[3 * a + k]!
      const p = from + share * (positions[3 * b + k]! - from) - at[k]!
      x += p * u[k]!
      y += p * v[k]!
    }
    return [x, y]
  }
}

/** Of what a plane cuts the region that has a place, with its holes; undefined where there is none, or what does not close is in it. */
export function regionAt({ rings, open }: Cut, p: Vec2): readonly Ring[] | undefined {
  const region = bodiesOf(rings).find((body) => insideRings(body, p))
  const outer = region?.filter((ring) => ringArea(ring) > 0)
  return outer && open.some((q) => insideRings(outer, q)) ? undefined : region
}

/** What a section bears: figures of its area. */
export interface SectionFigures {
  /** mm² */
  readonly area: number
  /** its section modulus about the axis through its middle about which it bears least, mm³ */
  readonly modulus: number
  /** how wide it is the way it is narrowest, mm */
  readonly across: number
}

/** In so many directions it is looked for the one in which a section bears least. */
const directions = 36

/** An area and its second moments about its middle: mm², mm⁴; the middle in the coordinates of its plane. */
export interface Moments {
  readonly area: number
  readonly middle: Vec2
  readonly xx: number
  readonly yy: number
  readonly xy: number
}

/** Area and its moments by sums over sides, holes counted off (Steger, On the Calculation of Arbitrary Moments of Polygons, 1996). */
export function momentsOf(rings: readonly Ring[]): Moments {
  let [area, x, y, xx, yy, xy] = [0, 0, 0, 0, 0, 0]
  const origin = rings[0]?.[0] ?? [0, 0]
  for (const ring of rings)
    for (let i = 0; i < ring.length; i++) {
      const [a, b] = [minus(ring[i]!, origin), minus(ring[(i + 1) % ring.length]!, origin)]
      const twice = cross2(a, b)
      area += twice / 2
      x += (twice * (a[0] + b[0])) / 6
      y += (twice * (a[1] + b[1])) / 6
      xx += (twice * (a[0] * a[0] + a[0] * b[0] + b[0] * b[0])) / 12
      yy += (twice * (a[1] * a[1] + a[1] * b[1] + b[1] * b[1])) / 12
      xy += (twice * (2 * (a[0] * a[1] + b[0] * b[1]) + a[0] * b[1] + b[0] * a[1])) / 24
    }
  if (!(area > 0)) return { area: 0, middle: origin, xx: 0, yy: 0, xy: 0 }
  const [mx, my] = [x / area, y / area]
  return {
    ...{ area, middle: [origin[0] + mx, origin[1] + my] },
    ...{ xx: xx - area * mx * mx, yy: yy - area * my * my, xy: xy - area * mx * my },
  }
}

/** The modulus is moment over distance, as for a beam that is bent (Timoshenko, Strength of Materials). */
export function sectionFigures(rings: readonly Ring[]): SectionFigures {
  const { area, middle, xx, yy, xy } = momentsOf(rings)
  if (!(area > 0)) return { area: 0, modulus: 0, across: 0 }
  const principal = Math.atan2(2 * xy, xx - yy) / 2
  const hull = hullOf(rings.flat())
  let modulus = Number.POSITIVE_INFINITY
  for (let i = 0; i < directions; i++) {
    const d: Vec2 = [Math.cos(principal + (i * Math.PI) / directions), Math.sin(principal + (i * Math.PI) / directions)]
    const moment = d[0] * d[0] * xx + 2 * d[0] * d[1] * xy + d[1] * d[1] * yy
    const far = hull.reduce((most, p) => Math.max(most, Math.abs(dot2(d, minus(p, middle)))), 0)
    modulus = Math.min(modulus, moment / far)
  }
  return { area, modulus, across: narrowestWay(hull) }
}

/** Across a convex ring, square to the side of it where that is least, mm. */
function narrowestWay(hull: Ring): number {
  return hull.reduce((least, a, i) => {
    const b = hull[(i + 1) % hull.length]!
    const long = Math.hypot(b[0] - a[0], b[1] - a[1])
    const far = hull.reduce((most, p) => Math.max(most, cross2(minus(b, a), minus(p, a)) / long), 0)
    return Math.min(least, far)
  }, Number.POSITIVE_INFINITY)
}
