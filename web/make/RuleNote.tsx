import { asDifference, evaluate, type Names, type ValueKind } from '@makrel/core/measures'
import { formatLengthWithUnit } from '@makrel/core/units'
import { UnderField } from './UnderField.tsx'

/** "4-1/3 = 4.3333 in, as on a rule; use 4 - 1/3 = 3.6667 in": where a dash may be either, which it is, and the other one. */
export function RuleNote({
  text,
  kind,
  names,
  onTake,
}: {
  readonly text: string
  readonly kind: ValueKind
  readonly names: Names
  onTake(text: string): void
}) {
  const other = asDifference(text, kind, names)
  if (!other) return null
  const shown = (sum: string) => `${sum.trim()} = ${formatLengthWithUnit(evaluate(sum, kind, names).value, names.unit)}`
  return (
    <UnderField>
      <span className="figures">{shown(text)}</span>, as on a rule.{' '}
      <button
        type="button"
        className="font-semibold text-mackerel underline"
        // The field keeps the keyboard.
        onPointerDown={(event) => event.preventDefault()}
        onClick={() => onTake(other)}
      >
        Use <span className="figures">{shown(other)}</span>
      </button>
    </UnderField>
  )
}
