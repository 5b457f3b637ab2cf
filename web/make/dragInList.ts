import { findStep } from '@makrel/core/document'
import { usePart } from '../state/part.ts'

/** Below this a press is a press, in pixels. */
const dragFrom = 6

/**
 * Moves a step in its list by dragging its number up or down. The sheet and the solid show the result while it is
 * dragged; Escape takes it back.
 */
export function dragInList(id: string): (event: React.PointerEvent) => void {
  return (event) => {
    if (event.button !== 0 || event.ctrlKey || event.metaKey || event.shiftKey) return
    const start = event.clientY
    const key = `${id}.drag${event.timeStamp}`
    let dragging = false
    const move = (at: PointerEvent) => {
      if (!dragging && Math.abs(at.clientY - start) < dragFrom) return
      dragging = true
      const { part, edit } = usePart.getState()
      const found = part && findStep(part, id)
      if (!found) return
      const to = indexAt(
        at.clientY,
        found.siblings.map((step) => step.id),
        found.index,
      )
      if (to !== found.index) edit({ type: 'move-step', id, to }, key)
    }
    const end = () => {
      window.removeEventListener('pointermove', move)
      window.removeEventListener('pointerup', end)
      window.removeEventListener('pointercancel', end)
      window.removeEventListener('keydown', cancel, true)
    }
    const before = usePart.getState().part
    const cancel = (pressed: KeyboardEvent) => {
      if (pressed.key !== 'Escape') return
      pressed.stopPropagation()
      if (usePart.getState().part !== before && dragging) usePart.getState().undo()
      end()
    }
    window.addEventListener('pointermove', move)
    window.addEventListener('pointerup', end)
    window.addEventListener('pointercancel', end)
    window.addEventListener('keydown', cancel, true)
  }
}

/** Where among its siblings the pointer stands: it changes places once it is past the middle of a neighbour. */
function indexAt(y: number, ids: readonly string[], index: number): number {
  const middle = (id: string) => {
    const box = document.querySelector(`[data-step="${CSS.escape(id)}"]`)?.getBoundingClientRect()
    return box ? (box.top + box.bottom) / 2 : undefined
  }
  let to = index
  while (to > 0 && y < (middle(ids[to - 1]!) ?? -Infinity)) to--
  while (to < ids.length - 1 && y > (middle(ids[to + 1]!) ?? Infinity)) to++
  return to
}
