import { findStep, type Part, type Readout, type ReadPoint } from '@makrel/core/document'
import { noReadings, type ReadRow, readRow, type SolidReadings } from '@makrel/core/planning'
import { readoutOf as kindOf, type ReadoutDefinition, readouts } from '@makrel/core/readouts'
import { useEffect, useState } from 'react'
import { create } from 'zustand'
import { checks } from '../channel/client.ts'
import { newId } from '../ids.ts'
import { addsMaterial } from '../make/operations.ts'
import { pointWords } from '../make/words.ts'
import { freeReadoutName, shownReading } from '../plan/Readouts.tsx'
import { useBuild } from '../state/build.ts'
import { useWorked } from '../state/built.ts'
import { sayDone } from '../state/done.ts'
import { type Selection, usePart } from '../state/part.ts'
import { IconButton } from '../ui/Button.tsx'
import { CloseIcon, ReadIcon } from '../ui/icons.tsx'
import { project, useView } from './view.ts'

/** Sizes are read off the drawing by pressing one face, or two one after the other. */
const useReading = create<{ readonly active: boolean; readonly picks: readonly ReadPoint[] }>()(() => ({
  active: false,
  picks: [],
}))

/** Whether a press on a face was taken for a reading; then it selects nothing. */
export function takenForReading(selection: Selection): boolean {
  const { active, picks } = useReading.getState()
  if (!active) return false
  if (selection.kind !== 'step') return true
  const { id: step, face = '', edge } = selection
  const pick: ReadPoint = edge === undefined ? { step, face } : { step, face, edge }
  // A third press begins anew; an edge is read by itself.
  const anew = picks.length >= 2 || edge !== undefined || picks.some((other) => other.edge !== undefined)
  useReading.setState({ picks: anew ? [pick] : [...picks, pick] })
  return true
}

/** The same, asked once. */
export function isReading(): boolean {
  return useReading.getState().active
}

/** Whether presses on the drawing are taken for readings. */
export function useIsReading(): boolean {
  return useReading((state) => state.active)
}

/** Begins to read sizes off the drawing. */
export function readSizes(): void {
  useReading.setState({ active: true, picks: [] })
}

export function ReadingButton() {
  const active = useReading((state) => state.active)
  return (
    <IconButton
      label="Read sizes off the drawing"
      pressed={active}
      onClick={() => useReading.setState({ active: !active, picks: [] })}
    >
      <ReadIcon size={15} />
    </IconButton>
  )
}

/** What the pressed faces come to, each with a name to keep it under; and what is kept, on the drawing. */
export function ReadOff() {
  const active = useReading((state) => state.active)
  // Left with the stage: another one has its own use for a press.
  useEffect(() => () => useReading.setState({ active: false, picks: [] }), [])
  return active ? <ActiveReading /> : null
}

function ActiveReading() {
  const picks = useReading((state) => state.picks)
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (event.key !== 'Escape') return
      // It is what Escape closes first; the selection stays.
      event.preventDefault()
      useReading.setState(picks.length > 0 ? { picks: [] } : { active: false })
    }
    window.addEventListener('keydown', pressed, true)
    return () => window.removeEventListener('keydown', pressed, true)
  }, [picks])
  const rows = useReadRows(picks)
  return (
    <>
      <ReadLines rows={rows} />
      <Panel picks={picks} rows={rows} />
    </>
  )
}

/** What faces, or an edge, come to: each read-out that they can have. */
export function useReadRows(picks: readonly ReadPoint[]): readonly ReadRow[] {
  const worked = useWorked()
  const part = usePart((state) => state.part)
  const shown = useBuild((state) => state.shown)
  const [readings, setReadings] = useState<SolidReadings['values']>({})
  const wanted = readouts
    .filter(
      ({ takes, of }) =>
        takes === picks.length &&
        (of === 'edge') === (picks[0]?.edge !== undefined) &&
        (of !== 'gear' || isGear(part, picks[0]!.step)),
    )
    .map((definition) => readoutOf(definition, asRead(definition, picks)))
  const key = JSON.stringify(picks)
  // biome-ignore lint/correctness/useExhaustiveDependencies: `wanted` is told by the picks
  useEffect(() => {
    if (wanted.length === 0 || !shown) return
    let current = true
    void checks()
      .call('read', { readouts: wanted }, shown)
      .then(
        (answer) => current && setReadings(answer),
        () => undefined,
      )
    return () => {
      current = false
    }
  }, [key, shown])
  return worked ? wanted.map((readout) => readRow(readout, worked.plan, { ...noReadings, values: readings })) : []
}

/** Whether a step is a gear with its teeth outside. */
function isGear(part: Part | undefined, id: string): boolean {
  const step = part && findStep(part, id)?.step
  return step?.kind === 'shape' && step.shape === 'gear' && addsMaterial(step)
}

