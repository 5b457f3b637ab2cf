import { lazy, Suspense } from 'react'
import { useBringIn } from './state.ts'

/** Only who opens a mesh needs what asks about it. */
const BringInDialog = lazy(async () => ({ default: (await import('./BringInDialog.tsx')).BringInDialog }))

/** Asks about the mesh that is being brought in, while one is. */
export function BringIn() {
  const open = useBringIn(({ file }) => file !== undefined)
  return open ? (
    <Suspense>
      <BringInDialog />
    </Suspense>
  ) : null
}
