import { findStep } from '@makrel/core/document'
import { create } from 'zustand'
import { faceWord, stepNumber, stepTitle } from '../make/words.ts'
import { type Selection, usePart } from '../state/part.ts'
import { startDrag } from './drag.ts'
import { takenForEdges, useEdgePick } from './edgePick.ts'
import type { Picking } from './PieceModel.tsx'
import { isReading, takenForReading } from './reading.tsx'
import type { ViewportProps } from './Viewport.tsx'

interface PointerState {
  /** what the pointer is over, and where it is */
  readonly over: Selection | undefined
  readonly x: number
  readonly y: number
  /** where was pressed last, and how many faces down that went */
  readonly pressed: { readonly x: number; readonly y: number; readonly depth: number }
}

const usePointer = create<PointerState>()(() => ({ over: undefined, x: 0, y: 0, pressed: { x: -1, y: -1, depth: 0 } }))

/** Presses nearer to the last one than this are presses on the same place, pixels. */
const samePlace = 4

/** A press selects the nearest face; one more on the same place the one behind it, and so on round. */
export const picking: Picking = {
  pick(selection, mesh) {
    if (takenForReading(selection) || takenForEdges(selection, mesh)) return
    usePart.getState().select(selection)
  },
  press(selection, event) {
    const { selection: chosen, others } = usePart.getState()
    const viewport = event.target instanceof Element ? event.target.closest<HTMLElement>('[data-drawn]') : null
    const own = selection.kind === 'step' && (chosen?.id === selection.id || others.includes(selection.id))
    if (event.button !== 0 || !own || !viewport || isReading() || useEdgePick.getState().step !== undefined)
      return false
    // The body of what is selected is a handle of its own; a press without a drag goes to what lies behind.
    startDrag(chosen!.id, 'move', event, viewport)
    return true
  },
  depthAt({ clientX: x, clientY: y }, count) {
    // Presses on one edge take it and leave it out by turns.
    if (useEdgePick.getState().step !== undefined) return 0
    const { pressed } = usePointer.getState()
    const again = Math.hypot(x - pressed.x, y - pressed.y) < samePlace && usePart.getState().selection !== undefined
    const depth = again ? (pressed.depth + 1) % Math.max(1, count) : 0
    usePointer.setState({ pressed: { x, y, depth } })
    return depth
  },
  hover(over, event) {
    usePointer.setState({ over, x: event?.offsetX ?? 0, y: event?.offsetY ?? 0 })
  },
}

/** Where pieces are moved by hand: a press takes hold of one, and one without a drag selects as ever. */
export function grabbing(onGrab: NonNullable<ViewportProps['onGrab']>): Picking {
  return {
    ...picking,
    press(_, event, { piece, at }) {
      const viewport = event.target instanceof Element ? event.target.closest<HTMLElement>('[data-drawn]') : null
      return event.button === 0 && viewport !== null && onGrab(piece, at, event, viewport)
    },
  }
}

/** The edge under the pointer, by its name. */
export function usePointedEdge(): string | undefined {
  return usePointer(({ over }) => over?.edge)
}

/** The face under the pointer, where there is one. */
export function pointedAt(): Selection | undefined {
  return usePointer.getState().over
}

/** Names the step and the face under the pointer. */
export function HoverLabel() {
  const part = usePart((state) => state.part)!
  const { over, x, y } = usePointer()
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
      {over.face && ` · ${faceWord(over.face)}`}
      {over.edge && ' · its edge'}
    </p>
  )
}
