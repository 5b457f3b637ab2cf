import { useEffect, useState } from 'react'
import { newId } from '../ids.ts'
import { expectVariant } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { IconButton } from '../ui/Button.tsx'
import { AddIcon, RemoveIcon } from '../ui/icons.tsx'

/** Named sets of values: one press puts another one in force. What is typed while one is chosen holds in it only. */
export function Variants() {
  const { variants, variant } = usePart((state) => state.part)!
  const { edit } = usePart.getState()
  const add = () =>
    edit({ type: 'add-variant', variant: { id: newId(), name: `variant ${variants.length + 1}`, values: {} } })
  const choose = (id: string, name: string) => (
    <label
      key={id}
      className="inline-flex h-7 cursor-pointer items-center border border-line px-2.5 has-checked:border-mackerel has-checked:bg-mackerel-wash has-checked:font-semibold has-checked:text-mackerel has-focus-visible:outline-2 has-focus-visible:outline-mackerel"
    >
      <input
        type="radio"
        name="variant"
        className="sr-only"
        checked={variant === id}
        onChange={() => edit({ type: 'choose-variant', id })}
      />
      {name}
    </label>
  )
  const chosen = variants.find(({ id }) => id === variant)
  return (
    <div
      className="mb-2 flex min-h-8 flex-wrap items-center gap-2"
      role="radiogroup"
      aria-label="Variants"
      onPointerEnter={expectVariant}
      onFocus={expectVariant}
    >
      {variants.length > 0 && (
        <>
          <span className="text-ink-soft">Variants</span>
          <span className="flex [&>label+label]:-ml-px">
            {choose('', 'as typed')}
            {variants.map(({ id, name }) => choose(id, name))}
          </span>
        </>
      )}
      <button type="button" onClick={add} className="inline-flex items-center gap-1 text-ink-soft hover:text-mackerel">
        <AddIcon size={14} /> {variants.length === 0 ? 'variants: the same part in other sizes' : 'variant'}
      </button>
      {chosen && (
        <span className="ml-auto flex items-center gap-1">
          <VariantName key={chosen.id} id={chosen.id} name={chosen.name} />
          <IconButton label={`Remove ${chosen.name}`} onClick={() => edit({ type: 'remove-variant', id: chosen.id })}>
            <RemoveIcon size={14} />
          </IconButton>
        </span>
      )}
    </div>
  )
}

function VariantName({ id, name }: { readonly id: string; readonly name: string }) {
  const [draft, setDraft] = useState(name)
  useEffect(() => setDraft(name), [name])
  return (
    <input
      aria-label="Name of this variant"
      value={draft}
      maxLength={120}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={() =>
        draft.trim() && draft !== name && usePart.getState().edit({ type: 'rename-variant', id, name: draft.trim() })
      }
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      className="h-7 w-36 border border-line bg-sheet px-2"
    />
  )
}
