import { fieldKindOf } from '@makrel/core/build'
import { findStep, usesOfNames } from '@makrel/core/document'
import { type MeasureKind, type MeasureValue, measureKinds } from '@makrel/core/measures'
import { useEffect, useMemo, useState } from 'react'
import { Link } from 'react-router'
import { newId } from '../ids.ts'
import { shownValue } from '../make/ValueField.tsx'
import { stepNumber, stepTitle } from '../make/words.ts'
import { expectEdits, useWorked } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { Button, IconButton } from '../ui/Button.tsx'
import { Choice } from '../ui/Choice.tsx'
import { AddIcon, CloseIcon, RemoveIcon } from '../ui/icons.ts'
import { say } from '../ui/Notice.tsx'
import { Variants } from './Variants.tsx'

const kindHints: Readonly<Record<MeasureKind, string>> = {
  length: 'mm, cm, in',
  angle: 'degrees',
  count: 'whole number',
  ratio: 'plain number',
  switch: 'yes or no',
}

/** The table of named values: what was measured or decided, and what depends on it. */
export function Measures() {
  const part = usePart((state) => state.part)!
  const worked = useWorked()
  const uses = useMemo(() => usesOfNames(part, fieldKindOf), [part])
  const [fresh, setFresh] = useState<string>()
  const { edit } = usePart.getState()
  const add = () => {
    const id = newId()
    const taken = new Set(part.measures.map((measure) => measure.name))
    let number = part.measures.length + 1
    while (taken.has(`size${number}`)) number++
    edit({ type: 'add-measure', measure: { id, name: `size${number}`, kind: 'length', expression: '10', note: '' } })
    setFresh(id)
  }
  return (
    <section aria-label="Measures" className="min-w-0">
      <div className="mb-3 flex items-baseline gap-3">
        <h2 className="text-lg font-semibold">Measures</h2>
        <p className="text-ink-soft">
          Names for what was measured. Use them in every value: “wall * 2”, “rod + 2 * slide”.
        </p>
      </div>
      <Variants />
      <table className="w-full table-fixed border-collapse border border-ink bg-sheet text-left">
        <thead>
          <tr className="border-b border-ink text-xs text-ink-soft [&>th]:px-2 [&>th]:py-1.5 [&>th]:font-medium">
            <th className="w-28">Name</th>
            <th className="w-20">Kind</th>
            <th className="w-40">Expression</th>
            <th className="w-20 text-right">Value</th>
            <th>Note</th>
            <th className="w-36">Used by</th>
            <th className="w-10">
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {worked?.resolved.measures.rows.map((row) => (
            <Row
              key={row.measure.id}
              row={row}
              users={uses.get(row.measure.name) ?? []}
              fresh={fresh === row.measure.id}
            />
          ))}
        </tbody>
      </table>
      {part.measures.length === 0 && (
        <p className="border-x border-b border-line bg-sheet px-3 py-4 text-ink-soft">
          Nothing measured yet. A first one could be “wall”, 3 mm.
        </p>
      )}
      <Button className="mt-3" onClick={add}>
        <AddIcon size={15} /> Add a measure
      </Button>
    </section>
  )
}

