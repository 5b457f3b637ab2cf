import { useEffect, useRef, useState } from 'react'

/** Words in a sentence, in force with every keystroke; Escape takes back what was typed. */
export function TextField({
  label,
  text,
  quoted,
  fault,
  autoFocus,
  onAutoFocused,
  onChange,
}: {
  readonly label: string
  readonly text: string
  readonly quoted: boolean
  readonly fault: string | undefined
  readonly autoFocus: boolean
  onAutoFocused(): void
  onChange(text: string, final: boolean): void
}) {
  const [draft, setDraft] = useState(text)
  const before = useRef(text)
  const input = useRef<HTMLInputElement>(null)
  useEffect(() => setDraft(text), [text])
  useEffect(() => {
    if (!autoFocus) return
    input.current?.focus()
    input.current?.select()
    onAutoFocused()
  }, [autoFocus, onAutoFocused])
  return (
    <>
      {quoted && '“'}
      <input
        ref={input}
        className="value"
        aria-label={label}
        aria-invalid={fault !== undefined}
        spellCheck={false}
        autoComplete="off"
        value={draft}
        onFocus={() => {
          before.current = text
        }}
        onChange={(event) => {
          setDraft(event.target.value)
          onChange(event.target.value, false)
        }}
        onBlur={() => onChange(draft, true)}
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.select()
          if (event.key !== 'Escape') return
          event.stopPropagation()
          setDraft(before.current)
          onChange(before.current, true)
          event.currentTarget.select()
        }}
      />
      {quoted && '”'}
    </>
  )
}
