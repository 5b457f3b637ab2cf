import { evaluate, type Names, type ValueKind } from '@makrel/core/measures'
import { attempt } from '@makrel/core/problems'
import { formatLength, formatNumber, type PartUnit } from '@makrel/core/units'
import { useEffect, useId, useRef, useState } from 'react'

interface Props {
  readonly label: string
  readonly kind: ValueKind
  readonly text: string
  readonly names: Names
  /** `final` ends one act of typing: later changes are undone apart from it */
  onChange(text: string, final: boolean): void
  onFocus?(): void
  readonly autoFocus?: boolean
  readonly onAutoFocused?: () => void
  readonly className?: string
  /** where its message goes; below the line by default */
  readonly onMessage?: (message: string | undefined) => void
  /** a fault found elsewhere (its size against the rest) */
  readonly fault?: string | undefined
}

/**
 * A value that reads as its number (and its measure's name) until it takes the keyboard, and as what was typed while it
 * has it. Each readable state of the text is in force at once; one that cannot be read stays here, with its message,
 * and what was there before stays in force. Escape takes all of it back.
 */
export function ValueField({
  label,
  kind,
  text,
  names,
  onChange,
  onFocus,
  autoFocus,
  onAutoFocused,
  className = 'value',
  onMessage,
  fault,
}: Props) {
  const [draft, setDraft] = useState<string>()
  const [before, setBefore] = useState(text)
  const [focused, setFocused] = useState(false)
  const input = useRef<HTMLInputElement>(null)
  const describedBy = useId()
  const shownText = draft ?? text
  const read = attempt([], () => evaluate(shownText, kind, names))
  const message = read.ok ? fault : read.problem.text

  useEffect(() => onMessage?.(message), [message, onMessage])
  useEffect(() => {
    if (!autoFocus) return
    input.current?.focus()
    onAutoFocused?.()
  }, [autoFocus, onAutoFocused])
  // Text that changed from outside (undo, another view) replaces what was not in force.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only the outer text matters here
  useEffect(() => {
    if (!focused) setDraft(undefined)
  }, [text])

  const type = (next: string) => {
    setDraft(next)
    if (attempt([], () => evaluate(next, kind, names)).ok) onChange(next, false)
  }
  const nudge = (direction: 1 | -1, event: React.KeyboardEvent) => {
    const step =
      (kind === 'count' ? 1 : kind === 'angle' ? 1 : kind === 'ratio' ? 0.1 : names.unit === 'in' ? 0.05 : 1) *
      (event.shiftKey ? 10 : event.altKey ? 0.1 : 1)
    const next = stepped(shownText, direction * (kind === 'count' ? Math.max(1, Math.round(step)) : step))
    if (next === undefined) return
    event.preventDefault()
    type(next)
  }

  return (
    <>
      <input
        ref={input}
        className={className}
        aria-label={label}
        aria-invalid={message !== undefined}
        aria-describedby={message ? describedBy : undefined}
        data-named={!focused && read.ok && read.value.uses.length > 0}
        spellCheck={false}
        autoComplete="off"
        value={focused || draft !== undefined ? shownText : reading(text, kind, names)}
        onFocus={(event) => {
          setFocused(true)
          setBefore(text)
          onFocus?.()
          const field = event.currentTarget
          requestAnimationFrame(() => field.select())
        }}
        onBlur={() => {
          setFocused(false)
          if (read.ok) {
            setDraft(undefined)
            if (shownText !== before) onChange(shownText, true)
          }
        }}
        onChange={(event) => type(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'ArrowUp') nudge(1, event)
          else if (event.key === 'ArrowDown') nudge(-1, event)
          else if (event.key === 'Enter') {
            if (read.ok) {
              setDraft(undefined)
              onChange(shownText, true)
              setBefore(shownText)
              event.currentTarget.select()
            }
          } else if (event.key === 'Escape') {
            event.stopPropagation()
            setDraft(undefined)
            if (text !== before) onChange(before, true)
            event.currentTarget.blur()
          }
        }}
      />
      {message && (
        <span id={describedBy} className={onMessage ? 'sr-only' : 'mt-0.5 block text-xs text-rust'}>
          {message}
        </span>
      )}
    </>
  )
}

/** How a value reads when it is not being typed: "wall 6", "10 + wall / 2 = 13" is shortened to its number. */
export function reading(text: string, kind: ValueKind, names: Names): string {
  const read = attempt([], () => evaluate(text, kind, names))
  if (!read.ok) return text
  const shown = shownValue(read.value.value, kind, names.unit)
  const only = read.value.uses.length === 1 && text.trim() === read.value.uses[0]
  return only ? `${text.trim()} ${shown}` : shown
}

export function shownValue(value: number, kind: ValueKind, unit: PartUnit): string {
  if (kind === 'length') return formatLength(value, unit)
  return kind === 'angle' ? `${formatNumber(value)}°` : formatNumber(value, 4)
}

/** The text with its number (alone or with a unit) changed by `by`; undefined where it is an expression. */
function stepped(text: string, by: number): string | undefined {
  const match = /^\s*([-−]?\d+(?:\.\d*)?|[-−]?\.\d+)(\s*[a-z"°]*)\s*$/i.exec(text)
  if (!match) return undefined
  return `${formatNumber(Number(match[1]!.replace('−', '-')) + by, 4)}${match[2]}`
}
