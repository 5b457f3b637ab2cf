import { create } from 'zustand'
import { IconButton } from './Button.tsx'
import { CloseIcon } from './icons.tsx'

interface Notice {
  readonly text: string
  readonly action?: { readonly label: string; run(): void } | undefined
  readonly fault?: boolean | undefined
}

const useNotice = create<{ notice: Notice | undefined }>()(() => ({ notice: undefined }))
let timer: ReturnType<typeof setTimeout> | undefined

/** Says something at the foot of the screen, with at most one thing to do about it; it stays for twelve seconds. */
export function say(notice: Notice): void {
  clearTimeout(timer)
  useNotice.setState({ notice })
  timer = setTimeout(() => useNotice.setState({ notice: undefined }), 12_000)
}

export function NoticeBar() {
  const notice = useNotice((state) => state.notice)
  const close = () => useNotice.setState({ notice: undefined })
  return (
    <div aria-live="polite" className="pointer-events-none fixed inset-x-0 bottom-5 z-50 flex justify-center">
      {notice && (
        <div
          className={`pointer-events-auto flex items-center gap-3 rounded-sm border bg-sheet py-1.5 pr-1.5 pl-4 shadow-[0_6px_18px_rgb(20_40_44/0.16)] ${notice.fault ? 'border-rust' : 'border-ink-soft'}`}
        >
          <span>{notice.text}</span>
          {notice.action && (
            <button
              type="button"
              className="font-semibold text-mackerel underline underline-offset-2"
              onClick={() => {
                notice.action?.run()
                close()
              }}
            >
              {notice.action.label}
            </button>
          )}
          <IconButton label="Dismiss" onClick={close}>
            <CloseIcon size={14} />
          </IconButton>
        </div>
      )}
    </div>
  )
}
