import { isTyping, type KeyList } from '../keys/keys.ts'
import { beginAdding } from '../make/adding.ts'
import { usePart } from '../state/part.ts'
import { useHelp } from './useHelp.ts'

/** The keys of an open part, on every stage. */
export const partKeys: KeyList = {
  title: 'On every stage',
  keys: [
    {
      keys: ['$mod+z'],
      does: 'undo',
      typing: true,
      // In a text field it belongs to the field while its text is being typed; what was typed is kept first.
      run(event) {
        leaveField(event)
        usePart.getState().undo()
      },
    },
    {
      keys: ['$mod+Shift+z', '$mod+y'],
      does: 'redo',
      typing: true,
      run(event) {
        leaveField(event)
        usePart.getState().redo()
      },
    },
    {
      keys: ['Escape'],
      does: 'take back what was typed, close what is open, or select nothing: the innermost first',
      run() {
        if (isOverlaid()) return false
        usePart.getState().select(undefined)
      },
    },
    {
      keys: ['/'],
      with: ['Shift'],
      does: 'add a step; in a value too, as the first key',
      run: beginAdding,
    },
    { keys: ['Tab'], does: 'go to the next value' },
    { keys: ['ArrowUp', 'ArrowDown'], does: 'step a value; with Shift ten times, with Alt a tenth' },
    { keys: ['Enter'], does: 'keep what was typed, or open a list' },
    {
      keys: ['?', 'Shift+?'],
      shown: '?',
      does: 'show this list',
      run() {
        useHelp.setState({ open: true })
      },
    },
    { keys: ['F8'], does: 'go to the notices at the foot of the page' },
  ],
}

function leaveField(event: KeyboardEvent): void {
  if (isTyping(event)) (event.target as HTMLElement).blur()
}

/** Whether a menu, a list or a dialog is open, which takes Escape for itself. */
function isOverlaid(): boolean {
  return document.querySelector('[role=menu], [role=listbox], [role=dialog], [role=alertdialog]') !== null
}
