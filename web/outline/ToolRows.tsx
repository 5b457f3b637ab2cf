import { typedValues } from '@makrel/core/fields'
import { evaluate, type ValueKind } from '@makrel/core/measures'
import { sineCosine } from '@makrel/core/place'
import type { Vec2 } from '@makrel/core/plane'
import { attempt } from '@makrel/core/problems'
import { useState } from 'react'
import { workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { ComboField } from '../ui/ComboField.tsx'
import { pressPlace } from './press.ts'
import { setTool, useOutline } from './state.ts'
import { mostSides } from './tools/polygon.ts'
import { curveTools, toolOf, tools } from './tools/registry.ts'

/** The tools at the foot of the sheet, in words with their drawings; and a field that takes a tool with its sizes. */
export function ToolRows() {
  const tool = useOutline((state) => state.tool)
  const helper = useOutline((state) => state.helper)
  const groups = [
    { name: 'lines', all: tools.filter(({ shelf }) => shelf === 'lines') },
    { name: 'figures', all: tools.filter(({ shelf }) => shelf === 'figures') },
    { name: 'change', all: curveTools },
  ]
  return (
    <div className="border-t border-ink bg-sheet px-5 pt-2.5 pb-3">
      <DrawField />
      {groups.map(({ name, all }) => (
        <div key={name} role="toolbar" aria-label={name} className="mt-1 flex flex-wrap gap-x-0.5">
          {all.map(({ kind, label, icon, key }) => (
            <button
              key={kind}
              type="button"
              aria-pressed={tool === kind}
              title={`${label} (${key.toUpperCase()})`}
              onClick={() => setTool(kind)}
              className={`-ml-1 inline-flex items-center gap-1 rounded-sm px-1.5 py-0.5 hover:bg-mackerel-wash hover:text-mackerel ${tool === kind ? 'bg-mackerel-wash font-semibold text-mackerel' : 'text-ink-soft'}`}
            >
              <ToolIcon path={icon} />
              {label}
            </button>
          ))}
          {name === 'change' && (
            <label className="ml-auto flex items-center gap-1.5 text-ink-soft">
              <input
                type="checkbox"
                className="accent-mackerel"
                checked={helper}
                onChange={(event) => useOutline.setState({ helper: event.target.checked })}
              />
              construction
            </label>
          )}
        </div>
      ))}
    </div>
  )
}

/** "circle 20", "rectangle 40 × 20": the tool is taken up, and the sizes are in force once it is drawn. */
function DrawField() {
  const [text, setText] = useState('')
  const [fault, setFault] = useState(false)
  const drawing = useOutline((state) => toolOf(state.tool) !== undefined)
  const done = () => {
    setText('')
    setFault(false)
  }
  const take = ({ kind, sizes }: Read) => {
    // "polygon 12": the first number is how many sides it has.
    const [sides, ...rest] = sizes
    const counted = kind === 'polygon' && /^\d+$/.test(sides ?? '')
    if (counted) useOutline.setState({ sides: Math.min(mostSides, Math.max(3, Number(sides))) })
    setTool(kind, counted ? rest : sizes)
    done()
    document.getElementById('draw-tool')?.blur()
    return true
  }
  return (
    <ComboField<Read>
      id="draw-tool"
      label="Draw"
      invalid={fault}
      placeholder={
        drawing ? 'A place: 12.5, wall / 2 — by 10, 0 — 20 at 30' : 'Draw: line, circle 20, rectangle 40 × 20 …'
      }
      value={text}
      onValue={(typed) => {
        setText(typed)
        setFault(false)
      }}
      items={placeIn(text) ? [] : read(text)}
      keyOf={({ kind }) => kind}
      show={(item) => <ToolOffer {...item} />}
      onChoose={take}
      onEnter={() => {
        const place = placeIn(text)
        if (!place) return setFault(text.trim() !== '')
        pressPlace(place)
        done()
      }}
      hint={<kbd className="rounded-sm border border-line px-1.5">/</kbd>}
    />
  )
}

function ToolOffer({ label, icon, sizes }: Read) {
  return (
    <>
      <ToolIcon path={icon} />
      <span className="text-base">{label}</span>
      <span className="figures ml-auto text-ink-soft">{sizes.join(' × ')}</span>
    </>
  )
}

function ToolIcon({ path }: { readonly path: string }) {
  return (
    <svg
      viewBox="0 0 16 16"
      width="0.875rem"
      height="0.875rem"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.3"
      aria-hidden="true"
    >
      <path d={path} />
    </svg>
  )
}

/**
 * A place for the tool in hand: "12.5, wall / 2" from the origin, to the right and up; "by 10, −3" from the last spot;
 * "20 at 30" so far from the last spot, in that direction, degrees counter-clockwise from the right. Decimal commas are
 * told apart by a space or a semicolon behind the one between.
 */
export function placeIn(text: string): Vec2 | undefined {
  const { part } = usePart.getState()
  const { tool, spots } = useOutline.getState()
  if (!part || !toolOf(tool)) return undefined
  const { names } = workedOf(part).resolved.measures
  const value = (each: string, kind: ValueKind) => {
    const read = attempt([], () => evaluate(each, kind, names).value)
    return read.ok ? read.value : undefined
  }
  const from = spots.at(-1)?.at ?? [0, 0]
  const polar = /^(.+)\sat\s(.+)$/i.exec(text.trim())
  if (polar) {
    const [far, degrees] = [value(polar[1]!, 'length'), value(polar[2]!, 'angle')]
    if (far === undefined || degrees === undefined) return undefined
    const [s, c] = sineCosine(degrees)
    return [from[0] + far * c, from[1] + far * s]
  }
  const relative = /^by\s+(.*)$/i.exec(text.trim())
  const written = relative ? relative[1]! : text
  const parts = written.includes(';')
    ? written.split(';')
    : /,\s/.test(written)
      ? written.split(/,\s+/)
      : written.split(',')
  if (parts.length !== 2) return undefined
  const [x, y] = parts.map((each) => value(each, 'length'))
  if (x === undefined || y === undefined) return undefined
  return relative ? [from[0] + x, from[1] + y] : [x, y]
}

/** A tool as it was typed, with its sizes. */
interface Read {
  readonly kind: string
  readonly label: string
  readonly icon: string
  readonly sizes: readonly string[]
}

/** The tools that may be meant, the one of that very name first. */
function read(text: string): Read[] {
  const [, word = '', rest = ''] = /^\s*([a-z ]*?)\s*((?:[\d(].*)?)$/i.exec(text) ?? []
  const named = word.toLowerCase()
  if (named === '') return []
  const sizes = typedValues(rest)
  return [...tools, ...curveTools]
    .filter(({ label }) => label.startsWith(named))
    .sort((a, b) => Number(b.label === named) - Number(a.label === named))
    .map(({ kind, label, icon }) => ({ kind, label, icon, sizes: toolOf(kind) ? sizes : [] }))
}
