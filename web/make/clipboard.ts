import {
  allSteps,
  clipOf,
  type Edit,
  findStep,
  hasBody,
  kindWord,
  type Part,
  pasteEdits,
  type Step,
  writePartFile,
} from '@makrel/core/document'
import { fieldKindOf, upgraded } from '@makrel/core/planning'
import { ProblemError } from '@makrel/core/problems'
import { useEffect } from 'react'
import { newId } from '../ids.ts'
import { isTyping } from '../keys/keys.ts'
import { checksReady } from '../state/checks.ts'
import { sayDone } from '../state/done.ts'
import { selectedSteps, usePart } from '../state/part.ts'
import { listen } from '../ui/listen.ts'
import { say } from '../ui/Notice.tsx'
import { isIdleThere } from './adding.ts'
import { besides, removeSteps } from './stepActions.ts'

/**
 * Copy, cut and paste by the operating system's keys: the clipboard holds the selected steps as a part file, so that they
 * come into any part, here or in another window, with the measures they need.
 */
export function useClipboard(): void {
  useEffect(() => {
    const taken = (event: ClipboardEvent): boolean => {
      const state = usePart.getState()
      const ids = selectedSteps(state)
      if (typing(event) || ids.length === 0 || !event.clipboardData) return false
      event.clipboardData.setData('text/plain', writePartFile(clipOf(state.part!, ids, fieldKindOf)))
      event.preventDefault()
      say({ text: ids.length === 1 ? 'The step is on the clipboard.' : `${ids.length} steps are on the clipboard.` })
      return true
    }
    const copy = (event: ClipboardEvent) => void taken(event)
    const cut = (event: ClipboardEvent) => {
      if (taken(event)) removeSteps()
    }
    const paste = (event: ClipboardEvent) => {
      const text = event.clipboardData?.getData('text/plain') ?? ''
      if (typing(event) || !text.trimStart().startsWith('{')) return
      event.preventDefault()
      void pasteText(text)
    }
    return listen(document, { copy, cut, paste })
  }, [])
}

/** Text that is being typed or marked on the page is the browser's own to copy. */
function typing(event: ClipboardEvent): boolean {
  return (isTyping(event) && !isIdleThere(event)) || (document.getSelection()?.toString() ?? '') !== ''
}

/** The step of the part that a pasted one was copied from, if it stands where that does. */
function originalOf(part: Part, pasted: Step): string | undefined {
  const told = (step: Step) => JSON.stringify([kindWord(step), step.fields, hasBody(step) && step.place])
  const same = (step: Step) => told(step) === told(pasted)
  return allSteps(part).find(same)?.id
}

/** Steps from a part file, behind the selected step. */
async function pasteText(text: string): Promise<void> {
  const checks = await checksReady().catch(() => undefined)
  if (!checks) {
    say({ text: 'This cannot be pasted while the server is away; try again.' })
    return
  }
  const { part, selection, editAll, select, alsoSelect } = usePart.getState()
  if (!part) return
  try {
    const clip = upgraded(checks.readPartFile(text))
    const at = selection && findStep(part, selection.id)
    const piece = at?.piece.id ?? part.pieces.find(({ id }) => id === selection?.id)?.id ?? part.pieces[0]!.id
    const edits = pasteEdits(part, clip, { piece, after: at?.step.id }, newId, fieldKindOf).map((edit): Edit => {
      // A step that is in the part already is set beside its original.
      const original = edit.type === 'add-step' ? originalOf(part, edit.step) : undefined
      if (edit.type !== 'add-step' || !original) return edit
      const { step } = edit
      return hasBody(step) ? { ...edit, step: { ...step, place: besides(part, original, step.place) } } : edit
    })
    const pasted = edits.flatMap((edit) => (edit.type === 'add-step' ? [edit.step.id] : []))
    if (pasted.length === 0) {
      say({ text: 'There are no steps on the clipboard.' })
      return
    }
    if (!editAll(edits)) return
    select({ kind: 'step', id: pasted[0]! })
    for (const id of pasted.slice(1)) alsoSelect(id)
    sayDone(pasted.length === 1 ? 'The step was pasted.' : `${pasted.length} steps were pasted.`)
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    say({ text: `This cannot be pasted. ${error.message}` })
  }
}
