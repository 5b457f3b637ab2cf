import { evaluate, type Measure, type Names, readingFigures } from '@makrel/core/measures'
import { attempt } from '@makrel/core/problems'
import { formatNumber, mmPer } from '@makrel/core/units'
import { useState } from 'react'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
import { momentText } from '../ui/dates.ts'
import { CloseIcon } from '../ui/icons.tsx'

/** What was measured for a measure, again and again: each reading, their mean, and how far they lie apart. */
export function Readings({ measure, names }: { readonly measure: Measure; readonly names: Names }) {
  const part = usePart((state) => state.part)!
  const { edit } = usePart.getState()
  const [typed, setTyped] = useState('')
  const readings = measure.readings ?? []
  const kind = measure.kind === 'angle' ? 'angle' : 'length'
  const per = kind === 'angle' ? 1 : mmPer(part.unit)
  const unit = kind === 'angle' ? '°' : ` ${part.unit}`
  const shown = (value: number, decimals = part.unit === 'in' && kind === 'length' ? 4 : 3) =>
    `${formatNumber(value / per, decimals)}${unit}`
  const figures = readingFigures(readings)
  const read = typed.trim() === '' ? undefined : attempt([], () => evaluate(typed, kind, names))
  const set = (next: typeof readings) => edit({ type: 'set-measure', id: measure.id, change: { readings: next } })
  const take = () => {
    if (!read?.ok || readings.length >= 100) return
    set([...readings, { value: read.value.value, at: new Date().toISOString() }])
    setTyped('')
  }
  const takeMean = () => {
    if (!figures) return
    const expression = formatNumber(figures.mean / per, part.unit === 'in' ? 4 : 3)
    const variant = part.variants.find(({ id }) => id === part.variant)
    edit(
      variant
        ? { type: 'set-variant-value', id: variant.id, measure: measure.id, expression }
        : { type: 'set-measure', id: measure.id, change: { expression } },
    )
  }
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-l-2 border-mackerel bg-ground/60 px-3 py-2">
      <label className="flex items-center gap-2">
        <span className="text-ink-soft">Reading</span>
        <input
          aria-label={`New reading of ${measure.name}`}
          aria-invalid={read?.ok === false}
          data-takes="length"
          data-enters="reading"
          className="figures h-7 w-28 border border-line bg-sheet px-2 text-[0.9375rem] aria-invalid:text-rust"
          value={typed}
          spellCheck={false}
          autoComplete="off"
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter') take()
            if (event.key === 'Escape') setTyped('')
          }}
        />
        <Button onClick={take} disabled={!read?.ok}>
          Take it
        </Button>
      </label>
      {read?.ok === false && (
        <p role="alert" className="text-rust">
          {read.problem.text}
        </p>
      )}
      {figures && (
        <>
          <ul className="flex flex-wrap gap-1" aria-label={`Readings of ${measure.name}`}>
            {readings.map(({ value, at }, i) => (
              <li
                // biome-ignore lint/suspicious/noArrayIndexKey: readings are told apart by their place only
                key={i}
                title={`taken ${momentText(new Date(at))}`}
                className="figures inline-flex items-center gap-0.5 border border-line bg-sheet pl-1.5 text-[0.9375rem]"
              >
                {shown(value)}
                <button
                  type="button"
                  aria-label={`Remove the reading ${shown(value)}`}
                  className="inline-flex px-0.5 text-ink-soft hover:text-rust"
                  onClick={() => set(readings.filter((_, k) => k !== i))}
                >
                  <CloseIcon size={12} />
                </button>
              </li>
            ))}
          </ul>
          <p>
            <span className="text-ink-soft">mean</span>{' '}
            <span className="figures text-[0.9375rem]">{shown(figures.mean)}</span>
            {figures.count > 1 && (
              <>
                <span className="text-ink-soft">, spread</span>{' '}
                <span className="figures text-[0.9375rem]">{shown(figures.spread)}</span>
                <span className="text-ink-soft">, deviation</span>{' '}
                <span className="figures text-[0.9375rem]">{shown(figures.deviation)}</span>
              </>
            )}
          </p>
          <Button onClick={takeMean}>Take the mean</Button>
        </>
      )}
    </div>
  )
}
