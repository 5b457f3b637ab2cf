import { allSteps } from '@makrel/core/document'
import { type Box, joined } from '@makrel/core/place'
import { useEffect } from 'react'
import { isTyping } from '../frame/keys.ts'
import { addsMaterial } from '../make/operations.ts'
import { workedOf } from '../state/build.ts'
import { selectedSteps, usePart } from '../state/part.ts'
import { useView } from './view.ts'

/** Degrees that a key turns the view by, and the share of its height that it shifts it by. */
const turn = 15
const shift = 0.1

const turns: Readonly<Record<string, readonly [right: number, up: number]>> = {
  j: [-1, 0],
  l: [1, 0],
  i: [0, 1],
  k: [0, -1],
}

/** J, L, I, K turn the view, with Shift they shift it; + and − zoom; 0 fits the part, 1 what is selected. */
export function useViewKeys(): void {
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (isTyping(event) || event.ctrlKey || event.metaKey || event.altKey) return
      const { orbit, pan, zoom, look, name } = useView.getState()
      const way = turns[event.key.toLowerCase()]
      if (way) {
        if (event.shiftKey) pan(way[0] * shift, way[1] * shift)
        else orbit(way[0] * turn, way[1] * turn)
      } else if (event.key === '+' || event.key === '=') zoom(1.25)
      else if (event.key === '-') zoom(1 / 1.25)
      else if (event.key === '0') look(name)
      else if (event.key === '1') fitSelection()
    }
    window.addEventListener('keydown', pressed)
    return () => window.removeEventListener('keydown', pressed)
  }, [])
}

/** Brings the selected steps into full view; the whole part where none is. */
export function fitSelection(): void {
  fitSteps(selectedSteps(usePart.getState()))
}

/** Brings all steps into full view, also those that were just put on the sheet and are not built yet. */
export function fitAllSteps(): void {
  const { part } = usePart.getState()
  fitSteps(part ? allSteps(part).flatMap((step) => (addsMaterial(step) ? [step.id] : [])) : [])
}

function fitSteps(ids: readonly string[]): void {
  const { part } = usePart.getState()
  const { fitTo, look, name } = useView.getState()
  const operands = part && workedOf(part).plan.operands
  const box = ids.flatMap((id) => operands?.get(id)?.box ?? []).reduce<Box | undefined>(joined, undefined)
  if (box) fitTo(box)
  else look(name)
}
