import type { ReactNode } from 'react'
import { usePart } from '../state/part.ts'
import { ErrorBoundary } from '../ui/ErrorBoundary.tsx'

/** Keeps a defect in one place of a stage; with the next edit, of whatever, it is tried again. */
export function PartBoundary({ what, children }: { readonly what: string; readonly children: ReactNode }) {
  const part = usePart((state) => state.part)
  return (
    <ErrorBoundary what={what} anew={part}>
      {children}
    </ErrorBoundary>
  )
}
