import { findStep } from '@makrel/core/document'
import { heldWithout, usePart } from '../state/part.ts'
import { say } from '../ui/Notice.tsx'
import { stepTitle } from './words.ts'

/** Removes a step; what stood on it keeps its place, and the next step is selected. */
export function removeStep(id: string): void {
  const { part, edit, select } = usePart.getState()
  const found = part && findStep(part, id)
  if (!found) return
  const { piece, step, index } = found
  edit({ type: 'remove-step', id, held: heldWithout(part, new Set([id])) })
  const next = piece.steps[index + 1] ?? piece.steps[index - 1]
  select(next && { kind: 'step', id: next.id })
  say({
    text: `Step ${index + 1}, ${stepTitle(step)}, removed.`,
    action: { label: 'Undo', run: () => usePart.getState().undo() },
  })
}
