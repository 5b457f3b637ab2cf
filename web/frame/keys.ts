import { useEffect } from 'react'
import { copySteps, removeSteps } from '../make/stepActions.ts'
import { usePart } from '../state/part.ts'

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
      else if (event.key === '/' && !typing) {
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
