import type { FieldTexts, Part, Place } from '../format.ts'
import { withTakenHeld } from '../outlines.ts'
import { hasBody } from '../tree.ts'
import { withItemChanged, withStep } from './lists.ts'

/**
 * For each step or joint whose place hangs on something about to be removed: the place, and the fields, that keep it where it is. For
 * each outline that picked points up from it: where these are, and as [size, 0] how large curves are, mm.
 */
export type HeldPlaces = Readonly<Record<string, HeldStep | HeldOutline>>
export interface HeldStep {
  readonly place: Place
  readonly fields?: FieldTexts
}
export interface HeldOutline {
  readonly taken: Readonly<Record<string, readonly [number, number]>>
}

export function withPlacesHeld(part: Part, held: HeldPlaces): Part {
  return Object.entries(held).reduce((out, [id, kept]) => {
    if ('taken' in kept) return withItemChanged(out, 'outlines', id, (own) => withTakenHeld(own, kept.taken))
    if (out.joints.some((joint) => joint.id === id))
      return withItemChanged(out, 'joints', id, (joint) => ({ ...joint, place: kept.place }))
    return withStep(out, id, (step) =>
      hasBody(step) ? { ...step, place: kept.place, fields: kept.fields ?? step.fields } : step,
    )
  }, part)
}
