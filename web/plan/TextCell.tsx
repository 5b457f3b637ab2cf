import { useEffect, useState } from 'react'

/** A cell of a table that keeps what was typed when it is left. */
export function TextCell({
  label,
  value,
  className,
  invalid,
  autoFocus,
  onCommit,
}: {
  readonly label: string
  readonly value: string
  readonly className: string
  readonly invalid?: boolean
  readonly autoFocus?: boolean
  onCommit(value: string): void
}) {
  const [draft, setDraft] = useState(value)
  useEffect(() => setDraft(value), [value])
  return (
    <input
      aria-label={label}
      aria-invalid={invalid}
      // biome-ignore lint/a11y/noAutofocus: a measure that was just added is named first
      autoFocus={autoFocus}
      className={`${className} ${invalid ? 'text-rust' : ''}`}
      value={draft}
      spellCheck={false}
      autoComplete="off"
      onFocus={(event) => event.currentTarget.select()}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={() => draft !== value && onCommit(draft)}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur()
        if (event.key === 'Escape') setDraft(value)
      }}
    />
  )
}
