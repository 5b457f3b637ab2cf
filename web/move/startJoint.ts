import { clipOf, type Edit, newPiece, onBed, type Part, pasteEdits, pieceColours } from '@makrel/core/document'
import type { JointDefinition } from '@makrel/core/joints'
import { fieldKindOf } from '@makrel/core/planning'
import { findShapes, newStep } from '@makrel/core/shapes'
import { create } from 'zustand'
import { newId } from '../ids.ts'
import { besidePieces, newBundle } from '../make/stepActions.ts'
import { workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { newJoint } from './newJoint.ts'

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

/** Makes the second piece, clear of the first one, and with it the joint that was waiting. */
export function makeSecond(of: Second): void {
  const { part, editAll } = usePart.getState()
  const { wanted } = useWantedJoint.getState()
  const [first] = part?.pieces ?? []
  if (!part || !first || !wanted) return
  const piece = newPiece(newId(), `Piece ${part.pieces.length + 1}`, pieceColours[1])
  const across = besidePieces(workedOf(part).plan, part, piece.id)
  const steps = of === 'plate' ? [plateEdit(part, piece.id, across)] : copyEdits(part, piece.id, across)
  if (!editAll([{ type: 'add-piece', piece }, ...steps])) return
  addJoint(usePart.getState().part!, wanted)
}

type Beside = ReturnType<typeof besidePieces>

function plateEdit({ unit }: Part, piece: string, across: Beside): Edit {
  const [plate] = findShapes('plate', undefined, unit)
  return { type: 'add-step', piece, step: newStep(newId(), plate!, across ? { across } : {}) }
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
