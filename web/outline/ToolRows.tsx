import { evaluate } from '@makrel/core/measures'
import type { Vec2 } from '@makrel/core/plane'
import { attempt } from '@makrel/core/problems'
import { useState } from 'react'
import { workedOf } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { pressPlace } from './press.ts'
import { setTool, useOutline } from './state.ts'
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
          {all.map(({ kind, label, drawing, key }) => (
            <button
              key={kind}
              type="button"
              aria-pressed={tool === kind}
              title={`${label} (${key.toUpperCase()})`}
              onClick={() => setTool(kind)}
              className={`-ml-1 inline-flex items-center gap-1 rounded-sm px-1.5 py-0.5 hover:bg-mackerel-wash hover:text-mackerel ${tool === kind ? 'bg-mackerel-wash font-semibold text-mackerel' : 'text-ink-soft'}`}
            >
              <svg
                viewBox="0 0 16 16"
                width="14"
                height="14"
                fill="none"
                stroke="currentColor"
                strokeWidth="1.3"
                aria-hidden="true"
              >
                <path d={drawing} />
              </svg>
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
              helps only
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
  return (
    <input
      id="draw-tool"
      aria-label="Draw"
      aria-invalid={fault}
      placeholder={drawing ? 'A place for it: 12.5, wall / 2' : 'Draw: line, circle 20, rectangle 40 × 20 …'}
      spellCheck={false}
      autoComplete="off"
      value={text}
      onChange={(event) => {
        setText(event.target.value)
        setFault(false)
      }}
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.key === 'Escape') event.currentTarget.blur()
        if (event.key !== 'Enter') return
        const place = placeIn(text)
        if (place) {
          pressPlace(place)
          setText('')
          return
        }
        const found = read(text)
        if (!found) return setFault(true)
        setTool(found.kind, found.sizes)
        setText('')
        event.currentTarget.blur()
      }}
      className="h-9 w-full rounded-sm border border-ink-soft bg-sheet px-3 text-base aria-invalid:border-rust"
    />
  )
}

/** "12.5, wall / 2": a place for the tool in hand, from the origin, to the right and up. */
function placeIn(text: string): Vec2 | undefined {
  const { part } = usePart.getState()
  const parts = text.split(',')
  if (!part || parts.length !== 2 || !toolOf(useOutline.getState().tool)) return undefined
  const { names } = workedOf(part).resolved.measures
  const [x, y] = parts.map((each) => attempt([], () => evaluate(each, 'length', names).value))
  return x?.ok && y?.ok ? [x.value, y.value] : undefined
}

function read(text: string): { readonly kind: string; readonly sizes: readonly string[] } | undefined {
  const [, word = '', rest = ''] = /^\s*([a-z ]*?)\s*((?:[\d(].*)?)$/i.exec(text) ?? []
  const all = [...tools, ...curveTools]
  const tool =
    all.find(({ label }) => label === word.toLowerCase()) ??
    all.find(({ label }) => word !== '' && label.startsWith(word.toLowerCase()))
  if (!tool) return undefined
  const sizes = rest
    .split(/\s*[×x]\s*|\s+/)
    .map((size) => size.trim())
    .filter(Boolean)
  return { kind: tool.kind, sizes: toolOf(tool.kind) ? sizes : [] }
}
