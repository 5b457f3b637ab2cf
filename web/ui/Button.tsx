import type { ButtonHTMLAttributes, ReactNode } from 'react'

type Props = ButtonHTMLAttributes<HTMLButtonElement> & { readonly main?: boolean; readonly wraps?: boolean }

/** A button with words. `main` marks the one thing to do on a screen; `wraps`: they may run over several lines. */
export function Button({ main, wraps, className = '', type = 'button', ...rest }: Props) {
  const look = main
    ? 'bg-mackerel text-sheet border-mackerel hover:bg-[#0b565b]'
    : 'bg-sheet text-ink border-line hover:border-ink-soft'
  const lines = wraps ? 'min-h-8 py-1 text-left' : 'h-8 whitespace-nowrap'
  return (
    <button
      type={type}
      className={`inline-flex items-center gap-1.5 rounded-sm border px-3 font-medium ${lines} ${look} ${className}`}
      {...rest}
    />
  )
}

/** A small square button with an icon; `label` is its name and its tooltip. */
export function IconButton({
  label,
  pressed,
  children,
  className = '',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & {
  readonly label: string
  readonly pressed?: boolean
  readonly children: ReactNode
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      aria-pressed={pressed}
      className={`inline-flex h-7 w-7 items-center justify-center rounded-sm text-ink-soft hover:bg-mackerel-wash hover:text-ink aria-pressed:bg-mackerel-wash aria-pressed:text-mackerel ${className}`}
      {...rest}
    >
      {children}
    </button>
  )
}
