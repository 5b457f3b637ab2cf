import { type BodyStep, type Edit, findStep, hasBody, type Part, referencesOf, type Step } from '@makrel/core/document'
import {
  cross,
  directionIn,
  dot,
  norm,
  type PlaceValues,
  pointOut,
  subtract,
  turnedAbout,
  type Vec3,
} from '@makrel/core/place'
import type { StepGeometry } from '@makrel/core/planning'
import { workedOf } from '../state/build.ts'
import { selectedSteps, usePart } from '../state/part.ts'
import { movedOffset, movedText, turnedText } from './dragMath.ts'

/** A step that moves along with the one that is dragged. */
interface Companion {
  readonly step: BodyStep
  readonly place: PlaceValues
  readonly geometry: StepGeometry
}

/** The other selected steps, but for those that go along by themselves: what stands on, or is told by, one of them. */
export function companionsOf(id: string): readonly Companion[] {
  const state = usePart.getState()
  const { part } = state
  if (!part) return []
  const chosen = new Set([...selectedSteps(state), id])
  const { plan, resolved } = workedOf(part)
  return [...chosen].flatMap((other): Companion[] => {
    const found = findStep(part, other)
    const geometry = plan.geometry.get(other)
    const place = resolved.steps.get(other)?.place
    if (other === id || !found || !hasBody(found.step) || !geometry || !place) return []
    const carried = found.bundles.some((bundle) => chosen.has(bundle.id)) || hangsOn(part, found.step, chosen)
    return carried ? [] : [{ step: found.step, place, geometry }]
  })
}

function hangsOn(
  part: Part,
  step: Step,
  chosen: ReadonlySet<string>,
  passed: ReadonlySet<string> = new Set(),
): boolean {
  if (!hasBody(step)) return false
  return referencesOf(step.place).some((id) => {
    if (chosen.has(id)) return true
    const next = passed.has(id) ? undefined : findStep(part, id)?.step
    return next !== undefined && hangsOn(part, next, chosen, new Set([...passed, id]))
  })
}

/** The edits that move each of them by the same way in space, written in the directions of its own seat. */
export function movedAlong(companions: readonly Companion[], by: Vec3, unit: Part['unit']): Edit[] {
  return companions.flatMap((companion) => movedBy(companion, by, unit))
}

function movedBy({ step: { id, place }, place: values, geometry }: Companion, by: Vec3, unit: Part['unit']): Edit[] {
  const [across, along, lift] = directionIn(geometry.seating.frame, by)
  const offset = (axis: 'across' | 'along', mm: number): Edit[] =>
    Math.abs(mm) < 1e-9
      ? []
      : [{ type: 'set-offset', id, axis, change: { by: movedOffset(place[axis], values[axis].by, mm, unit) } }]
  return [
    ...offset('across', across),
    ...offset('along', along),
    ...(Math.abs(lift) < 1e-9
      ? []
      : [{ type: 'set-place', id, change: { lift: movedText(place.lift, values.lift, lift, unit) } } as const]),
  ]
}

/**
 * The edits that turn each of them about the same line. One whose seat looks another way cannot be turned by its own
 * turn, and stays.
 */
export function turnedAlong(
  companions: readonly Companion[],
  { point, axis }: { readonly point: Vec3; readonly axis: Vec3 },
  degrees: number,
  unit: Part['unit'],
): Edit[] {
  const turn = turnedAbout(point, axis, degrees)
  return companions.flatMap((companion): Edit[] => {
    const { step, place, geometry } = companion
    const { n } = geometry.seating.frame
    if (norm(cross(n, axis)) > 1e-6) return []
    const { origin } = geometry.frame
    const way = dot(n, axis) > 0 ? degrees : -degrees
    return [
      ...movedBy(companion, subtract(pointOut(turn, origin), origin), unit),
      { type: 'set-place', id: step.id, change: { turn: turnedText(step.place.turn, place.turn, way) } },
    ]
  })
}

/** A way across, along and off the seat of a step, in space. */
export function wayOf({ seating: { frame } }: StepGeometry, across: number, along: number, lift: number): Vec3 {
  return [0, 1, 2].map((i) => frame.u[i]! * across + frame.v[i]! * along + frame.n[i]! * lift) as unknown as Vec3
}
