import type { AnyValues, StepValue } from '../fields/index.ts'
import type { Beside, Between, Fact, Judged } from '../joints/index.ts'
import {
  compose,
  cross,
  directionIn,
  type Frame,
  frame,
  inverse,
  perpendicular,
  type Seating,
  type SupportFunction,
} from '../place/index.ts'
import { guarded, type Problem, ProblemError, problem } from '../problems/index.ts'
import { boxReach } from '../shapes/index.ts'
import { pivotLine } from './relations.ts'
import type { ResolvedPart } from './resolve.ts'
import type { Seats } from './seats.ts'

/** Where a joint stands, in the bed's frame. */
export interface PlacedJoint {
  readonly seating: Seating
  readonly frame: Frame
  /** of a joint that wants others beside its two: those that other joints run with its first */
  readonly beside?: readonly Beside[] | undefined
  /** of a joint between two steps: where the second stands in the frame of the first */
  readonly second?: Frame
  /** what there is to know of it */
  readonly facts?: readonly Fact[]
}

/** Joints stand on any face, or on the bed, once all steps are there. */
export function placedJoints({ joints }: ResolvedPart, seats: Seats, problems: Problem[]): Map<string, PlacedJoint> {
  const found = new Map<string, PlacedJoint>()
  const tellFaults = (path: readonly string[], faults: Judged['faults']) => {
    for (const { detail, rank } of faults) problems.push(problem('joint-told', path, { detail }, { rank }))
  }
  /** A joint between two steps stands in the frame of the first one. */
  const between = (of: Between, values: AnyValues, joint: string) => {
    const [first, second] = of.steps(values)
    const [one, two] = [first, second].map((id) => seats.geometry.get(id)?.frame)
    if (!one || !two) return undefined
    const beside = of.fellows ? besideOf(first, [joint, second], joints, seats) : []
    const apart = compose(inverse(one), two)
    const { facts, faults } = of.judged(values, apart, beside)
    return { placed: { frame: one, second: apart, facts, beside }, faults }
  }
  for (const { joint, definition, values, place } of joints.values()) {
    const path = ['joints', joint.id]
    if (!definition || !values || !place || !seats.told(joint, path)) continue
    const seating = seats.seating(joint.place.on, [...path, 'place', 'on'])
    if (!seating) continue
    if (definition.between) {
      guarded(path, problems, () => {
        const turning = between(definition.between!, values, joint.id)
        if (!turning) return
        tellFaults(path, turning.faults)
        found.set(joint.id, { seating, ...turning.placed })
      })
      continue
    }
    if (definition.standsOn) {
      guarded(path, problems, () => {
        const { step, line } = definition.standsOn!(values)
        const own = seats.geometry.get(step)?.frame
        if (!own) return
        const { point, direction } = pivotLine(line, { frame: own, size: [0, 0] })
        const u = perpendicular(direction)
        found.set(joint.id, { seating, frame: frame(point, u, cross(direction, u)) })
      })
      continue
    }
    guarded(path, problems, () => {
      const reach: SupportFunction = (d) => boxReach(definition.box(values), d)
      const frame = seats.standing(joint.place, place, seating, reach, 'on-underside')
      if (![...frame.origin, ...frame.u, ...frame.v].every(Number.isFinite))
        throw new ProblemError('step-failed', { detail: 'its size or place is not a finite number' })
      const { facts = [], faults = [] } = definition.judged?.(values, directionIn(frame, [0, 0, 1])) ?? {}
      tellFaults(path, faults)
      const untold: Problem[] = []
      guarded([], untold, () => definition.held?.(values))
      if (untold[0]) problems.push(problem('item-failed', path, { detail: untold[0].text }, { rank: 'warning' }))
      found.set(joint.id, { seating, frame, facts })
    })
  }
  return found
}

/** What other joints run with a step. */
function besideOf(id: string, but: readonly string[], joints: ResolvedPart['joints'], seats: Seats): Beside[] {
  const own = seats.geometry.get(id)!.frame
  const found = new Map<string, Beside>()
  for (const { joint, definition, values } of joints.values()) {
    if (but.includes(joint.id) || !definition?.between || !values) continue
    const steps = definition.between.steps(values)
    const other = steps[0] === id ? steps[1] : steps[1] === id ? steps[0] : undefined
    const step = Object.values(values).find((value) => (value as Partial<StepValue>)?.id === other)
    const frame = other && !but.includes(other) && seats.geometry.get(other)?.frame
    if (step && frame) found.set(other, { step: step as StepValue, frame: compose(inverse(own), frame) })
  }
  return [...found.values()]
}
