import { type UseComboboxState, type UseComboboxStateChangeOptions, useCombobox } from 'downshift'
import { type ReactNode, useState } from 'react'

interface Props<T> {
  readonly id: string
  readonly label: string
  readonly placeholder: string
  readonly value: string
  onValue(text: string): void
  /** what may be meant, the likeliest first */
  readonly items: readonly T[]
  keyOf(item: T): string
  show(item: T): ReactNode
  /** False where it cannot be taken as it is: the list stays, and says why. */
  onChoose(item: T): boolean
  /** Enter where nothing is offered */
  onEnter?(): void
  /** in the place of the list, where nothing is offered for what is typed */
  readonly nothing?: ReactNode
  readonly invalid?: boolean
  /** at the right of the field */
  readonly hint?: ReactNode
}

/** A field that says what is meant as it is typed; Enter or a press takes one, and Escape lets it be. The list opens upwards. */
export function ComboField<T>(props: Props<T>) {
  const { id, label, placeholder, value, onValue, items, keyOf, show, onChoose, onEnter, nothing, invalid, hint } =
    props
  const [open, setOpen] = useState(false)
  const offers = items.length > 0 || nothing !== undefined
  const shown = open && value.trim() !== '' && offers
  const { getInputProps, getMenuProps, getItemProps, highlightedIndex } = useCombobox<T>({
    inputId: id,
    menuId: `${id}-list`,
    items: [...items],
    itemToString: (item) => (item ? keyOf(item) : ''),
    inputValue: value,
    isOpen: shown,
    // What is chosen is done at once: nothing stays chosen.
    selectedItem: null,
    defaultHighlightedIndex: 0,
    stateReducer: asChosen,
    onIsOpenChange: ({ isOpen }) => setOpen(isOpen),
    onSelectedItemChange({ selectedItem }) {
      if (selectedItem) choose(selectedItem)
    },
  })
  const choose = (item: T) => {
    if (onChoose(item)) setOpen(false)
  }
  return (
    <div className="relative">
      <input
        {...getInputProps({
          'aria-label': label,
          'aria-invalid': invalid ?? false,
          onChange(event: React.ChangeEvent<HTMLInputElement>) {
            onValue(event.target.value)
            setOpen(true)
          },
          onFocus: () => setOpen(true),
          onKeyDown(event: React.KeyboardEvent<HTMLInputElement>) {
            if (event.key === 'Escape') {
              event.preventDefault()
              onValue('')
              event.currentTarget.blur()
            } else if (event.key === 'Enter' && !(shown && items.length > 0)) onEnter?.()
            // What came into the field otherwise than by typing has nothing picked out yet.
            else if (event.key === 'Enter' && highlightedIndex < 0) choose(items[0]!)
          },
        })}
        autoComplete="off"
        spellCheck={false}
        placeholder={placeholder}
        className="h-10 w-full rounded-sm border border-ink-soft bg-sheet px-3 pr-10 text-base aria-invalid:border-rust"
      />
      {hint && <span className="pointer-events-none absolute top-2.5 right-3 text-xs text-ink-soft">{hint}</span>}
      <ul
        {...getMenuProps({ 'aria-label': `${label}: what is meant` })}
        hidden={!shown}
        className="absolute bottom-full left-0 z-40 mb-1 max-h-[70vh] w-full overflow-y-auto border border-ink-soft bg-sheet py-1 shadow-[0_6px_18px_rgb(20_40_44/0.16)]"
      >
        {shown && items.length === 0 && <li className="px-3 py-2 text-ink-soft">{nothing}</li>}
        {shown &&
          items.map((item, index) => (
            <li
              key={keyOf(item)}
              {...getItemProps({ item, index })}
              className={`flex cursor-pointer items-center gap-3 px-3 py-1.5 ${index === highlightedIndex ? 'bg-mackerel-wash' : ''}`}
            >
              {show(item)}
            </li>
          ))}
      </ul>
    </div>
  )
}

/** Who leaves the field chooses nothing by that, and what cannot be taken leaves the list as it is. */
function asChosen<T>(
  state: UseComboboxState<T>,
  { type, changes }: UseComboboxStateChangeOptions<T>,
): Partial<UseComboboxState<T>> {
  const { InputBlur, InputKeyDownEnter, ItemClick } = useCombobox.stateChangeTypes
  if (type === InputBlur) return { ...changes, selectedItem: state.selectedItem, inputValue: state.inputValue }
  if (type !== InputKeyDownEnter && type !== ItemClick) return changes
  return { ...changes, isOpen: state.isOpen, highlightedIndex: state.highlightedIndex }
}
