import { isTyping, type KeyList } from '../keys/keys.ts'
import { usePart } from '../state/part.ts'
import { nudge } from '../viewport/drag.ts'
import { isIdleThere } from './adding.ts'
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

/** The keys of the build sheet; on Make only, where one sees what they do. */
export const stepKeys: KeyList = {
  title: 'On Make',
  keys: [
    {
      keys: ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'],
      with: ['Shift', 'Alt'],
      does: 'move the selected step over its face; with Shift ten times, with Alt a tenth',
      run: moved,
    },
    { keys: ['PageUp', 'PageDown'], with: ['Shift', 'Alt'], does: 'lift and sink it', run: moved },
    { keys: ['Space'], does: 'pick its line up, when its number has the focus: arrows move it, Space puts it down' },
    { keys: ['Alt+ArrowUp', 'Alt+ArrowDown'], does: 'move its line in the sheet, when its number has the focus' },
    {
      keys: ['$mod+a'],
      does: 'select all steps',
      typing: true,
      run: (event) => (isTyping(event) && !isIdleThere(event) ? false : selectAllSteps()),
    },
    { keys: ['$mod+c', '$mod+x', '$mod+v'], does: 'copy, cut and paste steps, with the measures they need' },
    {
      keys: ['$mod+d'],
      does: 'copy the selected steps beside themselves',
      run() {
        if (!isStepSelected()) return false
        copySteps()
      },
    },
    { keys: ['Delete', 'Backspace'], does: 'remove the selected steps', run: removeSteps },
    { keys: [], shown: 'Click with Ctrl, Shift', does: 'select several lines' },
    { keys: [], shown: 'Shift drag on the drawing', does: 'select all steps in a rectangle' },
    { keys: [], shown: 'Drag a selected step', does: 'move it over its face' },
    {
      ...{ keys: [], shown: 'Double click, right button' },
      does: 'edit the first value of what was clicked; all that can be done with it',
    },
  ],
}

function isStepSelected(): boolean {
  return usePart.getState().selection?.kind === 'step'
}

function moved(event: KeyboardEvent): unknown {
  if (!isStepSelected() || !isFree(event)) return false
  const times = event.shiftKey ? 10 : event.altKey ? 0.1 : 1
  const [across, along, lift] = arrows[event.key]!
  return nudge(across * times, along * times, lift * times)
}

/** Whether no control has a use of its own for an arrow key: the drawing, the page, or the number of a step has the keyboard. */
function isFree({ target, altKey }: KeyboardEvent): boolean {
  if (target === document.body || target instanceof HTMLCanvasElement) return true
  return !altKey && target instanceof Element && target.matches('[data-step] button[aria-pressed]')
}
