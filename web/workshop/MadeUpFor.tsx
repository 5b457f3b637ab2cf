import { compensates, compensationFor, compensationText } from '@makrel/core/compensation'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'

/** What files and layers make up for, with the printer and the material of the part. */
export function MadeUpFor() {
  const part = usePart((state) => state.part)!
  const compensation = compensationFor(part)
  const { printer, material } = compensation
  return (
    <p className="mt-1 text-sm text-ink-soft">
      {compensates(compensation)
        ? `So that it comes out as drawn on ${printer} with ${material}: ${compensationText(compensation, part.unit)}.`
        : `${printer} and ${material} have nothing to make up for.`}
    </p>
  )
}

/** Whether sizes are as they are to be printed, or as they are drawn. */
export type Sizes = 'printed' | 'drawn'

export function SizesChoice({ value, onChange }: { readonly value: Sizes; onChange(value: Sizes): void }) {
  return (
    <Choice<Sizes>
      look="box"
      label="Sizes"
      value={value}
      options={[
        { value: 'printed', label: 'made up for the printer' },
        { value: 'drawn', label: 'as drawn' },
      ]}
      onChange={onChange}
    />
  )
}
