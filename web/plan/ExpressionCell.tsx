import type { Measure, MeasureKind } from '@makrel/core/measures'
import { useEffect, useRef, useState } from 'react'
import { expectEdits } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'
import { CloseIcon } from '../ui/icons.tsx'

/** What a measure of a new kind is to begin with: what was a number is no condition, and the other way round. */
export function freshExpression(kind: MeasureKind, before: MeasureKind): Partial<Omit<Measure, 'id' | 'name'>> {
  const isNumber = (each: MeasureKind) => !['switch', 'choice', 'text'].includes(each)
  if (kind === 'choice') return { choices: ['small', 'large'], expression: 'small' }
  if (kind === 'text') return { expression: '' }
  if (kind === 'switch') return { expression: 'yes' }
  return isNumber(before) ? {} : { expression: '1' }
}

/** What a measure is made of, in the variant in force: an expression, words, or one of its choices. */
export function ExpressionCell({
  measure,
  users,
  invalid,
}: {
  /** with the expression that is in force */
  readonly measure: Measure
  readonly users: readonly string[]
  readonly invalid: boolean
}) {
  const part = usePart((state) => state.part)!
  const { edit } = usePart.getState()
  const variant = part.variants.find(({ id }) => id === part.variant)
  /** what it was when the keyboard came */
  const before = useRef(measure.expression)
  const own = variant !== undefined && Object.hasOwn(variant.values, measure.id)
  const set = (expression: string, merge?: string) =>
    edit(
      variant
        ? { type: 'set-variant-value', id: variant.id, measure: measure.id, expression }
        : { type: 'set-measure', id: measure.id, change: { expression } },
      merge,
    )
  return (
    <>
      {measure.kind === 'choice' ? (
        <Choices measure={measure} onChoose={set} onOpen={() => expectEdits(users)} />
      ) : (
        <input
          aria-label={`Expression of ${measure.name}`}
          aria-invalid={invalid}
          className="cell figures text-[1rem] aria-invalid:text-rust"
          value={measure.expression}
          maxLength={400}
          spellCheck={false}
          autoComplete="off"
          placeholder={measure.kind === 'text' ? 'words; {wall} for a value' : undefined}
          data-takes={measure.kind === 'length' ? 'length' : undefined}
          onFocus={(event) => {
            event.currentTarget.select()
            before.current = measure.expression
            expectEdits(users)
          }}
          onKeyDown={(event) => {
            if (event.key === 'Enter') event.currentTarget.blur()
            if (event.key !== 'Escape') return
            if (measure.expression !== before.current) set(before.current, `${measure.id}.expression`)
            event.currentTarget.select()
          }}
          onChange={(event) => set(event.target.value, `${measure.id}.expression`)}
        />
      )}
      {own && (
        <p className="flex items-center gap-1 px-2 pb-1 text-xs text-mackerel">
          {variant.name} only
          <button
            type="button"
            aria-label={`${measure.name}: as in all variants`}
            title="As in all variants"
            className="inline-flex rounded-sm hover:bg-mackerel-wash"
            onClick={() =>
              edit({ type: 'set-variant-value', id: variant.id, measure: measure.id, expression: undefined })
            }
          >
            <CloseIcon size={12} />
          </button>
        </p>
      )}
    </>
  )
}

/** One of several words, and the list of these. */
function Choices({
  measure,
  onChoose,
  onOpen,
}: {
  readonly measure: Measure
  onChoose(word: string): void
  onOpen(): void
}) {
  const { edit } = usePart.getState()
  const choices = measure.choices ?? []
  const listed = choices.join(', ')
  const [draft, setDraft] = useState(listed)
  useEffect(() => setDraft(listed), [listed])
  const commit = () => {
    const words = [...new Set(draft.split(',').map((word) => word.trim().slice(0, 120)))].filter(Boolean).slice(0, 60)
    if (words.join(', ') === listed) return setDraft(listed)
    // A word that went takes the choice to the first one.
    const expression = words.includes(measure.expression) ? {} : { expression: words[0] ?? '' }
    edit({ type: 'set-measure', id: measure.id, change: { choices: words, ...expression } })
  }
  return (
    <fieldset aria-label={`Choices of ${measure.name}`} onPointerEnter={onOpen} onFocus={onOpen}>
      <p className="px-2 pt-1.5">
        <Choice
          label={`Choice of ${measure.name}`}
          value={measure.expression}
          options={(choices.includes(measure.expression) ? choices : [measure.expression, ...choices]).map((word) => ({
            value: word || ' ',
            label: word || 'nothing chosen',
          }))}
          onChange={onChoose}
        />
      </p>
      <label className="flex items-baseline gap-1 px-2 pb-1 text-xs text-ink-soft">
        of
        <input
          aria-label={`Choices of ${measure.name}, separated by commas`}
          className="min-w-0 flex-1 border-b border-line bg-transparent text-xs text-ink"
          value={draft}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={commit}
          onKeyDown={(event) => {
            if (event.key === 'Enter') event.currentTarget.blur()
            if (event.key === 'Escape') setDraft(listed)
          }}
        />
      </label>
    </fieldset>
  )
}
