import { Dialog } from 'radix-ui'
import { useEffect, useState } from 'react'
import { IconButton } from '../ui/Button.tsx'
import { CloseIcon } from '../ui/icons.ts'

const keys: readonly (readonly [keys: string, what: string])[] = [
  ['/', 'add a step'],
  ['Tab', 'go to the next value of the sheet'],
  ['↑ ↓', 'step a value; with Shift ten times, with Alt a tenth'],
  ['Enter', 'keep what was typed, or open a list'],
  ['Escape', 'take back what was typed; select nothing'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
  ['← → ↑ ↓', 'move the selected step over its face; with Shift ten times, with Alt a tenth'],
  ['Page Up, Page Down', 'lift and sink it'],
  ['Alt ↑, Alt ↓', 'move its line in the sheet, when its number has the keyboard'],
  ['Ctrl, Shift press', 'select several lines'],
  ['Ctrl D', 'copy the selected steps'],
  ['Delete', 'remove the selected steps'],
  ['?', 'this list'],
]

const examples: readonly (readonly [text: string, meaning: string])[] = [
  ['12.5', "in the part's unit"],
  ['1 1/4 in, 3/8"', 'a fraction of an inch'],
  ['2 cm + 0.4', 'units may be mixed'],
  ['wall * 2', 'a measure by its name'],
  ['rod + 2 * slide', 'a fit by its name: gap per side on this printer'],
  ['copy, copies', 'in a repeated step: the number of the copy, and how many there are'],
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
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger asChild>
        <IconButton label="Keys and expressions (?)">
          <span className="text-base font-semibold">?</span>
        </IconButton>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 max-h-[90vh] w-[620px] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 overflow-y-auto border border-ink bg-sheet p-6"
        >
          <div className="flex items-center">
            <Dialog.Title className="text-lg font-semibold">Keys and expressions</Dialog.Title>
            <Dialog.Close asChild>
              <IconButton label="Close" className="ml-auto">
                <CloseIcon size={16} />
              </IconButton>
            </Dialog.Close>
          </div>
          <Table rows={keys} />
          <h3 className="mt-5 font-semibold">What may be typed into a value</h3>
          <Table rows={examples} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

function Table({ rows }: { readonly rows: readonly (readonly [string, string])[] }) {
  return (
    <dl className="mt-2 grid grid-cols-[190px_1fr]">
      {rows.map(([term, meaning]) => (
        <div key={term} className="contents">
          <dt className="figures border-t border-line py-1.5 text-[15px]">{term}</dt>
          <dd className="border-t border-line py-1.5">{meaning}</dd>
        </div>
      ))}
    </dl>
  )
}
