import { Toast } from 'radix-ui'
import { create } from 'zustand'
import { newId } from '../ids.ts'
import { CloseIcon } from './icons.tsx'

interface Notice {
  readonly text: string
  readonly action?: { readonly label: string; run(): void } | undefined
  readonly fault?: boolean | undefined
}

interface Shown extends Notice {
  readonly id: string
  readonly open: boolean
}

const useNotices = create<{ readonly shown: readonly Shown[] }>()(() => ({ shown: [] }))

/** How long a notice stays unless the pointer or the keyboard is on it, ms. */
const stays = 12_000
/** More than these would cover what they are about. */
const most = 3

/**
 * Says something at the foot of the screen, with at most one thing to do about it. What was said before stays there for its
 * time, so that its undo is not lost; the same text is said once. Returns what takes it away.
 */
export function say(notice: Notice): () => void {
  const id = newId()
  const others = useNotices.getState().shown.filter(({ text, open }) => open && text !== notice.text)
  useNotices.setState({ shown: [...others.slice(1 - most), { ...notice, id, open: true }] })
  return () => close(id)
}

function close(id: string): void {
  const { shown } = useNotices.getState()
  useNotices.setState({ shown: shown.map((notice) => (notice.id === id ? { ...notice, open: false } : notice)) })
}

export function NoticeBar() {
  const shown = useNotices((state) => state.shown)
  return (
    <Toast.Provider duration={stays} label="Notice" swipeDirection="down">
      {shown.map(({ id, text, action, fault, open }) => (
        <Toast.Root
          key={id}
          open={open}
          onOpenChange={(stillOpen) => !stillOpen && close(id)}
          type={fault ? 'foreground' : 'background'}
          className={`pointer-events-auto flex items-center gap-3 rounded-sm border bg-sheet py-1.5 pr-1.5 pl-4 shadow-[0_6px_18px_rgb(20_40_44/0.16)] ${fault ? 'border-rust' : 'border-ink-soft'}`}
        >
          <Toast.Description>{text}</Toast.Description>
          {action && (
            <Toast.Action
              altText={action.label}
              className="font-semibold text-mackerel underline underline-offset-2"
              onClick={action.run}
            >
              {action.label}
            </Toast.Action>
          )}
          <Toast.Close aria-label="Dismiss" className="rounded-sm p-1.5 text-ink-soft hover:bg-mackerel-wash">
            <CloseIcon size={14} />
          </Toast.Close>
        </Toast.Root>
      ))}
      <Toast.Viewport
        label="Notices ({hotkey})"
        className="pointer-events-none fixed inset-x-0 bottom-5 z-50 flex flex-col items-center gap-2"
      />
    </Toast.Provider>
  )
}
