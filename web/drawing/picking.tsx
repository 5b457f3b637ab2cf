import { findStep } from '@makrel/core/document'
import { create } from 'zustand'
import { stepNumber, stepTitle } from '../make/words.ts'
import { type Selection, usePart } from '../state/part.ts'
import type { Picking } from './PieceModel.tsx'
import { takenForReading } from './reading.tsx'

const useHover = create<{ readonly over: Selection | undefined; readonly x: number; readonly y: number }>()(() => ({
  over: undefined,
  x: 0,
  y: 0,
}))

/** Presses nearer to the last one than this are presses on the same place, pixels. */
const samePlace = 4
let last = { x: -1, y: -1, depth: 0 }

/** A press selects the nearest face; one more on the same place the one behind it, and so on round. */
export const picking: Picking = {
  pick(selection) {
    if (takenForReading(selection)) return
    usePart.getState().select(selection)
  },
  depthAt({ clientX: x, clientY: y }, count) {
    const again = Math.hypot(x - last.x, y - last.y) < samePlace && usePart.getState().selection !== undefined
    last = { x, y, depth: again ? (last.depth + 1) % Math.max(1, count) : 0 }
    return last.depth
  },
  hover(over, event) {
    useHover.setState({ over, x: event?.offsetX ?? 0, y: event?.offsetY ?? 0 })
  },
}

/** Names the step and the face under the pointer. */
export function HoverLabel() {
  const part = usePart((state) => state.part)!
  const { over, x, y } = useHover()
  const found = over?.kind === 'step' ? findStep(part, over.id) : undefined
  if (!over || (!found && over.kind === 'step')) return null
  const name = found ? `${stepNumber(part, over.id)} ${stepTitle(found.step)}` : 'joint'
  return (
    <p
      aria-hidden="true"
      className="pointer-events-none absolute z-10 border border-line bg-sheet/95 px-1.5 text-xs leading-5 text-ink-soft"
      style={{ left: x + 14, top: y + 16 }}
    >
      {name}
      {over.face && ` · ${over.face}`}
    </p>
  )
}
