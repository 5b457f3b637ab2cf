import { evaluate, type Names } from '@makrel/core/measures'
import { constraintOf, grownAlone, measuredBy, type SolvedOutline } from '@makrel/core/outline'
import type { Vec2 } from '@makrel/core/plane'
import { attempt } from '@makrel/core/problems'
import { useLayoutEffect, useRef, useState } from 'react'
import { shownValue } from '../make/ValueField.tsx'
import { usePart } from '../state/part.ts'
import { type AskedSize, draw, useOutline } from './state.ts'
import { toScreen } from './view.ts'

/** Right after something was drawn: its sizes, to be typed one after another with Tab; pressing on leaves them as drawn. */
export function AskedSizes({ solved, names }: { readonly solved: SolvedOutline; readonly names: Names }) {
  const { asked, askedAt, view } = useOutline()
  const [size] = asked
  if (!size || !askedAt) return null
  // Each one anew, so that no key of the next goes into this one's field.
  return <AskedField key={size.of.join(' ') + size.kind} {...{ size, solved, names }} at={toScreen(view, askedAt)} />
}

function AskedField({
  size,
  solved,
  names,
  at: [x, y],
}: {
  readonly size: AskedSize
  readonly solved: SolvedOutline
  readonly names: Names
  readonly at: Vec2
}) {
  const view = useOutline((state) => state.view)
  const unit = usePart((state) => state.part!.unit)
  const [text, setText] = useState('')
  const [fault, setFault] = useState<string>()
  const input = useRef<HTMLInputElement>(null)
  useLayoutEffect(() => input.current?.focus({ preventScroll: true }), [])
  const definition = constraintOf(size.kind)!
  const measured = measuredBy(solved, size)
  const next = () => useOutline.setState(({ asked: rest }) => ({ asked: rest.slice(1) }))
  const settle = () => {
    if (text.trim() === '') return next()
    const read = attempt([], () => evaluate(text, definition.value!, names))
    if (!read.ok) return setFault(read.problem.text)
    draw((sketch) => {
      const id = sketch.hold(size.kind, size.of, text.trim())
      const values = new Map(solved.values.values).set(id, read.value.value)
      sketch.outline = grownAlone(sketch.outline, useOutline.getState().justDrawn, { ...solved.values, values })
    })
    next()
  }
  return (
    <div
      data-overlay
      className="absolute z-20 flex flex-col border border-mackerel bg-sheet px-2 py-1 shadow-[0_6px_18px_rgb(20_40_44/0.16)]"
      style={{ left: Math.min(x + 18, view.width - 190), top: Math.min(y + 18, view.height - 60) }}
    >
      <label className="flex items-baseline gap-2 text-ink-soft">
        {size.label}
        <input
          ref={input}
          className="value w-20"
          value={text}
          placeholder={measured === undefined ? '' : shownValue(measured, definition.value!, unit)}
          aria-invalid={fault !== undefined}
          onChange={(event) => {
            setText(event.target.value)
            setFault(undefined)
          }}
          onKeyDown={(event) => {
            event.stopPropagation()
            if (event.key === 'Enter' || event.key === 'Tab') {
              event.preventDefault()
              settle()
            } else if (event.key === 'Escape') useOutline.setState({ asked: [] })
            // Until something is typed the keys of the tools are still in force, unless a measure begins so.
            else if (text === '' && /^[a-z]$/i.test(event.key) && !beginsName(event.key)) {
              event.preventDefault()
              useOutline.setState({ asked: [] })
              window.dispatchEvent(new KeyboardEvent('keydown', { key: event.key }))
            }
          }}
        />
      </label>
      {fault && (
        <p role="alert" className="max-w-64 text-xs text-rust">
          {fault}
        </p>
      )}
    </div>
  )
}

function beginsName(letter: string): boolean {
  const { measures, readouts } = usePart.getState().part!
  return [...measures, ...readouts].some(({ name }) => name.toLowerCase().startsWith(letter.toLowerCase()))
}
