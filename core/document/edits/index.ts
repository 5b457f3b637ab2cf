import { withoutIdleAssets } from '../assets.ts'
import type { FieldKindOf, Part, Step } from '../format.ts'
import { renewed } from '../references.ts'
import type { EditsOf } from './define.ts'
import { measureEdits } from './measures.ts'
import { outlineEdits } from './outlines.ts'
import { partEdits } from './part.ts'
import { stepEdits } from './steps.ts'

export type { HeldPlaces, HeldStep } from './held.ts'

const edits = { ...partEdits, ...measureEdits, ...outlineEdits, ...stepEdits }

/**
 * Everything that can be done to a part, as data. `applyEdit` gives the edited part; the part before it is the inverse,
 * since parts are immutable and share what did not change.
 */
export type Edit = EditsOf<typeof edits>

/**
 * The part after `edit`. An edit that names something that is not there leaves the part as it is.
 * `kindOf` tells which fields hold expressions; it comes from the registries of shapes and joints.
 */
export function applyEdit(part: Part, edit: Edit, kindOf: FieldKindOf): Part {
  const apply = edits[edit.type] as (part: Part, edit: Edit, kindOf: FieldKindOf) => Part
  const after = apply(part, edit, kindOf)
  return letsGo(edit) ? withoutIdleAssets(after, kindOf) : after
}

/** Whether an edit may leave an asset without a user. */
function letsGo(edit: Edit): boolean {
  if (edit.type === 'set-outline') return 'picture' in edit.change
  return ['remove-steps', 'remove-piece', 'remove-outline', 'set-field'].includes(edit.type)
}

/** A copy of a step under a new id; it stands where the original does, until it is moved. */
export function copiedStep(step: Step, id: string, kindOf: FieldKindOf): Step {
  return { ...renewed(step, id, kindOf), name: step.name && `${step.name} copy` }
}
