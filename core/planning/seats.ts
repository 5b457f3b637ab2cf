import { type BodyStep, type Place, placeReferences, type Seat } from '../document/index.ts'
import {
  type Box,
  compose,
  dot,
  type Frame,
  type Lying,
  type PlaceValues,
  placed,
  type Seating,
  type SupportFunction,
  scaled,
  world,
} from '../place/index.ts'
import { type Problem, type ProblemCode, problem } from '../problems/index.ts'
import { depthBelow } from './cuts.ts'
import { bedSeating, heldSeating, type StepGeometry, unmirrored } from './geometry.ts'
import { type Neighbour, pivotMotion, related } from './relations.ts'
import type { ResolvedStep } from './resolve.ts'
import { faceCalled } from './sides.ts'

/** Where steps and joints can stand: what stands already, and what is told where something does not. */
export class Seats {
  readonly geometry = new Map<string, StepGeometry>()
  /** what came before in the sheet, also what could not be placed */
  readonly passed = new Set<string>()
  private readonly resolved: ReadonlyMap<string, ResolvedStep>
  private readonly problems: Problem[]
  readonly #neighbour = (id: string): Neighbour => this.geometry.get(id)!

  /** Problems are put to `problems`. */
  constructor(resolved: ReadonlyMap<string, ResolvedStep>, problems: Problem[]) {
    this.resolved = resolved
    this.problems = problems
  }

  /** The place with its distances, heights and turns as numbers on its seat, whatever they are told by. */
  related(place: Place, values: PlaceValues, seating: Seating): PlaceValues {
    return related(place, values, seating, this.#neighbour)
  }

  /** Where something stands that reaches as `reach` says, with its foot lying as `lies`. */
  standing(
    place: Place,
    values: PlaceValues,
    seating: Seating,
    reach: SupportFunction,
    lies: Lying,
    drawn?: true,
  ): Frame {
    const own = placed(seating, this.related(place, values, seating), reach, lies, drawn)
    return compose(this.pivot(place, values, seating), own)
  }

  /** Whether all steps that the place is told by are there. */
  told({ place }: Pick<BodyStep, 'place'>, path: readonly string[]): boolean {
    return placeReferences(place).every(
      // The face that it stands on, and the one that it goes up to, are looked for by themselves.
      ({ id, at }) => at === 'on' || at === 'until' || this.known(id, [...path, 'place', at]),
    )
  }

  /** Whether a step stands already, so that others can be placed by it. */
  private known(id: string, path: readonly string[]): boolean {
    if (this.geometry.has(id)) return true
    this.problems.push(problem(this.whyNot(id), path, {}))
    return false
  }

  private whyNot(id: string): ProblemCode {
    const known = this.resolved.get(id)
    if (!known) return 'reference-missing'
    if (!known.values || !(known.place ?? known.treatment)) return 'reference-broken'
    if (!this.passed.has(id)) return 'reference-later'
    return known.treatment && known.present ? 'reference-unbuilt' : 'reference-broken'
  }

  /** The turn about a line of another step, or of the seat. */
  private pivot({ pivot }: Place, { pivot: degrees }: PlaceValues, seating: Seating): Frame {
    if (!pivot || !degrees) return world
    return pivotMotion(pivot, degrees, seating, pivot.of ? this.geometry.get(pivot.of)!.frame : undefined)
  }

  /** How far the material goes below a seat: of the step that has the face, and of all of the piece. */
  thicknessBelow(on: Seat, material: Box): number[] {
    if (on.kind !== 'face') return []
    const below = this.geometry.get(on.step)
    const face = below && faceCalled(below, on.face)
    if (!face) return []
    const own = below.reach(scaled(face.frame.n, -1)) + dot(face.frame.origin, face.frame.n)
    return [own, depthBelow(compose(below.frame, face.frame), material)]
  }

  /** The face that something stands on; undefined where there is none, which is told. */
  seating(on: Seat, path: readonly string[]): Seating | undefined {
    if (on.kind === 'bed') return bedSeating
    if (on.kind === 'held') {
      this.problems.push(problem('reference-missing', path, {}, { rank: 'warning' }))
      return heldSeating(on.frame)
    }
    if (!this.known(on.step, path)) return undefined
    const below = this.geometry.get(on.step)!
    const face = faceCalled(below, on.face)
    if (!face) {
      this.problems.push(problem('face-missing', path, { face: on.face, step: 'that step' }))
      return undefined
    }
    return unmirrored({
      frame: compose(below.frame, face.frame),
      size: face.size,
      sides: face.sides,
      round: face.round,
    })
  }
}
