import { drawingFormats, drawnInto, fileName } from '@makrel/core/exchange'
import type { SolvedOutline } from '@makrel/core/outline'
import { type Problem, ProblemError } from '@makrel/core/problems'
import { useRef, useState } from 'react'
import { reader } from '../channel/client.ts'
import { sayDone } from '../state/done.ts'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'
import { DownloadIcon, OpenIcon } from '../ui/icons.tsx'
import { say } from '../ui/Notice.tsx'
import { ProblemLines } from '../ui/ProblemLines.tsx'
import { saveBytes } from '../ui/saveBytes.ts'
import { fitAll } from './fit.ts'
import { SheetSection } from './SheetSection.tsx'
import { change, settledNow, useOutline } from './state.ts'

interface Imported {
  readonly name: string
  readonly text: string
  readonly notes: readonly string[]
}

/** Drawings from files into the outline, and the outline into files. */
export function Files({ solved }: { readonly solved: SolvedOutline }) {
  const chooser = useRef<HTMLInputElement>(null)
  const [imported, setImported] = useState<Imported>()
  const [fault, setFault] = useState<Problem>()
  const name = solved.outline.name
  const read = async (fileNameGiven: string, text: string, mmPerUnit?: number) => {
    const path = ['outlines', solved.outline.id]
    const fails = (problem: Problem) => {
      setImported(undefined)
      setFault(problem)
    }
    try {
      const found = await reader().call('readDrawing', { name: fileNameGiven, text, mmPerUnit })
      const outline = settledNow()
      // The page may have gone on to another outline meanwhile.
      if (outline?.id !== solved.outline.id) return
      if (!found.ok) return fails({ ...found.problem, path })
      const drawn = drawnInto(outline, found.value)
      if (!change(drawn.outline)) return
      useOutline.setState({ selected: [] })
      fitAll()
      setFault(undefined)
      setImported({ name: fileNameGiven, text, notes: [...found.value.notes, ...drawn.notes] })
      sayDone(`${drawn.ids.length} curves were imported from ${fileNameGiven}.`)
    } catch (error) {
      if (error instanceof ProblemError) fails(error.toProblem(path))
      else say({ text: `${fileNameGiven} was not read. ${(error as Error).message}`, fault: true })
    }
  }
  return (
    <SheetSection title="Files">
      <div className="flex flex-wrap gap-1.5">
        <Button className="h-7" onClick={() => chooser.current?.click()}>
          <OpenIcon size={14} /> import SVG or DXF …
        </Button>
        <input
          ref={chooser}
          type="file"
          accept=".svg,.dxf,image/svg+xml"
          aria-label="SVG or DXF file to import"
          hidden
          onChange={async (event) => {
            const file = event.target.files?.[0]
            event.target.value = ''
            if (file) void read(file.name, await file.text())
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
      {fault && <ProblemLines problems={[fault]} />}
      {imported?.notes.map((note) => (
        <p key={note} className="mt-1 text-ink-soft">
          {note}
        </p>
      ))}
      {imported && (
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
                  void read(imported.name, imported.text, mm)
                }}
              >
                {words}
              </button>
            </span>
          ))}
          .
        </p>
      )}
    </SheetSection>
  )
}
