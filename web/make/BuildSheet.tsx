import { allSteps, findStep } from '@makrel/core/document'
import { brokenMeasures, rootProblems } from '@makrel/core/planning'
import { useEffect, useRef, useState } from 'react'
import { Link } from 'react-router'
import { expectVariant, useBuild } from '../state/build.ts'
import { useWorked } from '../state/built.ts'
import { usePart } from '../state/part.ts'
import { IconButton } from '../ui/Button.tsx'
import { Choice } from '../ui/Choice.tsx'
import { AddIcon, RemoveIcon } from '../ui/icons.tsx'
import { RankMark } from '../ui/RankMark.tsx'
import { SidePanel } from '../ui/SidePanel.tsx'
import { AddField } from './AddField.tsx'
import { OutlineList } from './OutlineList.tsx'
import { PieceColour } from './PieceColour.tsx'
import { StepList } from './StepList.tsx'
import { SelectionTools } from './StepTools.tsx'
import { Sorting } from './sorting.tsx'
import { addPiece, removePiece } from './stepActions.ts'

/** From this many steps on, lines that are not selected fold to one row. */
const foldFrom = 14

/** Measures that cannot be computed are named once, with the way to them; what hangs on them is shown as it was last. */
function BrokenNotice() {
  const worked = useWorked()
  const broken = worked && brokenMeasures(worked.problems)
  if (!worked || !broken) return null
  const { measures } = worked.resolved.part
  return (
    <div role="alert" className="border-b border-rust px-5 py-2">
      {broken.roots.map(({ path, text }) => (
        <p key={path[1]} className="flex items-start gap-2">
          <span className="mt-0.5">
            <RankMark rank="fault" />
          </span>
          <span>
            <Link to={`../plan#measure-${path[1]}`} relative="path" className="underline hover:text-mackerel">
              Measure {measures.find(({ id }) => id === path[1])?.name}
            </Link>
            : {text}
          </span>
        </p>
      ))}
      {broken.waiting > 0 && (
        <p className="mt-1 text-ink-soft">
          {broken.waiting === 1 ? 'One line waits for it and is' : `${broken.waiting} lines wait for it and are`} shown
          as before.
        </p>
      )}
    </div>
  )
}

/** How often a piece is printed apart: more than once where a step splits it. Told by itself, as the sheet is there before the solids are. */
function PrintedAs({ piece }: { readonly piece: string }) {
  const solids = useBuild(({ pieces }) => pieces.filter(({ of }) => of === piece).length)
  return solids < 2 ? 'prints as one' : `prints as ${solids} pieces`
}

/** The part as numbered sentences, piece by piece, with the field that adds to it at its foot. */
export function BuildSheet() {
  const part = usePart((state) => state.part)!
  const selection = usePart((state) => state.selection)
  const others = usePart((state) => state.others)
  const worked = useWorked()
  const [chosen, setChosen] = useState<string>()
  const scroller = useRef<HTMLDivElement>(null)
  const { edit } = usePart.getState()
  const selectedPiece = part.pieces.find(
    (piece) => piece.id === selection?.id || (selection && findStep(part, selection.id)?.piece.id === piece.id),
  )
  useEffect(() => {
    if (selectedPiece) setChosen(selectedPiece.id)
  }, [selectedPiece])
  if (!worked) return null
  const target = part.pieces.find((piece) => piece.id === chosen) ?? part.pieces[0]!
  const steps = allSteps(part)
  const several =
    [selection?.id, ...others].length > 1 ? steps.filter(({ id }) => id === selection?.id || others.includes(id)) : []

  return (
    <SidePanel label="Build sheet" className="flex flex-col">
      <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto pb-4">
        <BrokenNotice />
        {part.variants.length > 0 && (
          <p className="pt-3 pl-5 text-ink-soft" onPointerEnter={expectVariant} onFocus={expectVariant}>
            variant{' '}
            <Choice
              label="Variant"
              value={part.variant || 'typed'}
              options={[
                { value: 'typed', label: 'as typed' },
                ...part.variants.map(({ id, name }) => ({ value: id, label: name })),
              ]}
              onChange={(id) => edit({ type: 'choose-variant', id: id === 'typed' ? '' : id })}
            />
          </p>
        )}
        {part.pieces.map((piece) => (
          <section key={piece.id} aria-label={piece.name}>
            <div
              className={`flex items-center gap-2 pt-3 pr-4 pb-1 pl-5 ${piece.id === target.id ? '' : 'text-ink-soft'}`}
            >
              <PieceColour piece={piece} />
              <PieceName id={piece.id} name={piece.name} onFocus={() => setChosen(piece.id)} />
              <span className="text-xs text-ink-soft">
                {piece.steps.length > 0 && <PrintedAs piece={piece.id} />}
                {piece.steps.length > 0 && piece.id === target.id && part.pieces.length > 1 && ' · new steps go here'}
              </span>
              {part.pieces.length > 1 && (
                <IconButton label={`Remove ${piece.name}`} className="ml-auto" onClick={() => removePiece(piece.id)}>
                  <RemoveIcon size={14} />
                </IconButton>
              )}
            </div>
            <Sorting>
              <StepList
                part={part}
                steps={piece.steps}
                resolved={worked.resolved}
                plan={worked.plan}
                problems={rootProblems(worked.problems)}
                folds={steps.length >= foldFrom}
                scroller={scroller}
              />
            </Sorting>
            {piece.steps.length === 0 && (
              <p className="px-5 py-3 text-base text-ink-soft">
                {piece.id === target.id
                  ? 'Nothing here yet. Type what to begin with below — for example “plate 60 40 5” — and press Enter.'
                  : 'Nothing here yet.'}
              </p>
            )}
          </section>
        ))}
        <button
          type="button"
          onClick={() => addPiece()}
          className="mt-3 ml-5 inline-flex items-center gap-1.5 text-ink-soft hover:text-mackerel"
        >
          <AddIcon size={14} /> another piece
        </button>
        <OutlineList />
      </div>
      {several.length > 1 && <SelectionTools count={several.length} allMuted={several.every((step) => step.mute)} />}
      <AddField pieceId={target.id} />
    </SidePanel>
  )
}

function PieceName({ id, name, onFocus }: { readonly id: string; readonly name: string; onFocus(): void }) {
  const [draft, setDraft] = useState(name)
  useEffect(() => setDraft(name), [name])
  return (
    <input
      aria-label="Name of this piece"
      value={draft}
      maxLength={120}
      onFocus={onFocus}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={() =>
        draft.trim() &&
        draft !== name &&
        usePart.getState().edit({ type: 'set-piece', id, change: { name: draft.trim() } })
      }
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      className="[field-sizing:content] border-b border-transparent bg-transparent font-semibold hover:border-line focus:border-mackerel"
    />
  )
}