function Row({
  row,
  users,
  fresh,
}: {
  readonly row: MeasureValue
  readonly users: readonly string[]
  readonly fresh: boolean
}) {
  const { measure, value, problem } = row
  const part = usePart((state) => state.part)!
  const { edit } = usePart.getState()
  const set = (change: Parameters<typeof edit>[0] & { type: 'set-measure' }, merge?: string) => edit(change, merge)
  const variant = part.variants.find(({ id }) => id === part.variant)
  const own = variant !== undefined && Object.hasOwn(variant.values, measure.id)
  const nameProblem = problem?.path[2] === 'name' ? problem : undefined
  const expressionProblem = problem?.path[2] === 'expression' ? problem : undefined
  const remove = () => {
    edit({ type: 'remove-measure', id: measure.id })
    say({
      text: `The measure ${measure.name} was removed.`,
      action: { label: 'Undo', run: () => usePart.getState().undo() },
    })
  }
  return (
    <>
      <tr className="border-t border-line align-top">
        <td>
          <TextCell
            label={`Name of ${measure.name}`}
            value={measure.name}
            autoFocus={fresh}
            invalid={nameProblem !== undefined}
            className="cell font-semibold"
            onCommit={(name) => edit({ type: 'rename-measure', id: measure.id, name: name.trim() })}
          />
        </td>
        <td className="px-2 py-1.5">
          <Choice<MeasureKind>
            label={`Kind of ${measure.name}`}
            value={measure.kind}
            options={measureKinds.map((kind) => ({ value: kind, label: kind, hint: kindHints[kind] }))}
            onChange={(kind) => {
              // What was a number is not a condition, and the other way round.
              const turned = (kind === 'switch') !== (measure.kind === 'switch')
              const expression = turned ? { expression: kind === 'switch' ? 'yes' : '1' } : {}
              set({ type: 'set-measure', id: measure.id, change: { kind, ...expression } })
            }}
          />
        </td>
        <td>
          <input
            aria-label={`Expression of ${measure.name}`}
            aria-invalid={expressionProblem !== undefined}
            className="cell figures text-[16px] aria-invalid:text-rust"
            value={measure.expression}
            maxLength={400}
            spellCheck={false}
            autoComplete="off"
            onFocus={(event) => {
              event.currentTarget.select()
              expectEdits(users)
            }}
            onChange={(event) =>
              edit(
                variant
                  ? {
                      type: 'set-variant-value',
                      id: variant.id,
                      measure: measure.id,
                      expression: event.target.value,
                    }
                  : { type: 'set-measure', id: measure.id, change: { expression: event.target.value } },
                `${measure.id}.expression`,
              )
            }
          />
          {own && (
            <p className="flex items-center gap-1 px-2 pb-1 text-xs text-mackerel">
              {variant!.name} only
              <button
                type="button"
                aria-label={`${measure.name}: as in all variants`}
                title="As in all variants"
                className="inline-flex rounded-sm hover:bg-mackerel-wash"
                onClick={() =>
                  edit({ type: 'set-variant-value', id: variant!.id, measure: measure.id, expression: undefined })
                }
              >
                <CloseIcon size={12} />
              </button>
            </p>
          )}
        </td>
        <td className="figures px-2 py-1.5 text-right text-[16px] whitespace-nowrap">
          {value === undefined
            ? '—'
            : measure.kind === 'switch'
              ? value === 1
                ? 'yes'
                : 'no'
              : `${shownValue(value, measure.kind, part.unit)}${measure.kind === 'length' ? ` ${part.unit}` : ''}`}
        </td>
        <td>
          <TextCell
            label={`Note on ${measure.name}`}
            value={measure.note}
            className="cell"
            onCommit={(note) => set({ type: 'set-measure', id: measure.id, change: { note } })}
          />
        </td>
        <td className="px-2 py-2 text-xs text-ink-soft">
          <Users ids={users} />
        </td>
        <td className="py-1">
          <IconButton label={`Remove ${measure.name}`} onClick={remove}>
            <RemoveIcon size={14} />
          </IconButton>
        </td>
      </tr>
      {problem && (
        <tr>
          <td colSpan={7} className="px-2 pb-2">
            <p role="alert" className="text-rust">
              {expressionProblem?.at ? <Pointed text={measure.expression} at={expressionProblem.at} /> : null}
              {problem.text}
            </p>
          </td>
        </tr>
      )}
    </>
  )
}

/** The expression with the offending word marked. */
function Pointed({ text, at }: { readonly text: string; readonly at: readonly [number, number] }) {
  return (
    <span className="figures mr-2 border border-rust bg-rust-wash px-1 text-[15px]">
      {text.slice(0, at[0])}
      <mark className="bg-transparent font-bold text-rust underline decoration-wavy">{text.slice(at[0], at[1])}</mark>
      {text.slice(at[1])}
    </span>
  )
}

function Users({ ids }: { readonly ids: readonly string[] }) {
  const part = usePart((state) => state.part)!
  if (ids.length === 0) return <em>not used yet</em>
  return ids.map((id, i) => {
    const step = findStep(part, id)?.step
    const measure = part.measures.find((candidate) => candidate.id === id)
    const joint = part.joints.find((candidate) => candidate.id === id)
    return (
      <span key={id}>
        {i > 0 && ', '}
        {step ? (
          <Link
            to="../make"
            relative="path"
            className="text-mackerel hover:underline"
            onClick={() => usePart.getState().select({ kind: 'step', id })}
          >
            {stepNumber(part, id)} {stepTitle(step)}
          </Link>
        ) : (
          (measure?.name ?? joint?.name)
        )}
      </span>
    )
  })
}

function TextCell({
  label,
  value,
  className,
  invalid,
  autoFocus,
  onCommit,
}: {
  readonly label: string
  readonly value: string
  readonly className: string
  readonly invalid?: boolean
  readonly autoFocus?: boolean
  onCommit(value: string): void
}) {
  const [draft, setDraft] = useState(value)
  useEffect(() => setDraft(value), [value])
  return (
    <input
      aria-label={label}
      aria-invalid={invalid}
      // biome-ignore lint/a11y/noAutofocus: a measure that was just added is named first
      autoFocus={autoFocus}
      className={`${className} ${invalid ? 'text-rust' : ''}`}
      value={draft}
      spellCheck={false}
      autoComplete="off"
      onFocus={(event) => event.currentTarget.select()}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={() => draft !== value && onCommit(draft)}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur()
        if (event.key === 'Escape') setDraft(value)
      }}
    />
  )
}
