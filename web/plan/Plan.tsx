import { fitMeanings, fitNames, fitPairs, originText } from '@makrel/core/fits'
import { formatLength } from '@makrel/core/units'
import { useEffect, useState } from 'react'
import { usePart } from '../state/part.ts'
import { dateText } from '../ui/dates.ts'
import { Figures } from '../ui/Figures.tsx'
import { ThingChoice } from '../workshop/ThingChoice.tsx'
import { LeastWall } from './LeastWall.tsx'
import { Measures } from './Measures.tsx'
import { PartColour } from './PartColour.tsx'
import { UnitChoice } from './UnitChoice.tsx'

/** What the part is for and what was measured, before anything is built. */
export function Plan() {
  const part = usePart((state) => state.part)!
  const { printer } = part
  return (
    <main className="min-h-0 flex-1 overflow-y-auto bg-ground">
      <div className="mx-auto grid max-w-[73.75rem] grid-cols-[300px_1fr] gap-8 px-6 py-6 max-[68.75rem]:grid-cols-1">
        <section aria-label="The part" className="flex flex-col gap-4">
          <h2 className="text-lg font-semibold">The part</h2>
          <Name />
          <Note />
          <Field label="Units">
            <UnitChoice />
          </Field>
          <ThingChoice kind="materials" />
          <Field label={part.pieces.length > 1 ? 'Colour of all pieces' : 'Colour'}>
            <div>
              <PartColour part={part} />
            </div>
          </Field>
          <ThingChoice kind="printers" />
          <Figures
            rows={[
              ['Bed', printer.bed.map((mm) => formatLength(mm, part.unit)).join(' × ')],
              ['Line width', formatLength(printer.lineWidth, part.unit)],
              ['Layer height', formatLength(printer.layerHeight, part.unit)],
              ['Least gap', formatLength(printer.leastGap, part.unit)],
            ]}
          />
          <Field label="Walls">
            <LeastWall />
          </Field>
          <table className="w-full border border-line bg-sheet text-left">
            <caption className="pb-1 text-left font-semibold">Fits on this printer, gap per side</caption>
            <thead className="text-xs text-ink-soft">
              <tr>
                <th className="px-3 py-1 font-medium">Fit</th>
                <th className="px-3 py-1 text-right font-medium">round</th>
                <th className="px-3 py-1 text-right font-medium">flat</th>
              </tr>
            </thead>
            <tbody>
              {fitNames.map((fit) => (
                <tr key={fit} className="border-t border-line" title={fitMeanings[fit]}>
                  <th scope="row" className="px-3 py-1 font-medium">
                    {fit}
                    <span className="block text-xs font-normal text-ink-soft">{fitMeanings[fit]}</span>
                  </th>
                  {fitPairs.map((pair) => (
                    <td
                      key={pair}
                      className="figures px-3 py-1 text-right align-top text-[0.9375rem]"
                      title={originText(printer.fits[fit][pair].origin, (iso) => dateText(new Date(iso)))}
                    >
                      {formatLength(printer.fits[fit][pair].gap, part.unit)}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </section>
        <Measures />
      </div>
    </main>
  )
}

function Field({ label, children }: { readonly label: string; readonly children: React.ReactNode }) {
  return (
    <div>
      <p className="mb-1 font-semibold">{label}</p>
      {children}
    </div>
  )
}

function Name() {
  const name = usePart((state) => state.part!.name)
  const [draft, setDraft] = useState(name)
  useEffect(() => setDraft(name), [name])
  return (
    <Field label="Name">
      <input
        aria-label="Name"
        value={draft}
        maxLength={120}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={() => {
          if (draft.trim()) usePart.getState().edit({ type: 'rename', name: draft.trim() })
          else setDraft(name)
        }}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        className="h-8 w-full rounded-sm border border-line bg-sheet px-2"
      />
    </Field>
  )
}

function Note() {
  const note = usePart((state) => state.part!.note)
  const [draft, setDraft] = useState(note)
  useEffect(() => setDraft(note), [note])
  return (
    <Field label="What it is for">
      <textarea
        aria-label="What it is for"
        value={draft}
        maxLength={2000}
        rows={3}
        placeholder="What broke, what it must carry, what it was measured on."
        onChange={(event) => setDraft(event.target.value)}
        onBlur={() => draft !== note && usePart.getState().edit({ type: 'describe', note: draft })}
        className="w-full resize-y rounded-sm border border-line bg-sheet px-2 py-1.5"
      />
    </Field>
  )
}
