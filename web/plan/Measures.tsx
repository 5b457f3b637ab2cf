import { usesOfNames } from '@makrel/core/document'
import { type Measure, type MeasureKind, type MeasureValue, measureKinds } from '@makrel/core/measures'
import { fieldKindOf } from '@makrel/core/planning'
import type { PartUnit } from '@makrel/core/units'
import { useEffect, useMemo, useRef, useState } from 'react'
import { useLocation } from 'react-router'
import { useCallipers } from '../calliper/receive.ts'
import { newId } from '../ids.ts'
import { shownValue } from '../make/ValueField.tsx'
import { useWorked } from '../state/built.ts'
import { sayDone } from '../state/done.ts'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
import { Choice } from '../ui/Choice.tsx'
import { AddIcon } from '../ui/icons.tsx'
import { ExpressionCell, freshExpression } from './ExpressionCell.tsx'
import { Loads } from './Loads.tsx'
import { Readings } from './Readings.tsx'
import { Readouts } from './Readouts.tsx'
import { NameCell, ProblemRow, RowEnd } from './rows.tsx'
import { TextCell } from './TextCell.tsx'
import { Variants } from './Variants.tsx'

const kindHints: Readonly<Record<MeasureKind, string>> = {
  length: 'mm, cm, in',
  angle: 'degrees',
  count: 'whole number',
  ratio: 'plain number',
  switch: 'yes or no',
  choice: 'one of several words',
  text: 'words',
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
        <CalliperLink />
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
            <th className="w-36 max-[48rem]:hidden">Used by</th>
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
      <Readouts />
      <Loads />
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
  const { measure, problem } = row
  const part = usePart((state) => state.part)!
  const { edit } = usePart.getState()
  const set = (change: Parameters<typeof edit>[0] & { type: 'set-measure' }, merge?: string) => edit(change, merge)
  const worked = useWorked()
  const [reading, setReading] = useState(false)
  const line = useRef<HTMLTableRowElement>(null)
  // Whoever was sent here to mend it begins to type.
  const sent = useLocation().hash === `#measure-${measure.id}`
  useEffect(() => {
    if (sent) line.current?.querySelector<HTMLInputElement>('[data-expression] input')?.focus()
  }, [sent])
  const nameProblem = problem?.path[2] === 'name' ? problem : undefined
  const expressionProblem = problem?.path[2] === 'expression' ? problem : undefined
  const remove = () => {
    edit({ type: 'remove-measure', id: measure.id })
    sayDone(`The measure ${measure.name} was removed.`)
  }
  return (
    <>
      <tr ref={line} className="border-t border-line align-top">
        <NameCell
          name={measure.name}
          autoFocus={fresh}
          invalid={nameProblem !== undefined}
          onRename={(name) => edit({ type: 'rename-measure', id: measure.id, name })}
        />
        <td className="px-2 py-1.5">
          <Choice<MeasureKind>
            label={`Kind of ${measure.name}`}
            value={measure.kind}
            options={measureKinds.map((kind) => ({ value: kind, label: kind, hint: kindHints[kind] }))}
            onChange={(kind) => {
              set({ type: 'set-measure', id: measure.id, change: { kind, ...freshExpression(kind, measure.kind) } })
            }}
          />
        </td>
        <td data-expression>
          <ExpressionCell measure={measure} users={users} invalid={expressionProblem !== undefined} />
        </td>
        <td className="figures px-2 py-1.5 text-right text-[1rem] whitespace-nowrap">
          {shownMeasure(row, part.unit)}
          {isMeasurable(measure) && (
            <button
              type="button"
              aria-expanded={reading}
              aria-label={`Readings of ${measure.name}`}
              className="block w-full text-right font-sans text-xs whitespace-nowrap text-ink-soft hover:text-mackerel"
              onClick={() => setReading(!reading)}
            >
              {readingsWord(measure.readings?.length ?? 0)}
            </button>
          )}
        </td>
        <td>
          <TextCell
            wraps
            label={`Note on ${measure.name}`}
            value={measure.note}
            className="cell"
            onCommit={(note) => set({ type: 'set-measure', id: measure.id, change: { note } })}
          />
        </td>
        <RowEnd name={measure.name} users={users} onRemove={remove} />
      </tr>
      {reading && isMeasurable(measure) && worked && (
        <tr>
          <td colSpan={7} className="pb-2 pl-2">
            <Readings measure={measure} names={worked.resolved.measures.names} />
          </td>
        </tr>
      )}
      {problem && (
        <ProblemRow columns={7}>
          {expressionProblem?.at ? <Pointed text={measure.expression} at={expressionProblem.at} /> : null}
          {problem.text}
        </ProblemRow>
      )}
    </>
  )
}

/** "readings", "1 reading", "3 readings" */
function readingsWord(count: number): string {
  return count === 0 ? 'readings' : `${count} ${count === 1 ? 'reading' : 'readings'}`
}

function isMeasurable({ kind }: Measure): boolean {
  return kind === 'length' || kind === 'angle'
}

function shownMeasure({ measure: { kind }, value, word }: MeasureValue, unit: PartUnit): string {
  if (value === undefined) return '—'
  switch (kind) {
    case 'choice':
    case 'text':
      return word ?? '—'
    case 'switch':
      return value === 1 ? 'yes' : 'no'
    default:
      return `${shownValue(value, kind, unit)}${kind === 'length' ? ` ${unit}` : ''}`
  }
}

function CalliperLink() {
  const count = useCallipers((state) => state.count)
  return (
    <p className="ml-auto whitespace-nowrap text-ink-soft">
      {count > 0 ? `${count === 1 ? 'a calliper is' : `${count} callipers are`} connected · ` : ''}
      <a href="/calliper" target="_blank" rel="noreferrer" className="text-mackerel hover:underline">
        open a calliper
      </a>
    </p>
  )
}

/** The expression with the offending word marked. */
function Pointed({ text, at }: { readonly text: string; readonly at: readonly [number, number] }) {
  return (
    <span className="figures mr-2 border border-rust bg-rust-wash px-1 text-[0.9375rem]">
      {text.slice(0, at[0])}
      <mark className="bg-transparent font-bold text-rust underline decoration-wavy">{text.slice(at[0], at[1])}</mark>
      {text.slice(at[1])}
    </span>
  )
}
