import { useEffect } from 'react'
import { usePart } from '../state/part.ts'

/** Whether the keyboard is in a field for text, which has its own use for most keys. */
export function isTyping({ target }: Event): boolean {
  return target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement
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
      } else if (event.key === 'Escape' && !isTyping(event)) select(undefined)
    }
    window.addEventListener('keydown', pressed)
    return () => window.removeEventListener('keydown', pressed)
  }, [])
}
