import { nearestOnTriangle, nextHalfEdge } from '../mesh/index.ts'
import type { NamedSolid } from '../naming/index.ts'
import { add, cross, dot, norm, scaled, subtract, unit, type Vec3 } from '../place/index.ts'
import { Facets } from './facets.ts'

/** Two faces whose flats meet at more than this are not one smooth surface, a ball does not roll on over it. */
const smoothWithin = Math.cos((20 * Math.PI) / 180)
/** Smooth normals of two faces that differ by less than this are tangent. */
const tangentWithin = Math.cos((6 * Math.PI) / 180)
/** Normals nearer to each other than this are those of one plane. */
const samePlane = 1 - 1e-10
/** An edge no longer than this may be of the ledge that a cut leaves under a body: it does not tell how faces run, mm. */
const ledge = 0.01

/** A surface whose flats lie this far off the mean of all at a vertex has a tip there, as a cosine. */
const blunt = Math.cos((40 * Math.PI) / 180)

/** A place on the surface. */
export interface Foot {
  readonly at: Vec3
  /** outward and unit */
  readonly normal: Vec3
}

/**
 * The surface of a solid as a ball rolls on it: triangles stand for the smooth surface that they were made from, whose normal at
 * a corner is the mean of the flats that meet there without an edge. Where a flat face runs into a round one, it is the flat's.
 */
export class Surface {
  readonly solid: NamedSolid
  /** x, y, z of each vertex, mm */
  readonly corners: Float64Array
  readonly #flatFaces: readonly (Vec3 | undefined)[]
  /** by triangle: x, y, z of its normal; NaN where nobody asked */
  readonly #flats: Float64Array
  /** by corner: x, y, z of its smooth normal; NaN where nobody asked */
  readonly #normals: Float64Array
  readonly #facets: Facets
  /** by half-edge: 1 smooth, −1 sharp, 0 where nobody asked */
  readonly #smooth: Int8Array
  #triangles: readonly (readonly number[])[] | undefined

  /** `corners`: x, y, z of each vertex in double precision */
  constructor(solid: NamedSolid, corners: Float64Array) {
    this.solid = solid
    this.corners = corners
    this.#flats = new Float64Array(solid.triangles.length).fill(Number.NaN)
    this.#normals = new Float64Array(3 * solid.triangles.length).fill(Number.NaN)
    this.#facets = new Facets(this)
    this.#smooth = new Int8Array(solid.triangles.length)
    this.#flatFaces = this.flatFaces()
  }

  at(vertex: number): Vec3 {
    return [this.corners[3 * vertex]!, this.corners[3 * vertex + 1]!, this.corners[3 * vertex + 2]!]
  }

  /** The vertex that half-edge `h` leaves. */
  from(h: number): number {
    return this.solid.triangles[h]!
  }

  twin(h: number): number {
    return this.solid.twins[h]!
  }

  face(h: number): number {
    return this.solid.faceOf[(h / 3) | 0]!
  }

  /** The outward unit normal of a face that is flat as a whole; undefined of any other. */
  flatFace(face: number): Vec3 | undefined {
    return this.#flatFaces[face]
  }

  /** All triangles of a face. */
  trianglesOf(face: number): readonly number[] {
    if (!this.#triangles) {
      const all: number[][] = this.solid.faces.map(() => [])
      this.solid.faceOf.forEach((of, t) => void all[of]!.push(t))
      this.#triangles = all
    }
    return this.#triangles[face] ?? []
  }

  /** The outward unit normal of a triangle. */
  flat(t: number): Vec3 {
    const known = this.#flats
    if (Number.isNaN(known[3 * t]!)) known.set(this.flatOf(t), 3 * t)
    return [known[3 * t]!, known[3 * t + 1]!, known[3 * t + 2]!]
  }

  private flatOf(t: number): Vec3 {
    const exact = this.twiceOver(t)
    const size = norm(exact)
    // A sliver looks where its neighbour does.
    const { normals } = this.solid
    const isSliver = size <= sliverHeight * this.longestOf(t)
    return isSliver ? [normals[3 * t]!, normals[3 * t + 1]!, normals[3 * t + 2]!] : scaled(exact, 1 / size)
  }

