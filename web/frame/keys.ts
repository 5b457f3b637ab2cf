import { useEffect } from 'react'
import { usePart } from '../state/part.ts'

/** Whether the keyboard is in a field for text, which has its own use for most keys. */
export function isTyping({ target }: Event): boolean {
  if (target instanceof HTMLInputElement)
    return !['checkbox', 'radio', 'button', 'range', 'color', 'file'].includes(target.type)
  return target instanceof HTMLTextAreaElement
}

/** Whether a menu, a list or a dialog is open, which takes Escape for itself. */
function isOverlaid(): boolean {
  return document.querySelector('[role=menu], [role=listbox], [role=dialog], [role=alertdialog]') !== null
}

/** Undo and redo follow the operating system; in a text field they belong to the field while its text is being typed. */
export function useKeys(): void {
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const { undo, redo, select } = usePart.getState()
      const command = event.ctrlKey || event.metaKey
      const key = event.key.toLowerCase()
      if (command && key === 'z' && !event.altKey) {
        event.preventDefault()
        if (isTyping(event)) (event.target as HTMLElement).blur()
        if (event.shiftKey) redo()
        else undo()
      } else if (command && key === 'y') {
        event.preventDefault()
        redo()
      } else if (event.key === 'Escape' && !isTyping(event) && !event.defaultPrevented && !isOverlaid())
        select(undefined)
    }
    window.addEventListener('keydown', pressed)
    return () => window.removeEventListener('keydown', pressed)
  }, [])
}
