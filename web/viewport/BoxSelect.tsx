import { corners } from '@makrel/core/place'
import { useEffect, useRef, useState } from 'react'
import { workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { project, useView } from './view.ts'

interface Area {
  readonly left: number
  readonly top: number
  readonly right: number
  readonly bottom: number
}

/** Shift and a drag over the drawing select all steps that lie wholly in the rectangle. */
export function BoxSelect() {
  const layer = useRef<HTMLDivElement>(null)
  const [area, setArea] = useState<Area>()
  useEffect(() => {
    const viewport = layer.current?.parentElement
    if (!viewport) return
    const pressed = (start: PointerEvent) => {
      if (!start.shiftKey || start.button !== 0 || !(start.target instanceof HTMLCanvasElement)) return
      // Before the view hears of the press, which would take it for a turn.
      useView.setState({ held: true })
      const box = viewport.getBoundingClientRect()
      const to = (event: PointerEvent): Area => {
        const [x, y] = [event.clientX - box.left, event.clientY - box.top]
        const [x0, y0] = [start.clientX - box.left, start.clientY - box.top]
        return { left: Math.min(x, x0), right: Math.max(x, x0), top: Math.min(y, y0), bottom: Math.max(y, y0) }
      }
      const move = (event: PointerEvent) => setArea(to(event))
      const end = (event: PointerEvent) => {
        window.removeEventListener('pointermove', move)
        window.removeEventListener('pointerup', end)
        window.removeEventListener('pointercancel', end)
        useView.setState({ held: false })
        setArea(undefined)
        const drawn = to(event)
        if (event.type === 'pointerup' && drawn.right - drawn.left > 4) selectWithin(drawn)
      }
      window.addEventListener('pointermove', move)
      window.addEventListener('pointerup', end)
      window.addEventListener('pointercancel', end)
    }
    viewport.addEventListener('pointerdown', pressed, true)
    return () => viewport.removeEventListener('pointerdown', pressed, true)
  }, [])
  return (
    <div ref={layer} className="pointer-events-none absolute inset-0">
      {area && (
        <div
          className="absolute border border-dashed border-mackerel bg-mackerel/10"
          style={{ left: area.left, top: area.top, width: area.right - area.left, height: area.bottom - area.top }}
        />
      )}
    </div>
  )
}

/** Steps of the pieces' own lists: a bundle as a whole. */
function selectWithin({ left, top, right, bottom }: Area): void {
  const { part, select, alsoSelect } = usePart.getState()
  if (!part) return
  const { operands } = workedOf(part).plan
  const view = useView.getState()
  const inside = part.pieces
    .flatMap(({ steps }) => steps)
    .filter(({ id }) => {
      const box = operands.get(id)?.box
      return (
        box &&
        corners(box).every((corner) => {
          const at = project(view, corner)
          return at && at[0] >= left && at[0] <= right && at[1] >= top && at[1] <= bottom
        })
      )
    })
  const [first, ...others] = inside
  select(first && { kind: 'step', id: first.id })
  for (const { id } of others) alsoSelect(id)
}
