import { Select } from 'radix-ui'
import { useLayoutEffect, useMemo, useRef, useState } from 'react'
import { ChooseIcon, PassIcon } from './icons.tsx'

export interface Option<T extends string> {
  readonly value: T
  readonly label: string
  /** said in the list only */
  readonly hint?: string | undefined
}

const box =
  'flex min-h-8 w-full items-center rounded-sm border border-line bg-sheet px-2 text-left hover:border-ink-soft'

/** A word in a sentence, or a value in a form, that is one of several. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  look = 'choice',
  shown,
  id,
  focusMoves,
}: {
  readonly label: string
  readonly value: T
  /** a long list may be a function, which is asked once the list is opened; `shown` says what the closed field reads */
  readonly options: readonly Option<T>[] | (() => readonly Option<T>[])
  onChange(value: T): void
  /** "choice": a word in a sentence; "box": a field in a form */
  readonly look?: 'choice' | 'box'
  /** what the closed field reads, where that is not the option's label */
  readonly shown?: string | undefined
  readonly id?: string
  /** a new choice brings a field that takes the keyboard, so the list must not give it back to this word */
  readonly focusMoves?: (value: T) => boolean
}) {
  const moved = useRef(false)
  const [open, setOpen] = useState(false)
  const listed = typeof options === 'function' ? (open ? options() : []) : options
  const text = shown ?? listed.find((option) => option.value === value)?.label ?? value
  // What it does is looked up when it is done, so that the list, which is much, is drawn anew only when it reads otherwise.
  const latest = useRef({ onChange, focusMoves })
  latest.current = { onChange, focusMoves }
  const shownList = open ? listed : undefined
  // The keyboard is given back together with the list's end: a Tab that comes at once must go on from here.
  const trigger = useRef<HTMLButtonElement>(null)
  const wasOpen = useRef(false)
  useLayoutEffect(() => {
    const closed = wasOpen.current && !open
    wasOpen.current = open
    if (closed && !moved.current && document.activeElement === document.body) trigger.current?.focus()
  }, [open])
  return useMemo(
    () => (
      <Select.Root
        value={value}
        open={open}
        onOpenChange={setOpen}
        onValueChange={(next) => {
          moved.current = latest.current.focusMoves?.(next as T) ?? false
          latest.current.onChange(next as T)
        }}
      >
        {look === 'choice' ? (
          // A span, because a button is one box that cannot break over two lines of a sentence.
          <Select.Trigger ref={trigger} id={id} aria-label={label} asChild>
            {/* biome-ignore lint/a11y/noNoninteractiveTabindex: the trigger makes a combobox of it */}
            <span className="choice" tabIndex={0}>
              <Select.Value>{text}</Select.Value>
            </span>
          </Select.Trigger>
        ) : (
          <Select.Trigger ref={trigger} id={id} aria-label={label} className={box}>
            <Select.Value>{text}</Select.Value>
            <ChooseIcon size={14} className="ml-auto text-ink-soft" />
          </Select.Trigger>
        )}
        {open && (
          <Select.Portal>
            <Select.Content
              onCloseAutoFocus={(event) => {
                // Who is in the next field already is not called back.
                const { activeElement: now, body } = document
                if (moved.current || (now !== null && now !== body)) event.preventDefault()
                moved.current = false
              }}
              position="popper"
              sideOffset={4}
              className="z-50 max-h-80 min-w-40 overflow-y-auto rounded-sm border border-ink-soft bg-sheet py-1 shadow-[0_6px_18px_rgb(20_40_44/0.16)]"
            >
              <Select.Viewport>
                {shownList?.map((option) => (
                  <Select.Item
                    key={option.value}
                    value={option.value}
                    className="flex cursor-pointer items-center gap-2 px-3 py-1.5 outline-none data-[highlighted]:bg-mackerel-wash data-[highlighted]:text-mackerel"
                  >
                    <span className="w-4">
                      <Select.ItemIndicator>
                        <PassIcon size={14} />
                      </Select.ItemIndicator>
                    </span>
                    <Select.ItemText>{option.label}</Select.ItemText>
                    {option.hint && <span className="ml-auto pl-4 text-xs text-ink-soft">{option.hint}</span>}
                  </Select.Item>
                ))}
              </Select.Viewport>
            </Select.Content>
          </Select.Portal>
        )}
      </Select.Root>
    ),
    [value, open, text, label, look, id, shownList],
  )
}