  /** The normal of a triangle, as long as twice its area. */
  private twiceOver(t: number): Vec3 {
    const { corners, solid } = this
    const a = 3 * solid.triangles[3 * t]!
    const b = 3 * solid.triangles[3 * t + 1]!
    const c = 3 * solid.triangles[3 * t + 2]!
    const ux = corners[b]! - corners[a]!
    const uy = corners[b + 1]! - corners[a + 1]!
    const uz = corners[b + 2]! - corners[a + 2]!
    const vx = corners[c]! - corners[a]!
    const vy = corners[c + 1]! - corners[a + 1]!
    const vz = corners[c + 2]! - corners[a + 2]!
    return [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
  }

  /** The longest side of a triangle, mm. */
  private longestOf(t: number): number {
    const { corners } = this
    let longest = 0
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      const [p, q] = [3 * this.from(h), 3 * this.from(nextHalfEdge(h))]
      const x = corners[q]! - corners[p]!
      const y = corners[q + 1]! - corners[p + 1]!
      const z = corners[q + 2]! - corners[p + 2]!
      longest = Math.max(longest, x * x + y * y + z * z)
    }
    return Math.sqrt(longest)
  }

  /** Whether the surface goes on over a half-edge without an edge to be seen. */
  isSmooth(h: number): boolean {
    const known = this.#smooth[h]!
    if (known !== 0) return known > 0
    const smooth = this.runsOn(h)
    this.#smooth[h] = smooth ? 1 : -1
    if (this.twin(h) >= 0) this.#smooth[this.twin(h)] = this.#smooth[h]!
    return smooth
  }

  private runsOn(h: number): boolean {
    const twin = this.twin(h)
    if (twin < 0) return false
    const { normals, folded } = this.solid
    const [a, b] = [3 * ((h / 3) | 0), 3 * ((twin / 3) | 0)]
    const cosine = normals[a]! * normals[b]! + normals[a + 1]! * normals[b + 1]! + normals[a + 2]! * normals[b + 2]!
    if (this.face(h) === this.face(twin)) return cosine >= folded
    if (cosine < smoothWithin || cosine > samePlane) return cosine > samePlane
    if (this.isShort(this.solid.of[h]!)) return false
    // Two faces run into each other where what their flats stand for does: the first flat of a round lies a little off its tangent.
    const middle = scaled(add(this.at(this.from(h)), this.at(this.from(nextHalfEdge(h)))), 1 / 2)
    return dot(this.meantAt(h, middle), this.meantAt(twin, middle)) > tangentWithin
  }

  /** Whether an edge is shorter than what a cut overlaps its face by. */
  private isShort(edge: number): boolean {
    const vertices = this.solid.chains[edge]?.vertices ?? []
    let size = 0
    for (let i = 1; i < vertices.length && size <= ledge; i++)
      size += norm(subtract(this.at(vertices[i]!), this.at(vertices[i - 1]!)))
    return size <= ledge
  }

  /** The normal that a face means at a point of one of its triangles, by that face alone. */
  private meantAt(h: number, p: Vec3): Vec3 {
    return this.#flatFaces[this.face(h)] ?? this.#facets.normalAt((h / 3) | 0, p)
  }

  /**
   * The corners round a vertex that hang together smoothly with the one that half-edge `h` leaves it by, counter-clockwise as
   * seen from outside.
   */
  sector(h: number): number[] {
    let first = h
    // Clockwise to where an edge is.
    while (this.isSmooth(first)) {
      const before = nextHalfEdge(this.twin(first))
      if (before === h) break
      first = before
    }
    const all = [first]
    for (let corner = first; ; ) {
      const back = previous(corner)
      if (!this.isSmooth(back)) return all
      corner = this.twin(back)
      if (corner === first) return all
      all.push(corner)
    }
  }

