import { evaluate, type Names } from '@makrel/core/measures'
import type { Freedom } from '@makrel/core/mechanism'
import { attempt } from '@makrel/core/problems'
import { formatLengthWithUnit, formatNumber, mmPer } from '@makrel/core/units'
import { useState } from 'react'
import { shownValue, ValueField } from '../make/ValueField.tsx'

/** Sets one freedom of a joint: drawn along, or typed as a value. */
export function FreedomSlider({
  label,
  freedom,
  names,
  position,
  onPosition,
}: {
  readonly label: string
  readonly freedom: Freedom
  readonly names: Names
  readonly position: number
  onPosition(position: number): void
}) {
  const { from, to, period } = freedom
  const [typed, setTyped] = useState<{ readonly text: string; readonly value: number; readonly at: number }>()
  const kind = freedom.unit === 'mm' ? 'length' : 'angle'
  const told = (value: number) => shownValue(value, kind, names.unit)
  // What was typed stands as long as nothing else has moved it.
  const isWithin = (value: number) => period !== undefined || (value >= from - 1e-9 && value <= to + 1e-9)
  const isBeyond = typed !== undefined && typed.at === position && !isWithin(typed.value)
  const own = typed && (isBeyond || Math.abs(typed.value - position) < 1e-6) ? typed.text : undefined
  const beyond = isBeyond ? `It goes from ${told(from)} to ${told(to)}.` : undefined
  const plain = Number((position / (kind === 'length' ? mmPer(names.unit) : 1)).toFixed(3))
  return (
    <div className="flex items-center gap-3">
      <span className="inline-block font-semibold first-letter:uppercase">{label}</span>
      <input
        type="range"
        aria-label={label}
        aria-valuetext={
          kind === 'length' ? formatLengthWithUnit(position, names.unit) : `${formatNumber(position, 1)}°`
        }
        min={from}
        max={to}
        step={period ? period / 24 : (to - from) / 180}
        value={Math.min(Math.max(position, from), to)}
        onChange={(event) => {
          setTyped(undefined)
          onPosition(Number(event.target.value))
        }}
        className="h-6 flex-1 accent-mackerel"
      />
      <span className="relative flex w-24 justify-end">
        <ValueField
          label={`${label} to`}
          kind={kind}
          text={own ?? String(plain)}
          names={names}
          fault={beyond}
          onChange={(text) => {
            const read = attempt([], () => evaluate(text, kind, names).value)
            if (!read.ok) return
            setTyped({ text, value: read.value, at: position })
            if (isWithin(read.value)) onPosition(read.value)
          }}
        />
        {beyond && (
          <span role="alert" className="absolute top-full right-0 z-10 mt-1 w-max bg-sheet px-1 text-sm text-rust">
            {beyond}
          </span>
        )}
      </span>
    </div>
  )
}
