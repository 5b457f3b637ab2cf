import { besideOf, type FitPair, fitBeside, originText } from '@makrel/core/fits'
import { evaluate, type Names } from '@makrel/core/measures'
import { attempt } from '@makrel/core/problems'
import { formatLength, formatLengthWithUnit } from '@makrel/core/units'
import { usePart } from '../state/part.ts'
import { dateText } from '../ui/dates.ts'
import { UnderField } from './UnderField.tsx'

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
    <UnderField>
      <span className="figures">
        {one} + 2 × {side} = {formatLengthWithUnit(sum.value, names.unit)}
      </span>
      : {fitted.fit}, {takes}, of {printer.name} ({originText(origin, (iso) => dateText(new Date(iso)))})
    </UnderField>
  )
}
