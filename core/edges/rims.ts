import type { Vec3 } from '../place/index.ts'
import type { EdgeForm, Sense } from './ball.ts'
import type { ClosedSurface } from './body.ts'
import type { Course } from './courses.ts'
import { largestShare } from './fits.ts'
import { clearOf, type Rim, rimBody, rimsOf, rimThrough } from './level.ts'
import type { Surface } from './surface.ts'

/** Rims of flat faces that take over from courses along which no ball can roll, since a corner is tighter than it. */
export class Rims {
  /** the courses that are theirs */
  readonly of = new Set<Course>()
  readonly bodies: (ClosedSurface & { readonly sense: Sense; readonly edges: readonly number[] })[] = []
  readonly #surface: Surface
  readonly #courses: readonly Course[]
  readonly #form: EdgeForm
  readonly #fineness: number
  readonly #rims = new Map<number, readonly (readonly number[])[]>()
  readonly #tried = new Map<Course, Rim | undefined>()
  /** where rims that were taken end on their faces */
  readonly #inner: (readonly Vec3[])[] = []

  constructor(surface: Surface, courses: readonly Course[], form: EdgeForm, fineness: number) {
    this.#surface = surface
    this.#courses = courses
    this.#form = form
    this.#fineness = fineness
  }

  /** Takes over from those that were refused what it can, with all of their rims; tells whether there was any. */
  takenFrom(refused: Set<Course>): boolean {
    let any = false
    for (const course of [...refused]) {
      if (this.#tried.has(course)) continue
      const rim = rimThrough(this.#surface, course, this.#courses)
      for (const own of rim?.courses ?? [course]) this.#tried.set(own, rim)
      const made = rim && this.made(rim, 1)
      if (!rim || !made) continue
      const { inner, ...body } = made
      this.#inner.push(inner)
      this.bodies.push({ ...body, sense: rim.sense, edges: rim.courses.flatMap(({ edges }) => edges) })
      for (const own of rim.courses) {
        this.of.add(own)
        refused.delete(own)
      }
      any = true
    }
    return any
  }

  /** What the sizes may be times along the rim of a course that was refused; undefined where it is of none. */
  mostFor(course: Course): number | undefined {
    const rim = this.#tried.get(course)
    return rim && largestShare((share) => this.made(rim, share) !== undefined)
  }

  /** The other rims of its face. */
  private besides({ halfEdges }: Rim): (readonly Vec3[])[] {
    const face = this.#surface.face(halfEdges[0]!)
    const known = this.#rims.get(face) ?? rimsOf(this.#surface, face)
    this.#rims.set(face, known)
    const first = this.#surface.from(halfEdges[0]!)
    return known.filter((rim) => !rim.includes(first)).map((rim) => rim.map((vertex) => this.#surface.at(vertex)))
  }

  private made(rim: Rim, scale: number) {
    const profile = this.#form.level?.(scale, this.#fineness)
    if (!profile) return undefined
    const others = [...this.besides(rim), ...this.#inner]
    return rimBody(this.#surface, rim, profile, clearOf(this.#fineness), others)
  }
}
