import { Popover } from 'radix-ui'
import type { ReactNode } from 'react'

/** What opens beside a press in the panel on the right, over the drawing. */
export function SidePopover({
  label,
  trigger,
  open,
  onOpenChange,
  className,
  children,
}: {
  readonly label: string
  /** the button that opens it */
  readonly trigger: ReactNode
  readonly open: boolean
  onOpenChange(open: boolean): void
  readonly className: string
  readonly children: ReactNode
}) {
  return (
    <Popover.Root open={open} onOpenChange={onOpenChange}>
      <Popover.Trigger asChild>{trigger}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="left"
          align="start"
          sideOffset={6}
          collisionPadding={8}
          aria-label={label}
          className={`z-50 rounded-sm border border-ink-soft shadow-[0_6px_18px_rgb(20_40_44/0.16)] ${className}`}
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
