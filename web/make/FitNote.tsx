import { besideOf, type FitPair, fitBeside, originText } from '@makrel/core/fits'
import { evaluate, type Names } from '@makrel/core/measures'
import { attempt } from '@makrel/core/problems'
import { formatLength, formatLengthWithUnit } from '@makrel/core/units'
import { usePart } from '../state/part.ts'
import { dateText } from '../ui/dates.ts'

/** "8 + 2 × 0.2 = 8.4 mm: slide, round, of Tern 220 (shipped)": the sum that a fit's name behind a size stands for. */
export function FitNote({
  text,
  takes,
  names,
}: {
  readonly text: string
  readonly takes: FitPair
  readonly names: Names
}) {
  const printer = usePart((state) => state.part?.printer)
  const fitted = fitBeside(text)
  if (!fitted || !printer) return null
  const size = attempt([], () => evaluate(fitted.size, 'length', names).value)
  const sum = attempt([], () => evaluate(text, 'length', names, besideOf(takes)).value)
  if (!size.ok || !sum.ok) return null
  const { gap, origin } = printer.fits[fitted.fit][takes]
  const [one, side] = [size.value, gap].map((mm) => formatLength(mm, names.unit))
  return (
    <span
      role="note"
      className="absolute left-0 z-30 mt-1 block w-max max-w-96 border border-line bg-sheet px-2 py-1 text-sm leading-[1.125rem] shadow-[0_6px_18px_rgb(20_40_44/0.16)]"
    >
      <span className="figures">
        {one} + 2 × {side} = {formatLengthWithUnit(sum.value, names.unit)}
      </span>
      : {fitted.fit}, {takes}, of {printer.name} ({originText(origin, (iso) => dateText(new Date(iso)))})
    </span>
  )
}
