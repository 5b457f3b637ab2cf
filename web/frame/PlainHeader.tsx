import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { Mark } from './Mark.tsx'

/** The head of a page that is of no part: the way back to the shelf, what this is, and what can be done here. */
export function PlainHeader({ title, children }: { readonly title: string; readonly children?: ReactNode }) {
  return (
    <header className="flex min-h-[3.25rem] shrink-0 flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-ink bg-sheet px-5 py-2">
      <Link to="/" aria-label="Shelf" className="flex items-center gap-2.5 text-base font-semibold hover:text-mackerel">
        <Mark />
        Makrel
      </Link>
      <h1 className="border-l border-line pl-3 text-ink-soft">{title}</h1>
      {children}
    </header>
  )
}
