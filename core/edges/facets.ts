import { nextHalfEdge } from '../mesh/index.ts'
import { add, cross, dot, norm, scaled, subtract, unit, type Vec3 } from '../place/index.ts'
import type { Surface } from './surface.ts'

/** Normals nearer to each other than this are those of one plane. */
const samePlane = 1 - 1e-10

/** Where a facet goes on into another one. */
interface Crease {
  readonly point: Vec3
  /** unit, along it */
  readonly along: Vec3
  /** of the smooth surface there */
  readonly normal: Vec3
}

/** One flat of a round face, however many triangles it is of. */
interface Facet {
  readonly normal: Vec3
  readonly creases: readonly Crease[]
  /** how wide it is, or its widest neighbour, across its only crease */
  readonly width: number
}

/**
 * The smooth normals of round faces between the creases of their flats: halfway from one crease to the next it is the flat's own,
 * at a crease the mean of both, and evenly from one to the other between.
 */
export class Facets {
  readonly #surface: Surface
  /** by triangle: its facet, which counts as many as it has triangles; −1 where nobody asked */
  readonly #of: Int32Array
  readonly #members: number[][] = []
  readonly #made: (Facet | undefined)[] = []

  constructor(surface: Surface) {
    this.#surface = surface
    this.#of = new Int32Array(surface.solid.triangles.length / 3).fill(-1)
  }

  /** The smooth normal at a point of a triangle of a round face. */
  normalAt(t: number, p: Vec3): Vec3 {
    const { normal, creases, width } = this.facet(this.number(t))
    const [first, ...more] = creases
    if (!first) return normal
    const away = (crease: Crease) => norm(cross(subtract(p, crease.point), crease.along))
    let all = creases.map((crease) => ({ far: away(crease), normal: crease.normal }))
    if (more.length === 0) {
      // As if it went on to another crease that is bent as much.
      const mirrored = subtract(scaled(normal, 2 * dot(normal, first.normal)), first.normal)
      all = [...all, { far: Math.abs(width - all[0]!.far), normal: mirrored }]
    }
    const at = all.find(({ far }) => far < 1e-9)
    if (at) return at.normal
    return unit(all.map(({ far, normal: n }) => scaled(n, 1 / far)).reduce(add))
  }

  private number(t: number): number {
    if (this.#of[t]! >= 0) return this.#of[t]!
    const own = this.#members.length
    const members = [t]
    this.#of[t] = own
    const normal = this.#surface.flat(t)
    for (const each of members)
      for (let h = 3 * each; h < 3 * each + 3; h++) {
        const other = (this.#surface.twin(h) / 3) | 0
        if (
          this.#surface.twin(h) < 0 ||
          this.#of[other]! >= 0 ||
          this.#surface.face(h) !== this.#surface.face(3 * other)
        )
          continue
        if (dot(normal, this.#surface.flat(other)) < samePlane) continue
        this.#of[other] = own
        members.push(other)
      }
    this.#members.push(members)
    return own
  }

  private facet(number: number): Facet {
    this.#made[number] ??= this.make(this.#members[number]!)
    return this.#made[number]!
  }

  private make(members: readonly number[]): Facet {
    const surface = this.#surface
    const normal = surface.flat(members[0]!)
    const creases = this.creasesOf(members, normal)
    const [only, ...more] = creases
    if (!only || more.length > 0) return { normal, creases, width: 0 }
    const across = (all: readonly number[]) =>
      Math.max(
        ...all.flatMap((t) =>
          [0, 1, 2].map((i) => norm(cross(subtract(surface.at(surface.from(3 * t + i)), only.point), only.along))),
        ),
      )
    const widths = this.neighbours(members).map((t) => across(this.#members[this.number(t)]!))
    return { normal, creases, width: Math.max(across(members), ...widths) }
  }

  /** Whether the face goes on smoothly over a half-edge; what lies beyond it says nothing of how the face is bent. */
  private isWithin(h: number): boolean {
    const surface = this.#surface
    const twin = surface.twin(h)
    return twin >= 0 && surface.face(h) === surface.face(twin) && surface.isSmooth(h)
  }

  private neighbours(members: readonly number[]): number[] {
    const own = this.number(members[0]!)
    return members
      .flatMap((t) => [3 * t, 3 * t + 1, 3 * t + 2])
      .filter((h) => this.isWithin(h))
      .map((h) => (this.#surface.twin(h) / 3) | 0)
      .filter((t) => this.#of[t] !== own)
  }

  private creasesOf(members: readonly number[], normal: Vec3): Crease[] {
    const surface = this.#surface
    const own = this.number(members[0]!)
    const creases: Crease[] = []
    for (const t of members)
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        const other = (surface.twin(h) / 3) | 0
        if (this.#of[other] === own || !this.isWithin(h)) continue
        const line = subtract(surface.at(surface.from(nextHalfEdge(h))), surface.at(surface.from(h)))
        const size = norm(line)
        if (size < 1e-7) continue
        const there = unit(add(normal, surface.flat(other)))
        // Pieces of one crease are one.
        if (creases.some((known) => dot(known.normal, there) > samePlane)) continue
        creases.push({ point: surface.at(surface.from(h)), along: scaled(line, 1 / size), normal: there })
      }
    return creases
  }
}
