import { Dialog } from 'radix-ui'
import type { ReactNode } from 'react'
import { IconButton } from './Button.tsx'
import { CloseIcon } from './icons.tsx'

/** A panel over the page, with its title and a way to close it. */
export function DialogPanel({
  title,
  open,
  onOpenChange,
  trigger,
  className,
  children,
}: {
  readonly title: string
  readonly open: boolean
  onOpenChange(open: boolean): void
  /** a button */
  readonly trigger: ReactNode
  readonly className: string
  readonly children: ReactNode
}) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Trigger asChild>{trigger}</Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className={`fixed top-1/2 left-1/2 z-50 max-w-[96vw] -translate-x-1/2 -translate-y-1/2 border border-ink bg-sheet p-6 ${className}`}
        >
          <div className="flex items-center">
            <Dialog.Title className="text-lg font-semibold">{title}</Dialog.Title>
            <Dialog.Close asChild>
              <IconButton label="Close" className="ml-auto">
                <CloseIcon size={16} />
              </IconButton>
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
