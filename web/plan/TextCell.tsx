import { useEffect, useState } from 'react'

/** A cell of a table that keeps what was typed when it is left. */
export function TextCell({
  label,
  value,
  className,
  invalid,
  autoFocus,
  wraps,
  onCommit,
}: {
  readonly label: string
  readonly value: string
  readonly className: string
  readonly invalid?: boolean
  readonly autoFocus?: boolean
  /** long text goes on below */
  readonly wraps?: boolean
  onCommit(value: string): void
}) {
  const [draft, setDraft] = useState(value)
  useEffect(() => setDraft(value), [value])
  const typed = {
    'aria-label': label,
    'aria-invalid': invalid,
    value: draft,
    spellCheck: false,
    onBlur: () => draft !== value && onCommit(draft),
    onFocus: (event: React.FocusEvent<HTMLInputElement | HTMLTextAreaElement>) => event.currentTarget.select(),
    onChange: (event: React.ChangeEvent<HTMLInputElement | HTMLTextAreaElement>) =>
      setDraft(event.target.value.replaceAll('\n', ' ')),
    onKeyDown: (event: React.KeyboardEvent<HTMLInputElement | HTMLTextAreaElement>) => {
      if (event.key === 'Enter') event.currentTarget.blur()
      if (event.key === 'Escape') setDraft(value)
    },
  }
  const look = `${className} ${invalid ? 'text-rust' : ''}`
  if (wraps) return <textarea {...typed} rows={1} className={`${look} resize-none [field-sizing:content]`} />
  // biome-ignore lint/a11y/noAutofocus: a measure that was just added is named first
  return <input {...typed} autoFocus={autoFocus} autoComplete="off" className={look} />
}
