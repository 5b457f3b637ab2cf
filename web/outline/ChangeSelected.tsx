import { evaluate, type Names, type ValueKind } from '@makrel/core/measures'
import { attempt } from '@makrel/core/problems'
import { useState } from 'react'
import { Button } from '../ui/Button.tsx'
import { changeSelected, copySelected } from './partsActions.ts'

/** Moves, turns, scales and mirrors what is selected by numbers, which may be expressions; or a copy of it. Of one thing folded. */
export function ChangeSelected({ names, several }: { readonly names: Names; readonly several: boolean }) {
  const [right, setRight] = useState('0')
  const [up, setUp] = useState('0')
  const [turn, setTurn] = useState('0')
  const [scale, setScale] = useState('1')
  const [copies, setCopies] = useState(false)
  const read = (text: string, kind: ValueKind) => {
    const value = attempt([], () => evaluate(text, kind, names).value)
    return value.ok ? value.value : undefined
  }
  const by = [read(right, 'length'), read(up, 'length')] as const
  const degrees = read(turn, 'angle')
  const factor = read(scale, 'ratio')
  const faults = {
    right: by[0] === undefined,
    up: by[1] === undefined,
    turn: degrees === undefined,
    scale: !(factor! > 0),
  }
  const nothing = by[0] === 0 && by[1] === 0 && degrees === 0 && factor === 1
  const sound = !Object.values(faults).includes(true)
  const act = (how: Parameters<typeof changeSelected>[0]) => (copies ? copySelected(how) : changeSelected(how))
  return (
    <details className="mt-2 border-t border-line pt-1.5" open={several}>
      <summary className="cursor-pointer text-ink-soft">move, turn, scale, mirror or copy it</summary>
      <div className="flex flex-wrap items-center gap-x-2 gap-y-1 text-ink-soft">
        <Field label="move to the right" text={right} fault={faults.right} onChange={setRight} />
        <Field label="up" text={up} fault={faults.up} onChange={setUp} />
        <Field label="turn" text={turn} fault={faults.turn} onChange={setTurn} />
        <Field label="scale" text={scale} fault={faults.scale} onChange={setScale} />
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-1.5">
        <Button
          className="h-7"
          disabled={!sound || nothing}
          onClick={() => act({ by: [by[0]!, by[1]!], turn: degrees!, scale: factor! })}
        >
          do it
        </Button>
        <Button className="h-7" onClick={() => act({ mirrored: true })}>
          mirror left to right
        </Button>
        <Button className="h-7" onClick={() => act({ mirrored: true, turn: 180 })}>
          up to down
        </Button>
        <Button className="h-7" onClick={() => copySelected()}>
          copy beside
        </Button>
        <label className="ml-auto flex items-center gap-1.5 text-ink-soft">
          <input
            type="checkbox"
            className="accent-mackerel"
            checked={copies}
            onChange={(event) => setCopies(event.target.checked)}
          />
          to a copy
        </label>
      </div>
    </details>
  )
}

function Field({
  label,
  text,
  fault,
  onChange,
}: {
  readonly label: string
  readonly text: string
  readonly fault: boolean
  onChange(text: string): void
}) {
  return (
    <label className="flex items-center gap-1">
      {label}
      <input
        className="value w-14"
        value={text}
        aria-invalid={fault}
        spellCheck={false}
        autoComplete="off"
        onFocus={(event) => event.currentTarget.select()}
        onChange={(event) => onChange(event.target.value)}
        onKeyDown={(event) => event.stopPropagation()}
      />
    </label>
  )
}
