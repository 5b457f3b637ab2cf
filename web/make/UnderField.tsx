import type { ReactNode } from 'react'

/** What is told of the text in a field, under it, while it is being typed. */
export function UnderField({ children }: { readonly children: ReactNode }) {
  return (
    <span
      role="note"
      className="absolute left-0 z-30 mt-1 block w-max max-w-96 border border-line bg-sheet px-2 py-1 text-sm leading-[1.125rem] shadow-[0_6px_18px_rgb(20_40_44/0.16)]"
    >
      {children}
    </span>
  )
}
