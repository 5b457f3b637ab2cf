import { type Joint, onBed, type Part } from '@makrel/core/document'
import { defaultFields, versionTold } from '@makrel/core/fields'
import type { JointDefinition } from '@makrel/core/joints'
import type { Plan } from '@makrel/core/planning'
import { stepsFor } from './StepChoice.tsx'
import { besideSteps } from './stepActions.ts'

/**
 * A joint between the first two pieces, or of steps that it may be between: the first two in different pieces, or the first one that is
 * not in the piece of `brought`, and that. `plan`: where things are.
 */
export function newJoint(part: Part, definition: JointDefinition, id: string, brought?: string, plan?: Plan): Joint {
  const fields: Record<string, string> = { ...defaultFields(definition.fields, part.unit) }
  let [one, two] = part.pieces.map((piece) => piece.id) as [string, string]
  const named = Object.entries(definition.fields).flatMap(([name, field]) =>
    field.kind === 'step' ? [{ name, field }] : [],
  )
  const [first, second] = named
  if (first && second) {
    const [all, others] = [first, second].map(({ field }) => stepsFor(part, { ...field, side: undefined }, undefined))
    const given = others!.find((each) => each.id === brought)
    const start = given ? all!.find(({ piece }) => piece !== given.piece) : all![0]
    // What the second is of first is what it is meant to be.
    const rank = ({ shape }: { readonly shape: string }) => (second.field.of ?? []).indexOf(shape)
    const rest = others!.filter(({ piece }) => start && piece !== start.piece)
    const other = given ?? (first.field.of === second.field.of ? rest[0] : rest.sort((a, b) => rank(a) - rank(b))[0])
    if (start && other) {
      ;[one, two] = [start.piece, other.piece]
      fields[first.name] = start.id
      fields[second.name] = other.id
    }
  }
  if (first && !second) {
    const all = stepsFor(part, first.field, undefined)
    const rather = first.field.rather ?? []
    fields[first.name] = (all.find(({ shape }) => rather.includes(shape)) ?? all[0])?.id ?? ''
  }
  const from = part.pieces.find((piece) => piece.id === one)?.steps ?? []
  // What a chain goes on with begins at the right side of what it goes on from.
  const across = definition.chains && plan ? besideSteps(plan, from, '0') : undefined
  const place = across ? { ...onBed, across } : onBed
  return { id, name: '', kind: definition.kind, pieces: [one, two], fields, place, ...versionTold(definition) }
}
