import type { ReactNode } from 'react'

/** A titled stretch of the outline's sheet. */
export function SheetSection({ title, children }: { readonly title: string; readonly children: ReactNode }) {
  return (
    <section aria-label={title} className="mt-3 border-t border-line pt-2">
      <h3 className="mb-1 font-semibold">{title}</h3>
      {children}
    </section>
  )
}
