import { type Joint, onBed, type Part } from '@makrel/core/document'
import { defaultFields } from '@makrel/core/fields'
import type { JointDefinition } from '@makrel/core/joints'
import { stepsFor } from '../make/StepChoice.tsx'

/**
 * A joint between the first two pieces, or of steps that it may be between: the first two in different pieces, or the first one that is
 * not in the piece of `brought`, and that.
 */
export function newJoint(part: Part, definition: JointDefinition, id: string, brought?: string): Joint {
  const fields: Record<string, string> = { ...defaultFields(definition.fields, part.unit) }
  let [one, two] = part.pieces.map((piece) => piece.id) as [string, string]
  const named = Object.entries(definition.fields).flatMap(([name, field]) =>
    field.kind === 'step' ? [{ name, field }] : [],
  )
  const [first, second] = named
  if (first && second) {
    const all = stepsFor(part, { ...first.field, side: undefined }, undefined)
    const given = all.find((each) => each.id === brought)
    const start = given ? all.find(({ piece }) => piece !== given.piece) : all[0]
    const other = given ?? all.find(({ piece }) => start && piece !== start.piece)
    if (start && other) {
      ;[one, two] = [start.piece, other.piece]
      fields[first.name] = start.id
      fields[second.name] = other.id
    }
  }
  return { id, name: '', kind: definition.kind, pieces: [one, two], fields, place: onBed }
}
