import type { ItemField } from '@makrel/core/fields'
import { findItems, type Item, itemOf } from '@makrel/core/hardware'
import { useCombobox } from 'downshift'
import { Popover } from 'radix-ui'
import { useState } from 'react'
import type { EditorProps } from './editors.tsx'

/** So many are listed: who wants another one types more of it. */
const mostListed = 60

/** An item of the hardware tables: a word in the sentence, and behind it a list that is searched as it is typed. */
export function ItemEditor({ definition, text, fault, onChange }: EditorProps<ItemField>) {
  const [open, setOpen] = useState(false)
  const chosen = itemOf(text)
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild aria-label={definition.label} aria-invalid={fault !== undefined}>
        {/* biome-ignore lint/a11y/useSemanticElements: a button is one box that cannot break over two lines of a sentence */}
        <span className="choice aria-invalid:text-rust" role="button" tabIndex={0} onKeyDown={pressed}>
          {chosen?.label ?? (text === '' ? 'choose one' : text)}
        </span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          collisionPadding={12}
          className="z-50 w-96 rounded-sm border border-ink-soft bg-sheet shadow-[0_6px_18px_rgb(20_40_44/0.16)]"
        >
          <ItemList
            definition={definition}
            chosen={chosen}
            onChoose={({ id }) => {
              onChange(id, true)
              setOpen(false)
            }}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

/** Enter and the space bar open it, as they do a button. */
function pressed(event: React.KeyboardEvent<HTMLElement>): void {
  if (event.key !== 'Enter' && event.key !== ' ') return
  event.preventDefault()
  event.currentTarget.click()
}

function ItemList({
  definition: { label, of },
  chosen,
  onChoose,
}: {
  readonly definition: ItemField
  readonly chosen: Item | undefined
  onChoose(item: Item): void
}) {
  const [typed, setTyped] = useState('')
  const found = findItems(typed, of)
  // Where nothing is typed yet, the sizes of the same form come first.
  const listed =
    typed.trim() === '' && chosen
      ? [...found].sort((a, b) => Number(b.family === chosen.family) - Number(a.family === chosen.family))
      : found
  const items = listed.slice(0, mostListed)
  const { getInputProps, getMenuProps, getItemProps, highlightedIndex } = useCombobox<Item>({
    items,
    isOpen: true,
    inputValue: typed,
    selectedItem: null,
    itemToString: (item) => item?.label ?? '',
    defaultHighlightedIndex: 0,
    initialHighlightedIndex: Math.max(
      0,
      items.findIndex(({ id }) => id === chosen?.id),
    ),
    onInputValueChange: ({ inputValue, type }) => {
      if (type === useCombobox.stateChangeTypes.InputChange) setTyped(inputValue ?? '')
    },
    onSelectedItemChange: ({ selectedItem }) => selectedItem && onChoose(selectedItem),
  })
  return (
    <>
      <input
        {...getInputProps({ 'aria-label': `Find: ${label.toLowerCase()}` })}
        autoComplete="off"
        spellCheck={false}
        placeholder="M4, 1/4-20, 608, lock nut …"
        className="h-9 w-full border-b border-line bg-sheet px-3"
      />
      <ul {...getMenuProps({ 'aria-label': label })} className="max-h-72 overflow-y-auto py-1">
        {items.length === 0 && <li className="px-3 py-2 text-ink-soft">Nothing in the tables is called “{typed}”.</li>}
        {items.map((item, index) => (
          <li
            key={item.id}
            {...getItemProps({ item, index })}
            className={`flex cursor-pointer items-baseline gap-3 px-3 py-1 ${index === highlightedIndex ? 'bg-mackerel-wash text-mackerel' : ''}`}
          >
            <span className={item.id === chosen?.id ? 'font-semibold' : ''}>{item.label}</span>
            <span className="ml-auto whitespace-nowrap text-xs text-ink-soft">{item.family.standard}</span>
          </li>
        ))}
        {listed.length > items.length && (
          <li className="px-3 py-1 text-xs text-ink-soft">
            {listed.length - items.length} more: type a size or a name.
          </li>
        )}
      </ul>
    </>
  )
}
