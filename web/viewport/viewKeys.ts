import { allSteps } from '@makrel/core/document'
import { type Box, joined } from '@makrel/core/place'
import { type KeyList, zoomKeys } from '../keys/keys.ts'
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

/** The keys of the drawing. */
export const viewKeys: KeyList = {
  title: 'On the drawing',
  keys: [
    {
      keys: ['j', 'l', 'i', 'k'],
      with: ['Shift'],
      does: 'turn the view; with Shift, shift it',
      run({ key, shiftKey }) {
        const { orbit, pan } = useView.getState()
        const [right, up] = turns[key.toLowerCase()]!
        if (shiftKey) pan(right * shift, up * shift)
        else orbit(right * turn, up * turn)
      },
    },
    ...zoomKeys((times) => useView.getState().zoom(times)),
    {
      keys: ['0'],
      with: ['Shift'],
      does: 'fit the part',
      run() {
        const { look, name } = useView.getState()
        look(name)
      },
    },
    { keys: ['1'], with: ['Shift'], does: 'fit what is selected', run: fitSelection },
  ],
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
