import { compensates, compensationFor, compensationText, isMadeUp } from '@makrel/core/compensation'
import { type FitOrigin, originText } from '@makrel/core/fits'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'
import { dateText } from '../ui/dates.ts'

/** What files and layers make up for, with the printer and the material of the part. */
export function MadeUpFor() {
  const part = usePart((state) => state.part)!
  const compensation = compensationFor(part)
  const { printer, material } = compensation
  return (
    <p className="mt-1 text-sm text-ink-soft">
      {compensates(compensation)
        ? `So that it comes out as drawn on ${printer} with ${material}: ${compensationText(compensation, part.unit)}. ${originsText(compensation.origins)}`
        : `${printer} and ${material} have nothing to make up for.`}
    </p>
  )
}

/** Where the numbers come from that are made up for. */
export function originsText(origins: readonly FitOrigin[]): string {
  if (origins.every(({ kind }) => kind === 'shipped'))
    return 'These are guesses: measure them on a print, and set them on the page of the printer.'
  const told = [...new Set(origins.map((origin) => originText(origin, (iso) => dateText(new Date(iso)))))]
  return `As ${told.join(', and ')}.`
}

/** Whether sizes are as they are to be printed, or as they are drawn. */
export type Sizes = 'printed' | 'drawn'

/** How a part leaves unless something is chosen: made up for what was measured. */
export function usualSizes(part: Parameters<typeof isMadeUp>[0]): Sizes {
  return isMadeUp(part) ? 'printed' : 'drawn'
}

export function SizesChoice({ value, onChange }: { readonly value: Sizes; onChange(value: Sizes): void }) {
  return (
    <Choice<Sizes>
      look="box"
      label="Compensation"
      value={value}
      options={[
        { value: 'printed', label: 'compensated for the printer' },
        { value: 'drawn', label: 'as drawn' },
      ]}
      onChange={onChange}
    />
  )
}
