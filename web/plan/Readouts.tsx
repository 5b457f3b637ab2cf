import { findStep, type Part, type Readout, type ReadPoint, usesOfNames } from '@makrel/core/document'
import { fieldKindOf, type ReadRow } from '@makrel/core/planning'
import { readoutOf, readouts } from '@makrel/core/readouts'
import { formatVolume, type PartUnit } from '@makrel/core/units'
import { useMemo } from 'react'
import { newId } from '../ids.ts'
import { shownValue } from '../make/ValueField.tsx'
import { pointWords } from '../make/words.ts'
import { useWorked } from '../state/built.ts'
import { sayDone } from '../state/done.ts'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
import { Choice } from '../ui/Choice.tsx'
import { AddIcon } from '../ui/icons.tsx'
import { keyOf, type PointOption, pointOptions } from './points.ts'
import { NameCell, ProblemRow, RowEnd } from './rows.tsx'

/** A name for a new read-out that nothing else has. */
export function freeReadoutName({ measures, readouts: taken }: Part): string {
  const names = new Set([...measures, ...taken].map(({ name }) => name))
  let number = taken.length + 1
  while (names.has(`read${number}`)) number++
  return `read${number}`
}

/** "12.5 mm", "30°", "24 cm³" */
export function shownReading(kind: string, value: number | undefined, unit: PartUnit): string {
  const dimension = readoutOf(kind)?.dimension
  if (value === undefined || !dimension) return '—'
  if (dimension.length === 3) return formatVolume(value, unit)
  return dimension.angle === 1 ? shownValue(value, 'angle', unit) : `${shownValue(value, 'length', unit)} ${unit}`
}

/** What is read off the part, and can be used by its name as a measure is. */
export function Readouts() {
  const part = usePart((state) => state.part)!
  const worked = useWorked()
  const uses = useMemo(() => usesOfNames(part, fieldKindOf), [part])
  const { edit } = usePart.getState()
  const points = useMemo(() => pointOptions(part, worked?.plan.geometry), [part, worked])
  const [first, second] = points
  const add = () => {
    const of = [first!, second ?? first!].map(({ point }) => point)
    edit({ type: 'add-readout', readout: { id: newId(), name: freeReadoutName(part), kind: 'distance', of, note: '' } })
  }
  return (
    <section aria-label="Read-outs" className="mt-8">
      <div className="mb-3 flex items-baseline gap-3">
        <h2 className="text-lg font-semibold">Read-outs</h2>
        <p className="text-ink-soft">Sizes that are read off the part, and follow it. Use them by name, as measures.</p>
      </div>
      {part.readouts.length > 0 && (
        <table className="w-full table-fixed border-collapse border border-ink bg-sheet text-left">
          <thead>
            <tr className="border-b border-ink text-xs text-ink-soft [&>th]:px-2 [&>th]:py-1.5 [&>th]:font-medium">
              <th className="w-28">Name</th>
              <th>Read</th>
              <th className="w-28 text-right">Value</th>
              <th className="w-36 max-[48rem]:hidden">Used by</th>
              <th className="w-10">
                <span className="sr-only">Remove</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {worked?.readouts.map((row) => (
              <Row key={row.readout.id} row={row} points={points} users={uses.get(row.readout.name) ?? []} />
            ))}
          </tbody>
        </table>
      )}
      {first ? (
        <Button className="mt-3" onClick={add}>
          <AddIcon size={15} /> Add a read-out
        </Button>
      ) : (
        <p className="text-ink-soft">
          There is nothing to read yet: add a solid, or fix what keeps it from being built.
        </p>
      )}
    </section>
  )
}

function isGearAxis(part: Part, { step: id, face }: ReadPoint): boolean {
  const step = findStep(part, id)?.step
  return face === '' && step?.kind === 'shape' && step.shape === 'gear'
}

function Row({
  row: { readout, value, how, problem },
  points,
  users,
}: {
  readonly row: ReadRow
  readonly points: readonly PointOption[]
  readonly users: readonly string[]
}) {
  const part = usePart((state) => state.part)!
  const { edit } = usePart.getState()
  const definition = readoutOf(readout.kind)
  const set = (change: Partial<Omit<Readout, 'id' | 'name'>>) => edit({ type: 'set-readout', id: readout.id, change })
  const takes = definition?.takes ?? readout.of.length
  const place = (i: number) => {
    const at = readout.of[i]
    const key = at ? keyOf(at) : ''
    const options = definition?.of === 'gear' ? points.filter(({ point }) => isGearAxis(part, point)) : points
    const known = options.some((option) => option.key === key)
    return (
      <Choice
        label={`${i === 0 ? 'First' : 'Second'} place of ${readout.name}`}
        value={key}
        options={[
          ...(known ? [] : [{ value: key || ' ', label: at ? pointWords(part, at) : 'choose …' }]),
          ...options.map(({ key: value, label }) => ({ value, label })),
        ]}
        onChange={(next) => {
          const point = points.find((option) => option.key === next)?.point
          if (point) set({ of: Array.from({ length: takes }, (_, k) => (k === i ? point : (readout.of[k] ?? point))) })
        }}
      />
    )
  }
  const remove = () => {
    edit({ type: 'remove-readout', id: readout.id })
    sayDone(`The read-out ${readout.name} was removed.`)
  }
  return (
    <>
      <tr className="border-t border-line align-top">
        <NameCell
          name={readout.name}
          invalid={problem?.path[2] === 'name'}
          onRename={(name) => edit({ type: 'rename-readout', id: readout.id, name })}
        />
        <td className="px-2 py-1.5">
          <Choice
            label={`Kind of ${readout.name}`}
            value={readout.kind}
            options={readouts.map(({ kind, label, meaning }) => ({ value: kind, label, hint: meaning }))}
            onChange={(kind) => set({ kind, of: readout.of.slice(0, readoutOf(kind)!.takes) })}
          />{' '}
          {takes === 2 ? 'between the' : definition?.of === 'edge' ? '—' : 'of the'} {place(0)}
          {takes === 2 && <> and the {place(1)}</>}
          {how && <p className="text-xs text-ink-soft">{how}</p>}
        </td>
        <td className="figures px-2 py-1.5 text-right text-[1rem] whitespace-nowrap">
          {shownReading(readout.kind, value, part.unit)}
        </td>
        <RowEnd name={readout.name} users={users} onRemove={remove} />
      </tr>
      {problem && <ProblemRow columns={5}>{problem.text}</ProblemRow>}
    </>
  )
}
