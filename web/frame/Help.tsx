import { useEffect, useState } from 'react'
import { IconButton } from '../ui/Button.tsx'
import { DialogPanel } from '../ui/DialogPanel.tsx'

const keys: readonly (readonly [keys: string, what: string])[] = [
  ['/', 'add a step'],
  ['Tab', 'go to the next value of the sheet'],
  ['↑ ↓', 'step a value; with Shift ten times, with Alt a tenth'],
  ['Enter', 'keep what was typed, or open a list'],
  ['Escape', 'take back what was typed, close what is open, or select nothing: the innermost first'],
  ['Double press, right button', 'edit the first value of what is pressed; all that can be done with it'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
  ['← → ↑ ↓', 'move the selected step over its face; with Shift ten times, with Alt a tenth'],
  ['Page Up, Page Down', 'lift and sink it'],
  ['Alt ↑, Alt ↓', 'move its line in the sheet, when its number has the keyboard'],
  ['Ctrl, Shift press', 'select several lines'],
  ['Ctrl A', 'select all steps'],
  ['Shift drag on the drawing', 'select all steps in a rectangle'],
  ['J L I K', 'turn the view; with Shift, shift it'],
  ['+ − 0 1', 'nearer, farther; fit the part, fit what is selected'],
  ['Ctrl C, X, V', 'the selected steps to the clipboard, and from it, with the measures they need'],
  ['Ctrl D', 'copy the selected steps beside themselves'],
  ['Drag a selected step', 'move it over its face'],
  ['Delete, Backspace', 'remove the selected steps'],
  ['?', 'this list'],
]

const outlineKeys: readonly (readonly [keys: string, what: string])[] = [
  ['/', 'draw: a tool by its name, with sizes'],
  [
    'L B A U S D Q',
    'line, bend, arc, arc about a middle, curve through and near points, point; L and B change over on the way',
  ],
  ['R M C E P O T', 'rectangle, centred rectangle, circle, ellipse, polygon, slot, letters'],
  ['V X W K G F', 'select, trim, extend, split, take regions, pick up edges'],
  ['+ −', 'while a polygon is drawn: more, fewer sides'],
  ['by 10, 0 · 20 at 30', 'the next point, from the last one: across and up; how far and at what angle'],
  ['N', 'infer nothing, for as long as it is on'],
  ['Ctrl C, X, V, D', 'copy, cut, paste, copy beside'],
  ['H', 'draw construction lines'],
  ['Shift press', 'select several; a drag over free ground selects what lies in it'],
  ['Right drag, wheel, arrows, + − 0', 'shift the drawing; nearer, farther, all of it'],
  ['Enter', 'end a curve'],
]

const examples: readonly (readonly [text: string, meaning: string])[] = [
  ['12.5', "in the part's unit"],
  ['2,5', 'a decimal comma'],
  ['1 1/4 in, 1-1/4", ½ in, 1\'', 'inches with fractions, feet'],
  ['2 cm + 0.4', 'units may be mixed'],
  ['wall * 2', 'a measure by its name'],
  ['rod + 2 * slide', 'a fit by its name: gap per side on this printer'],
  ['copy, copies', 'in a repeated step: the number of the copy, and how many there are'],
  ['pick(size, 4.3, 5.3)', 'for each word of a choice its value'],
  ['max(wall, 3)', 'min, max, round, floor, ceil, abs, sqrt, hypot, sin, cos, tan, asin, acos, atan'],
]

/** The keys, and what may be typed into a value. */
export function Help() {
  const [open, setOpen] = useState(false)
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement
      if (event.key === '?' && !typing) setOpen(true)
    }
    window.addEventListener('keydown', pressed)
    return () => window.removeEventListener('keydown', pressed)
  }, [])
  return (
    <DialogPanel
      title="Keys and expressions"
      open={open}
      onOpenChange={setOpen}
      className="max-h-[90vh] w-[38.75rem] overflow-y-auto"
      trigger={
        <IconButton label="Keys and expressions (?)">
          <span className="text-base font-semibold">?</span>
        </IconButton>
      }
    >
      <Table rows={keys} />
      <h3 className="mt-5 font-semibold">In an outline</h3>
      <Table rows={outlineKeys} />
      <h3 className="mt-5 font-semibold">What may be typed into a value</h3>
      <Table rows={examples} />
    </DialogPanel>
  )
}

function Table({ rows }: { readonly rows: readonly (readonly [string, string])[] }) {
  return (
    <dl className="mt-2 grid grid-cols-[11.875rem_1fr]">
      {rows.map(([term, meaning]) => (
        <div key={term} className="contents">
          <dt className="figures border-t border-line py-1.5 text-[0.9375rem]">{term}</dt>
          <dd className="border-t border-line py-1.5">{meaning}</dd>
        </div>
      ))}
    </dl>
  )
}
