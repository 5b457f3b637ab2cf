import { useEffect } from 'react'
import { nudge } from '../drawing/drag.ts'
import { copySteps, removeSteps } from '../make/stepActions.ts'
import { usePart } from '../state/part.ts'

/** Where the arrow keys move the selected step: across, along and off its face, in steps. */
const arrows: Readonly<Record<string, readonly [number, number, number]>> = {
  ArrowLeft: [-1, 0, 0],
  ArrowRight: [1, 0, 0],
  ArrowUp: [0, 1, 0],
  ArrowDown: [0, -1, 0],
  PageUp: [0, 0, 1],
  PageDown: [0, 0, -1],
}

/** Whether no control has a use of its own for an arrow key: the drawing, the page, or the number of a step has the keyboard. */
function isFree({ target, altKey }: KeyboardEvent): boolean {
  if (target === document.body || target instanceof HTMLCanvasElement) return true
  return !altKey && target instanceof Element && target.matches('[data-step] button[aria-pressed]')
}

/** Undo and redo follow the operating system; in a text field they belong to the field while its text is being typed. */
export function useKeys(): void {
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const { undo, redo, select } = usePart.getState()
      const typing = event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement
      const command = event.ctrlKey || event.metaKey
      const key = event.key.toLowerCase()
      if (command && key === 'z' && !event.altKey) {
        event.preventDefault()
        if (typing) (event.target as HTMLElement).blur()
        if (event.shiftKey) redo()
        else undo()
      } else if (command && key === 'y') {
        event.preventDefault()
        redo()
      } else if (event.key === 'Delete' && !typing) {
        removeSteps()
      } else if (command && key === 'd' && !typing && usePart.getState().selection?.kind === 'step') {
        event.preventDefault()
        copySteps()
      } else if (event.key === 'Escape' && !typing) select(undefined)
      else if (!command && arrows[event.key] && isFree(event) && usePart.getState().selection?.kind === 'step') {
        event.preventDefault()
        const times = event.shiftKey ? 10 : event.altKey ? 0.1 : 1
        const [across, along, lift] = arrows[event.key]!
        nudge(across * times, along * times, lift * times)
      } else if (event.key === '/' && !typing) {
        const add = document.getElementById('add-step')
        if (!add) return
        event.preventDefault()
        add.focus()
      }
    }
    window.addEventListener('keydown', pressed)
    return () => window.removeEventListener('keydown', pressed)
  }, [])
}