  /** The smooth normal at the corner that half-edge `h` leaves. */
  normal(h: number): Vec3 {
    // A flat face has one normal, whatever it runs into.
    const flat = this.#flatFaces[this.face(h)]
    if (flat) return flat
    if (Number.isNaN(this.#normals[3 * h]!)) {
      const sector = this.sector(h)
      const n = this.normalOf(sector)
      // At the tip of a cone there is none: each flat has its own.
      const isTip = sector.some((corner) => dot(n, this.flat((corner / 3) | 0)) < blunt)
      for (const corner of sector) this.#normals.set(isTip ? this.flat((corner / 3) | 0) : n, 3 * corner)
    }
    return [this.#normals[3 * h]!, this.#normals[3 * h + 1]!, this.#normals[3 * h + 2]!]
  }

  /** The place of a face that is nearest to a point, with the smooth normal there; undefined of a face without triangles. */
  nearest(face: number, p: Vec3): Foot | undefined {
    let best: { readonly t: number; readonly at: Vec3; readonly far: number } | undefined
    for (const t of this.trianglesOf(face)) {
      const at = nearestOnTriangle(p, this.cornersOf(t))
      const far = norm(subtract(at, p))
      if (!best || far < best.far) best = { t, at, far }
    }
    return best && { at: best.at, normal: this.normalOn(best.t, best.at) }
  }

  /** How far along a line it crosses a face, nearest to `expected`; undefined where it does not. */
  crossing(face: number, from: Vec3, along: Vec3, expected: number): number | undefined {
    let best: number | undefined
    for (const t of this.trianglesOf(face)) {
      const far = crossingOf(this.cornersOf(t), from, along)
      if (far !== undefined && (best === undefined || Math.abs(far - expected) < Math.abs(best - expected))) best = far
    }
    return best
  }

  private cornersOf(t: number): readonly [Vec3, Vec3, Vec3] {
    return [this.at(this.from(3 * t)), this.at(this.from(3 * t + 1)), this.at(this.from(3 * t + 2))]
  }

  /** The smooth normal at a point of a triangle. */
  private normalOn(t: number, p: Vec3): Vec3 {
    const all = this.cornersOf(t)
    const areas = [0, 1, 2].map((i) => norm(cross(subtract(all[(i + 1) % 3]!, p), subtract(all[(i + 2) % 3]!, p))))
    const sum = areas.map((area, i) => scaled(this.normal(3 * t + i), area)).reduce(add)
    return norm(sum) > 0 ? unit(sum) : this.flat(t)
  }

  /** The smooth normal at a corner, by all corners that hang together with it. */
  private normalOf(sector: readonly number[]): Vec3 {
    let distinct: Vec3[] = []
    const note = (n: Vec3) => {
      if (!distinct.some((known) => dot(known, n) > samePlane)) distinct.push(n)
    }
    for (const corner of sector) {
      const n = this.#flatFaces[this.face(corner)]
      if (n) note(n)
    }
    if (distinct.length === 1) return distinct[0]!
    // Where it runs into several flats, only its own triangles tell how it lies.
    const own = sector.filter((corner) => !this.#flatFaces[this.face(corner)])
    distinct = []
    for (const corner of own) note(this.flat((corner / 3) | 0))
    // Within a flat of a round face.
    if (distinct.length === 1) return this.#facets.normalAt((own[0]! / 3) | 0, this.at(this.from(own[0]!)))
    const sum = distinct.reduce(add)
    return scaled(sum, 1 / norm(sum))
  }

  /** The normal of each face whose triangles all lie in one plane, by its largest triangle. */
  private flatFaces(): (Vec3 | undefined)[] {
    const { faces, faceOf } = this.solid
    const first = new Int32Array(faces.length).fill(-1)
    const bent = new Uint8Array(faces.length)
    const largest = new Float64Array(faces.length)
    faceOf.forEach((face, t) => {
      const size = norm(this.twiceOver(t))
      if (first[face]! >= 0 && size <= largest[face]!) return
      largest[face] = size
      first[face] = t
    })
    const normals = faces.map((_, face) => (first[face]! < 0 ? undefined : this.flat(first[face]!)))
    for (let t = 0; t < faceOf.length; t++) {
      const face = faceOf[t]!
      if (!bent[face] && dot(this.flat(t), normals[face]!) < 1 - 1e-5) bent[face] = 1
    }
    return normals.map((normal, face) => (bent[face] ? undefined : normal))
  }
}

/** Lower than this the corners of a triangle do not tell where it looks, mm; its normal is that of its neighbour then. */
const sliverHeight = 2e-4

/** The half-edge before `h` round its triangle. */
export function previous(h: number): number {
  return h % 3 === 0 ? h + 2 : h - 1
}

/** How far along a line it crosses a triangle (Möller and Trumbore 1997); undefined where it does not. */
function crossingOf([a, b, c]: readonly [Vec3, Vec3, Vec3], from: Vec3, along: Vec3): number | undefined {
  const [u, v, away] = [subtract(b, a), subtract(c, a), subtract(from, a)]
  const p = cross(along, v)
  const whole = dot(u, p)
  if (Math.abs(whole) < 1e-15) return undefined
  const s = dot(away, p) / whole
  const q = cross(away, u)
  const t = dot(along, q) / whole
  return s < -1e-9 || t < -1e-9 || s + t > 1 + 1e-9 ? undefined : dot(v, q) / whole
}
