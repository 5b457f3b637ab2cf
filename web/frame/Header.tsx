import { allSteps } from '@makrel/core/document'
import { layerCount } from '@makrel/core/layers'
import type { FindingRank } from '@makrel/core/proof'
import { memo, useEffect, useState } from 'react'
import { Link, NavLink } from 'react-router'
import { usePrinted } from '../move/posed.ts'
import { useBuild } from '../state/build.ts'
import { useHandOffWord, useProofWord } from '../state/built.ts'
import { type SaveState, usePart } from '../state/part.ts'
import { IconButton } from '../ui/Button.tsx'
import { timeText } from '../ui/dates.ts'
import { RedoIcon, UndoIcon } from '../ui/icons.tsx'
import { RankMark, rankColour } from '../ui/RankMark.tsx'
import { useLatePart } from '../viewport/late.ts'
import { Help } from './Help.tsx'
import { History } from './History.tsx'
import { Mark } from './Mark.tsx'
import { stages } from './stages.ts'
import { wholeBox } from './whole.ts'

/** Mark, name, stages with their states, undo and redo: one line over every stage. */
export function Header() {
  const { undo, redo } = usePart.getState()
  const canUndo = usePart((state) => state.past.length > 0)
  const canRedo = usePart((state) => state.future.length > 0)
  return (
    <header className="flex min-h-[3.25rem] max-[50rem]:flex-wrap shrink-0 items-stretch border-b border-ink bg-sheet">
      <Link
        to="/"
        aria-label="Shelf"
        className="flex items-center gap-2.5 border-r border-line pr-5 pl-5 text-base font-semibold hover:text-mackerel"
      >
        <Mark />
        Makrel
      </Link>
      <div className="flex w-[20.625rem] min-w-0 shrink items-center max-[50rem]:w-0 max-[50rem]:flex-1 max-[50rem]:py-1.5 gap-2 px-4">
        <NameField />
        <History
          trigger={
            <button
              type="button"
              aria-label="History"
              title="Earlier versions"
              className="rounded-sm px-1 hover:bg-mackerel-wash"
            >
              <Saved />
            </button>
          }
        />
      </div>
      <Stages />
      <div className="flex items-center gap-1 border-l border-line px-4">
        <IconButton label="Undo (Ctrl+Z)" disabled={!canUndo} onClick={undo}>
          <UndoIcon size={16} />
        </IconButton>
        <IconButton label="Redo (Ctrl+Shift+Z)" disabled={!canRedo} onClick={redo}>
          <RedoIcon size={16} />
        </IconButton>
        <Help />
      </div>
    </header>
  )
}

/** The stages in their order, each with its state. */
function Stages() {
  const states = useStageStates()
  const isOld = useBuild(({ slow }) => slow)
  return (
    <nav
      aria-label="Stages"
      aria-busy={isOld}
      className={`mx-auto flex max-[50rem]:order-last max-[50rem]:h-9 max-[50rem]:w-full max-[50rem]:flex-wrap max-[50rem]:justify-center max-[50rem]:border-t max-[50rem]:border-line ${isOld ? '[&_.text-xs]:italic' : ''}`}
    >
      {stages.map(({ path, label }) => (
        <StageLink key={path} path={path} label={label} {...states[path]!} />
      ))}
    </nav>
  )
}

interface StageState {
  readonly text: string
  /** of what the proof found */
  readonly rank?: FindingRank | undefined
}

/** Drawn anew where it says something else only: an address takes a link long to work out. */
const StageLink = memo(function StageLink({
  path,
  label,
  text,
  rank,
}: StageState & { readonly path: string; readonly label: string }) {
  return (
    <NavLink
      to={path}
      className={({ isActive }) =>
        `relative flex flex-col justify-center px-4 max-[62.5rem]:px-3 before:absolute before:left-0 before:h-4 before:w-px before:bg-line first:before:hidden hover:text-mackerel ${isActive ? 'after:absolute after:inset-x-2 after:-bottom-px after:h-[3px] after:bg-mackerel' : ''}`
      }
    >
      <span className="leading-tight font-semibold whitespace-nowrap">{label}</span>
      <span className="text-xs leading-tight whitespace-nowrap text-ink-soft max-[62.5rem]:hidden">
        {rank ? (
          <span className={`inline-flex items-center gap-1 ${rankColour(rank)}`}>
            <RankMark rank={rank} size={11} />
            {text}
          </span>
        ) : (
          text
        )}
      </span>
    </NavLink>
  )
})

function useStageStates(): Record<string, StageState> {
  const part = useLatePart()
  const pieces = useBuild((state) => state.pieces)
  const steps = allSteps(part).length
  const box = wholeBox(pieces)
  const bodies = Math.max(part.pieces.length, pieces.length)
  const proof = useProofWord()
  const handOff = useHandOffWord()
  const counted = (count: number, word: string) =>
    count === 0 ? `no ${word}s` : `${count} ${word}${count === 1 ? '' : 's'}`
  const printed = usePrinted()
  const printedBox = printed ? printed.posed?.box : box
  const layers = printedBox ? layerCount(printedBox.max[2], part.printer) : 0
  const joints = part.joints.length
  return {
    plan: { text: counted(part.measures.length, 'measure') },
    make: { text: counted(steps, 'step') },
    move: { text: joints > 0 ? counted(joints, 'joint') : bodies < 2 ? 'one piece' : `${bodies} pieces` },
    proof: proof ?? { text: '…' },
    layers: { text: counted(layers, 'layer') },
    'hand-off': { text: steps === 0 ? 'nothing yet' : handOff },
  }
}

function NameField() {
  const name = usePart((state) => state.part!.name)
  const [draft, setDraft] = useState(name)
  useEffect(() => setDraft(name), [name])
  const commit = () => {
    if (draft.trim() && draft !== name) usePart.getState().edit({ type: 'rename', name: draft.trim().slice(0, 120) })
    else setDraft(name)
  }
  return (
    <input
      aria-label="Part name"
      value={draft}
      maxLength={120}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur()
        if (event.key === 'Escape') setDraft(name)
      }}
      className="min-w-12 rounded-sm border border-transparent bg-transparent px-1 text-base font-semibold text-ellipsis [field-sizing:content] hover:border-line"
    />
  )
}

function Saved() {
  const save = usePart((state) => state.save)
  return (
    <span
      aria-live="polite"
      className={`shrink-0 text-xs whitespace-nowrap ${save.kind === 'failed' ? 'text-rust' : 'text-ink-soft'}`}
      title={save.kind === 'failed' ? save.message : undefined}
    >
      {savedText(save)}
    </span>
  )
}

function savedText(save: SaveState): string {
  switch (save.kind) {
    case 'kept':
      return `saved ${timeText(save.at)}`
    case 'saving':
      return 'saving …'
    case 'failed':
      return 'not saved yet'
    case 'stale':
      return 'two versions'
  }
}
