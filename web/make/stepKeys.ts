import { useEffect } from 'react'
import { nudge } from '../drawing/drag.ts'
import { isTyping } from '../frame/keys.ts'
import { usePart } from '../state/part.ts'
import { copySteps, removeSteps, selectAllSteps } from './stepActions.ts'

/** Where the arrow keys move the selected step: across, along and off its face, in steps. */
const arrows: Readonly<Record<string, readonly [number, number, number]>> = {
  ArrowLeft: [-1, 0, 0],
  ArrowRight: [1, 0, 0],
  ArrowUp: [0, 1, 0],
  ArrowDown: [0, -1, 0],
  PageUp: [0, 0, 1],
  PageDown: [0, 0, -1],
}

/** The keys of the selected steps; on Make only, where one sees what they do. */
export function useStepKeys(): void {
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (isTyping(event)) return
      const command = event.ctrlKey || event.metaKey
      const step = usePart.getState().selection?.kind === 'step'
      if (event.key === 'Delete' || event.key === 'Backspace') removeSteps()
      else if (command && event.key.toLowerCase() === 'a') {
        event.preventDefault()
        selectAllSteps()
      } else if (command && event.key.toLowerCase() === 'd' && step) {
        event.preventDefault()
        copySteps()
      } else if (!command && arrows[event.key] && step && isFree(event)) {
        event.preventDefault()
        const times = event.shiftKey ? 10 : event.altKey ? 0.1 : 1
        const [across, along, lift] = arrows[event.key]!
        nudge(across * times, along * times, lift * times)
      } else if (event.key === '/') {
        event.preventDefault()
        document.getElementById('add-step')?.focus()
      }
    }
    window.addEventListener('keydown', pressed)
    return () => window.removeEventListener('keydown', pressed)
  }, [])
}

/** Whether no control has a use of its own for an arrow key: the drawing, the page, or the number of a step has the keyboard. */
function isFree({ target, altKey }: KeyboardEvent): boolean {
  if (target === document.body || target instanceof HTMLCanvasElement) return true
  return !altKey && target instanceof Element && target.matches('[data-step] button[aria-pressed]')
}
