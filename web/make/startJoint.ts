import {
  applyEdit,
  clipOf,
  type Edit,
  type Joint,
  newPiece,
  onBed,
  type Part,
  type Piece,
  pasteEdits,
  pieceColours,
} from '@makrel/core/document'
import type { JointDefinition } from '@makrel/core/joints'
import { type Box, joined } from '@makrel/core/place'
import { adds, fieldKindOf, type Plan, workOut } from '@makrel/core/planning'
import { findShapes, newStep } from '@makrel/core/shapes'
import { lengthUnits, type PartUnit } from '@makrel/core/units'
import { create } from 'zustand'
import { newId } from '../ids.ts'
import { workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { newJoint } from './newJoint.ts'
import { besidePieces, besideSteps, newBundle } from './stepActions.ts'

/** A joint that was chosen while there was one piece: its second is asked for. */
export const useWantedJoint = create<{ readonly wanted: JointDefinition | undefined }>()(() => ({ wanted: undefined }))

/** Adds a joint, or asks what its second piece is where there is none. */
export function startJoint(definition: JointDefinition): void {
  const { part } = usePart.getState()
  if (!part) return
  if (part.pieces.length < 2) useWantedJoint.setState({ wanted: definition })
  else addJoint(part, definition)
}

function addJoint(part: Part, definition: JointDefinition): void {
  const { edit, select } = usePart.getState()
  const id = newId()
  edit({ type: 'add-joint', joint: newJoint(part, definition, id, undefined, workedOf(part).plan) })
  select({ kind: 'joint', id })
  useWantedJoint.setState({ wanted: undefined })
}

/** What the second piece of a joint may be made of. */
export type Second = 'plate' | 'copy'

/** Makes the second piece of the joint that was waiting, and that joint, at once. */
export function makeSecond(of: Second): void {
  const { part, editAll, select } = usePart.getState()
  const { wanted } = useWantedJoint.getState()
  if (!part?.pieces[0] || !wanted) return
  const made = secondEdits(part, wanted, of)
  if (!editAll(made.edits)) return
  select({ kind: 'joint', id: made.joint })
  useWantedJoint.setState({ wanted: undefined })
}

/**
 * A second piece beside the first one, and the joint between them. What a chain goes on with begins at the right side of the first piece, and the
 * second stands at its other side, so that it hangs on it; by any other joint it stands clear.
 */
export function secondEdits(part: Part, definition: JointDefinition, of: Second) {
  const [first] = part.pieces
  const piece = newPiece(newId(), `Piece ${part.pieces.length + 1}`, pieceColours[1])
  const id = newId()
  const { plan } = workedOf(part)
  const size = sizeOf(first!, plan)
  const hangs = definition.chains === true && size !== undefined
  const edited = (edits: readonly Edit[]) => edits.reduce((state, edit) => applyEdit(state, edit, fieldKindOf), part)
  const beside = (across: Beside): readonly Edit[] => [
    { type: 'add-piece', piece },
    ...(of === 'plate'
      ? [plateEdit(part, piece.id, across, hangs ? size : undefined)]
      : copyEdits(part, piece.id, across)),
  ]
  const apart = beside(besidePieces(plan, part, piece.id))
  const both = edited(apart)
  const begun = newJoint(both, definition, id, undefined, workOut(both).plan)
  const { values } = workOut({ ...both, joints: [...both.joints, begun] }).resolved.joints.get(id) ?? {}
  const joint = hangs && Number(values?.length) > size[1] ? asLong(begun, size[1], part.unit) : begun
  const { min, max } = (values && definition.chains && definition.box(values)) || { min: [0], max: [0] }
  const wide = max[0]! - min[0]!
  const edits = wide > 0 ? beside(besideSteps(plan, first!.steps, lengthText(wide, part.unit))) : apart
  return { edits: [...edits, { type: 'add-joint', joint } as const], joint: id }
}

/** With all digits that a length has: what is to stand flush may not be off by a rounding. */
function lengthText(mm: number, unit: PartUnit): string {
  return `${Number((mm / lengthUnits[unit]).toFixed(9))}`
}

type Beside = ReturnType<typeof besidePieces>

/** How wide, deep and high all that a piece adds is, mm; undefined where it adds nothing. */
function sizeOf({ steps }: Piece, { operands }: Plan): readonly [number, number, number] | undefined {
  const boxes = steps.flatMap(({ id }) => {
    const operand = operands.get(id)
    return operand && adds(operand) ? [operand.box] : []
  })
  const whole = boxes.reduce<Box | undefined>((all, box) => joined(all, box), undefined)
  if (!whole) return undefined
  const [w, d, h] = [0, 1, 2].map((i) => whole.max[i]! - whole.min[i]!)
  return [w!, d!, h!]
}

/** A joint as long as what it hangs on is deep, mm. */
function asLong(joint: Joint, deep: number, unit: PartUnit): Joint {
  return { ...joint, fields: { ...joint.fields, length: lengthText(deep, unit) } }
}

/** A plate as deep and as high as the first piece, where it is to hang beside that. */
function plateEdit({ unit }: Part, piece: string, across: Beside, as: ReturnType<typeof sizeOf>): Edit {
  const [plate] = findShapes('plate', undefined, unit)
  const step = newStep(newId(), plate!, across ? { across } : {})
  const sized = as && { depth: lengthText(as[1], unit), height: lengthText(as[2], unit) }
  return { type: 'add-step', piece, step: { ...step, fields: { ...step.fields, ...sized } } }
}

/** All steps of the first piece again, as one bundle that stands beside it. */
function copyEdits(part: Part, piece: string, across: Beside): readonly Edit[] {
  const clip = clipOf(
    part,
    part.pieces[0]!.steps.map(({ id }) => id),
    fieldKindOf,
  )
  const pasted = pasteEdits(part, clip, { piece }, newId, fieldKindOf)
  const steps = pasted.flatMap((edit) => (edit.type === 'add-step' ? [edit.step] : []))
  const bundle = newBundle(newId(), { ...onBed, ...(across ? { across } : {}) }, steps)
  return [...pasted.filter(({ type }) => type !== 'add-step'), { type: 'add-step', piece, step: bundle }]
}
