import { drawingFormats, drawnInto, fileName } from '@makrel/core/exchange'
import type { SolvedOutline } from '@makrel/core/outline'
import { ProblemError } from '@makrel/core/problems'
import { useRef, useState } from 'react'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
import { DownloadIcon, OpenIcon } from '../ui/icons.tsx'
import { say } from '../ui/Notice.tsx'
import { ProblemLines } from '../ui/ProblemLines.tsx'
import { saveBytes } from '../ui/saveBytes.ts'
import { fitAll } from './fit.ts'
import { Section } from './Section.tsx'
import { change, settledNow, useOutline } from './state.ts'

interface Taken {
  readonly name: string
  readonly text: string
  readonly notes: readonly string[]
}

/** Drawings from files into the outline, and the outline into files. */
export function Files({ solved }: { readonly solved: SolvedOutline }) {
  const chooser = useRef<HTMLInputElement>(null)
  const [taken, setTaken] = useState<Taken>()
  const [fault, setFault] = useState<ProblemError>()
  const name = solved.outline.name
  const read = (fileNameGiven: string, text: string, mmPerUnit?: number) => {
    const outline = settledNow()
    if (!outline) return
    try {
      const found = formatFor(fileNameGiven, text).read(text, { mmPerUnit })
      const drawn = drawnInto(outline, found)
      if (!change(drawn.outline)) return
      useOutline.setState({ selected: [] })
      fitAll()
      setFault(undefined)
      setTaken({ name: fileNameGiven, text, notes: [...found.notes, ...drawn.notes] })
      say({
        text: `${drawn.ids.length} curves were taken over from ${fileNameGiven}.`,
        action: { label: 'Undo', run: () => usePart.getState().undo() },
      })
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      setTaken(undefined)
      setFault(error)
    }
  }
  return (
    <Section title="Files">
      <div className="flex flex-wrap gap-1.5">
        <Button className="h-7" onClick={() => chooser.current?.click()}>
          <OpenIcon size={14} /> take over SVG or DXF …
        </Button>
        <input
          ref={chooser}
          type="file"
          accept=".svg,.dxf,image/svg+xml"
          aria-label="SVG or DXF file to take over"
          hidden
          onChange={async (event) => {
            const file = event.target.files?.[0]
            event.target.value = ''
            if (file) read(file.name, await file.text())
          }}
        />
        {drawingFormats.map((format) => (
          <Button
            key={format.id}
            className="h-7"
            disabled={solved.curves.length === 0}
            onClick={() =>
              saveBytes(
                `${fileName(name)}.${format.extension}`,
                format.mediaType,
                new TextEncoder().encode(format.write(solved.curves, name)),
              )
            }
          >
            <DownloadIcon size={14} /> {format.label}
          </Button>
        ))}
      </div>
      {fault && <ProblemLines problems={[fault.toProblem(['outlines', solved.outline.id])]} />}
      {taken?.notes.map((note) => (
        <p key={note} className="mt-1 text-ink-soft">
          {note}
        </p>
      ))}
      {taken && (
        <p className="mt-1 text-ink-soft">
          Was it drawn in another unit? Read it again with one of its units as{' '}
          {(
            [
              ['a millimetre', 1],
              ['an inch', 25.4],
            ] as const
          ).map(([words, mm], i) => (
            <span key={words}>
              {i > 0 && ' or '}
              <button
                type="button"
                className="text-mackerel underline"
                onClick={() => {
                  usePart.getState().undo()
                  read(taken.name, taken.text, mm)
                }}
              >
                {words}
              </button>
            </span>
          ))}
          .
        </p>
      )}
    </Section>
  )
}

/** By the file's name or, where that does not say, by how it begins. */
function formatFor(name: string, text: string) {
  const [svg, dxf] = drawingFormats
  const known = drawingFormats.find(({ extension }) => name.toLowerCase().endsWith(`.${extension}`))
  return known ?? (text.trimStart().startsWith('<') ? svg : dxf)
}