/** What is read of a gear is read of its axis, whichever of its faces was pressed. */
function asRead({ of }: ReadoutDefinition, picks: readonly ReadPoint[]): readonly ReadPoint[] {
  return of === 'gear' ? picks.map(({ step }) => ({ step, face: '' })) : picks
}

function readoutOf({ kind }: ReadoutDefinition, picks: readonly ReadPoint[]): Readout {
  return { id: `pressed-${kind}`, name: '', kind, of: picks, note: '' }
}

function Panel({ picks, rows }: { readonly picks: readonly ReadPoint[]; readonly rows: readonly ReadRow[] }) {
  const part = usePart((state) => state.part)!
  const worked = useWorked()
  const { edit } = usePart.getState()
  const keep = (readout: Readout) => {
    const name = freeReadoutName(part)
    edit({ type: 'add-readout', readout: { ...readout, id: newId(), name } })
    sayDone(`Kept as ${name}: use it by this name, or give it another one on Plan.`)
  }
  const hasAxis = (pick: ReadPoint) => worked?.plan.geometry.has(pick.step)
  return (
    <section
      aria-label="Read off"
      className="absolute top-12 left-4 z-10 w-72 border border-ink-soft bg-sheet p-3 shadow-[0_6px_18px_rgb(20_40_44/0.16)]"
    >
      <div className="flex items-baseline justify-between">
        <h2 className="font-semibold">Read off</h2>
        <IconButton label="Stop reading" onClick={() => useReading.setState({ active: false, picks: [] })}>
          <CloseIcon size={14} />
        </IconButton>
      </div>
      {picks.length === 0 && (
        <p className="text-ink-soft">Click an edge or a face; a second face gives the distance to it.</p>
      )}
      <ol className="flex flex-col gap-0.5">
        {picks.map((pick, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the first and the second press
          <li key={i} className="flex items-baseline gap-2">
            <span className="figures text-ink-soft">{i + 1}</span>
            <span className="min-w-0 flex-1">{pointWords(part, pick)}</span>
            {hasAxis(pick) && pick.face !== '' && pick.edge === undefined && (
              <button
                type="button"
                className="text-xs text-ink-soft hover:text-mackerel"
                onClick={() => useReading.setState({ picks: picks.with(i, { ...pick, face: '' }) })}
              >
                its axis
              </button>
            )}
          </li>
        ))}
      </ol>
      {rows.length > 0 && (
        <dl className="mt-2 border-t border-line pt-1">
          {rows
            .filter(({ value }) => value !== undefined)
            .map(({ readout, value, how }) => (
              <div key={readout.kind} className="flex items-baseline gap-2 py-0.5">
                <dt className="min-w-0 flex-1" title={how}>
                  {kindOf(readout.kind)?.label ?? readout.kind}
                </dt>
                <dd className="figures text-[1rem]">{shownReading(readout.kind, value, part.unit)}</dd>
                <button
                  type="button"
                  aria-label={`Keep the ${kindOf(readout.kind)?.label ?? readout.kind}`}
                  className="text-mackerel underline underline-offset-2"
                  onClick={() => keep(readout)}
                >
                  keep
                </button>
              </div>
            ))}
        </dl>
      )}
      {rows.length > 0 && rows.every(({ value }) => value === undefined) && (
        <p className="mt-2 text-ink-soft">{rows.find(({ problem }) => problem)?.problem?.text ?? 'reading …'}</p>
      )}
    </section>
  )
}

/** A line between the ends of each distance: of what is being read, and of what is kept, with its name. */
function ReadLines({ rows }: { readonly rows: readonly ReadRow[] }) {
  const part = usePart((state) => state.part)!
  const worked = useWorked()
  const view = useView()
  const lines = [...(worked?.readouts ?? []), ...rows].flatMap((row) => {
    const [a, b] = row.between?.map((p) => project(view, p)) ?? []
    return a && b ? [{ row, a, b }] : []
  })
  return (
    <div className="pointer-events-none absolute inset-0 overflow-hidden">
      <svg width={view.width} height={view.height} aria-hidden="true" stroke="var(--color-mackerel)" strokeWidth="1.5">
        {lines.map(({ row, a, b }) => (
          <g key={row.readout.id}>
            <line x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} />
            <circle cx={a[0]} cy={a[1]} r="3" fill="var(--color-sheet)" />
            <circle cx={b[0]} cy={b[1]} r="3" fill="var(--color-sheet)" />
          </g>
        ))}
      </svg>
      {lines.map(({ row, a, b }) => (
        <span
          key={row.readout.id}
          className="figures absolute -translate-x-1/2 -translate-y-1/2 bg-sheet/90 px-1 text-[0.9375rem] text-mackerel"
          style={{ left: (a[0] + b[0]) / 2, top: (a[1] + b[1]) / 2 }}
        >
          {row.readout.name} {shownReading(row.readout.kind, row.value, part.unit)}
        </span>
      ))}
    </div>
  )
}
