import { besideOf, type FitPair, fitBeside } from '@makrel/core/fits'
import { evaluate, type Names, type ValueKind } from '@makrel/core/measures'
import { attempt } from '@makrel/core/problems'
import { formatLength, formatNumber, type PartUnit } from '@makrel/core/units'
import { useEffect, useId, useLayoutEffect, useRef, useState } from 'react'
import { flushSync } from 'react-dom'
import { beginAdding } from './adding.ts'
import { CountOffers } from './CountOffers.tsx'
import { FitNote } from './FitNote.tsx'
import { RuleNote } from './RuleNote.tsx'

interface Props {
  readonly label: string
  readonly kind: ValueKind
  readonly text: string
  readonly names: Names
  /** `final` ends one act of typing: later changes are undone apart from it */
  onChange(text: string, final: boolean): void
  /** another part goes into it: a fit may be named behind its size */
  readonly takes?: FitPair | undefined
  /** takes the keyboard as soon as it is shown or this becomes true */
  readonly autoFocus?: boolean
  readonly onAutoFocused?: () => void
  /** a fault found elsewhere (its size against the rest), told on the line: the field only marks itself */
  readonly fault?: string | undefined
}

/**
 * A value that reads as its number (and its measure's name) until it takes the keyboard, and as what was typed while it
 * has it. Each readable state of the text is in force at once; one that cannot be read stays here, with its message,
 * and the last one that could be read stays in force until the field is left; then what was there before is in force again.
 * Escape takes all of it back.
 */
export function ValueField({ label, kind, text, names, takes, onChange, autoFocus, onAutoFocused, fault }: Props) {
  const [draft, setDraft] = useState<string>()
  const [focused, setFocused] = useState(false)
  const before = useRef(text)
  const pressed = useRef(false)
  /** what is in force again behind text that was left unread */
  const putBack = useRef<string>(undefined)
  const input = useRef<HTMLInputElement>(null)
  const messageId = useId()
  const shownText = draft ?? text
  const beside = besideOf(takes)
  const read = attempt([], () => evaluate(shownText, kind, names, beside))
  const message = read.ok || draft === undefined ? undefined : read.problem.text

  // biome-ignore lint/correctness/useExhaustiveDependencies: the text of the moment is meant
  useEffect(() => {
    if (!autoFocus) return
    before.current = text
    setFocused(true)
    onAutoFocused?.()
  }, [autoFocus, onAutoFocused])
  // Once the expression stands where the reading was, and before any key can come in, all of it is selected.
  useLayoutEffect(() => {
    if (!focused) return
    input.current?.focus()
    input.current?.select()
  }, [focused])
  // Text that changed from outside (undo, another view) replaces what was not in force.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only the outer text matters here
  useEffect(() => {
    if (!focused && text !== putBack.current) setDraft(undefined)
    putBack.current = undefined
  }, [text])

  const type = (next: string) => {
    setDraft(next)
    if (attempt([], () => evaluate(next, kind, names, beside)).ok) onChange(next, false)
  }
  const settle = () => {
    setDraft(undefined)
    onChange(shownText, true)
    before.current = shownText
  }
  const takeBack = () => {
    setDraft(undefined)
    onChange(before.current, true)
  }
  const nudge = (direction: 1 | -1, event: React.KeyboardEvent) => {
    const times = event.shiftKey ? 10 : event.altKey ? 0.1 : 1
    const next = stepped(shownText, direction * stepSize(kind, names.unit, times))
    if (next === undefined) return
    event.preventDefault()
    type(next)
  }

  return (
    <>
      <input
        ref={input}
        className="value"
        aria-label={label}
        aria-invalid={message !== undefined || fault !== undefined}
        aria-describedby={message ? messageId : undefined}
        data-named={!focused && read.ok && read.value.uses.length > 0}
        spellCheck={false}
        autoComplete="off"
        value={focused || draft !== undefined ? shownText : reading(text, kind, names, takes)}
        onFocus={() => {
          if (focused) return
          before.current = text
          pressed.current = true
          setFocused(true)
        }}
        onPointerUp={(event) => {
          // The press that brought the keyboard here has put the caret somewhere in between.
          if (pressed.current) event.currentTarget.select()
          pressed.current = false
        }}
        onBlur={() => {
          setFocused(false)
          pressed.current = false
          if (draft === undefined) return
          if (read.ok) settle()
          // What cannot be read stays to be mended; what was there before is in force again.
          else {
            if (text !== before.current) putBack.current = before.current
            onChange(before.current, true)
          }
        }}
        onChange={(event) => type(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === '/' && draft === undefined) {
            // No value begins so.
            event.preventDefault()
            void beginAdding()
          } else if (event.key === 'ArrowUp') nudge(1, event)
          else if (event.key === 'ArrowDown') nudge(-1, event)
          else if (event.key === 'Enter' && read.ok) {
            settle()
            event.currentTarget.select()
          } else if (event.key === 'Escape') {
            event.stopPropagation()
            // Rendered before the field is left, so that leaving it finds nothing to keep.
            flushSync(takeBack)
            event.currentTarget.blur()
          }
        }}
      />
      {focused && read.ok && draft !== undefined && <RuleNote text={draft} kind={kind} names={names} onTake={type} />}
      {focused && takes && read.ok && <FitNote text={shownText} takes={takes} names={names} />}
      {message && (
        <span
          id={messageId}
          role="alert"
          className="absolute left-0 z-30 mt-1 block w-max max-w-80 border border-rust bg-sheet px-2 py-1 text-sm leading-[1.125rem] text-rust shadow-[0_6px_18px_rgb(20_40_44/0.16)]"
        >
          {message}
          {read.ok ? null : <CountOffers text={shownText} kind={kind} names={names} />}
        </span>
      )}
    </>
  )
}

/** What an arrow key adds: 1 mm, 0.05 inch, 1°, one copy; never less than one of what is counted. */
function stepSize(kind: ValueKind, unit: PartUnit, times: number): number {
  if (kind === 'count') return Math.max(1, times)
  return (kind === 'ratio' ? 0.1 : kind === 'length' && unit === 'in' ? 0.05 : 1) * times
}

/** How a value reads when it is not being typed: "wall 6", "10 + wall / 2 = 13" is shortened to its number. */
export function reading(text: string, kind: ValueKind, names: Names, takes?: FitPair): string {
  const read = attempt([], () => evaluate(text, kind, names, besideOf(takes)))
  if (!read.ok) return text
  const shown = shownValue(read.value.value, kind, names.unit)
  const fitted = takes && fitBeside(text)
  if (fitted) return `${reading(fitted.size, kind, names)} ${fitted.fit} = ${shown}`
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
