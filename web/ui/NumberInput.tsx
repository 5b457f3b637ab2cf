import { formatNumber } from '@makrel/core/units'
import { useEffect, useState } from 'react'

/** A plain number in a form; what is no number within its limits stays here and is marked. */
export function NumberInput({
  label,
  value,
  least,
  most,
  onChange,
}: {
  readonly label: string
  readonly value: number
  readonly least: number
  readonly most: number
  onChange(value: number): void
}) {
  const [draft, setDraft] = useState<string>()
  const shown = String(Math.round(value * 1000) / 1000)
  // biome-ignore lint/correctness/useExhaustiveDependencies: a value from outside replaces what is typed
  useEffect(() => setDraft(undefined), [value])
  const typed = Number((draft ?? shown).replace(',', '.'))
  const sound = (draft ?? shown).trim() !== '' && Number.isFinite(typed) && typed >= least && typed <= most
  return (
    <label className="flex items-center gap-1.5 text-ink-soft">
      {label}
      <input
        className="value w-16"
        value={draft ?? shown}
        aria-invalid={!sound}
        title={sound ? undefined : `A number from ${formatNumber(least)} to ${formatNumber(most)}`}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={() => {
          if (sound && draft !== undefined && typed !== value) onChange(typed)
          else if (sound) setDraft(undefined)
        }}
        onKeyDown={(event) => {
          event.stopPropagation()
          if (event.key === 'Enter') event.currentTarget.blur()
          if (event.key === 'Escape') setDraft(undefined)
        }}
      />
    </label>
  )
}
