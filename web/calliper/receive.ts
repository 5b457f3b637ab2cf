import { formatNumber } from '@makrel/core/units'
import { useEffect } from 'react'
import { create } from 'zustand'
import { usePart } from '../state/part.ts'
import { say } from '../ui/Notice.tsx'
import { type CalliperReading, openLine } from './line.ts'

/** How many callipers are there. */
export const useCallipers = create<{ readonly count: number }>()(() => ({ count: 0 }))

/** While a part is open, each reading is typed into the value that has the keyboard. */
export function useCalliperReadings(): void {
  useEffect(() => {
    const line = openLine(
      'page',
      (message) => {
        if (message.type === 'instruments') useCallipers.setState({ count: message.count })
        if (message.type === 'reading') take(message)
      },
      (is) => is || useCallipers.setState({ count: 0 }),
    )
    return () => line.close()
  }, [])
}

function take(reading: CalliperReading): void {
  const part = usePart.getState().part
  if (!part) return
  const text = readingText(reading, part.unit)
  // It keeps the keyboard, as far as this page goes, while the pointer is with the instrument.
  const field = document.activeElement
  if (field instanceof HTMLInputElement && takesLength(field)) typeInto(field, text)
  else say({ text: `The calliper reads ${text}. Click into a value to receive the next one.` })
}

function takesLength(field: HTMLInputElement): boolean {
  return field.classList.contains('value') || field.dataset.takes === 'length'
}

/** "12.43" in the part's unit; with its unit where that is another one. */
export function readingText({ value, unit }: CalliperReading, partUnit: 'mm' | 'in'): string {
  const number = formatNumber(value, unit === 'mm' ? 3 : 4)
  return unit === partUnit ? number : `${number} ${unit}`
}

/** As if it had been typed over what is there, and entered. */
function typeInto(field: HTMLInputElement, text: string): void {
  // React hears of a value that is set past its own record of it.
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!.call(field, text)
  field.dispatchEvent(new Event('input', { bubbles: true }))
  // A page that nobody looks at draws no frames: whoever measures may be at another window.
  setTimeout(() => field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true })))
}
