import { operationOf } from '@makrel/core/operations'
import type React from 'react'
import { usePart } from '../state/part.ts'
import { editFirstValue, openStepMenu } from './StepMenu.tsx'

/** What all lines of the sheet have in common, folded or not: how they look, and what a press on them does. */

const numberLooks = {
  more: 'border-ink bg-sheet text-ink',
  less: 'border-plum bg-plum text-sheet',
  within: 'border-moss bg-moss text-sheet',
  changed: 'border-mackerel bg-mackerel text-sheet',
} as const

/** The number of a line, by what its step does. */
export function numberLook(operation: string): string {
  const look = numberLooks[operationOf(operation)?.look ?? 'more']
  return `figures inline-flex h-6 min-w-6 shrink-0 cursor-grab touch-none items-center justify-center rounded-full border px-1 text-sm ${look}`
}

export function lineLook(chosen: boolean): string {
  return chosen
    ? 'bg-mackerel-wash before:absolute before:inset-y-0 before:left-0 before:w-[3px] before:bg-mackerel'
    : 'hover:bg-[#f3f6f4]'
}

/** A press selects the line; with Ctrl (or Cmd) it joins the selection, with Shift all lines up to it do. */
export function pressed(event: React.PointerEvent, id: string, chosen: boolean): void {
  if (event.button !== 0) return
  const { select, alsoSelect, selectTo } = usePart.getState()
  if (event.ctrlKey || event.metaKey) alsoSelect(id)
  else if (event.shiftKey && !(event.target instanceof HTMLInputElement)) {
    event.preventDefault()
    selectTo(id)
  } else if (!chosen) select({ kind: 'step', id })
}

/** A second press on a line's words edits its first value; on a value it is the value's own. */
export function doublePressed(event: React.MouseEvent, id: string): void {
  if (event.target instanceof HTMLElement && event.target.closest('input, button, [role=combobox]')) return
  document.getSelection()?.removeAllRanges()
  editFirstValue(id)
}

/** In a field the browser's own menu copies and pastes. */
export function menuOf(event: React.MouseEvent, id: string): void {
  if (event.target instanceof HTMLInputElement) return
  event.preventDefault()
  openStepMenu(event.clientX, event.clientY, id)
}

/** Enter or the space bar on a step's number; a press by pointer has selected already. */
export function selectByKey({ detail }: React.MouseEvent, id: string): void {
  if (detail === 0) usePart.getState().select({ kind: 'step', id })
}
