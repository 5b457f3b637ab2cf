import { lazy, Suspense } from 'react'
import { IconButton } from '../ui/Button.tsx'
import { DialogPanel } from '../ui/DialogPanel.tsx'
import { useHelp } from './useHelp.ts'

/** It tells of every view, so it is fetched when it is asked for. */
const HelpContent = lazy(async () => ({ default: (await import('./HelpContent.tsx')).HelpContent }))

/** The keys, and what may be typed into a value. */
export function Help() {
  const { open } = useHelp()
  return (
    <DialogPanel
      title="Keys and expressions"
      open={open}
      onOpenChange={(next) => useHelp.setState({ open: next })}
      className="max-h-[90vh] w-[38.75rem] overflow-y-auto"
      trigger={
        <IconButton label="Keys and expressions (?)">
          <span className="text-base font-semibold">?</span>
        </IconButton>
      }
    >
      <Suspense>
        <HelpContent />
      </Suspense>
    </DialogPanel>
  )
}
