import type { Plan, ResolvedPart } from '@makrel/core/build'
import { copiedStep, type Effect, type Part, restFor, type Step } from '@makrel/core/document'
import type { Problem } from '@makrel/core/problems'
import { DropdownMenu } from 'radix-ui'
import { memo, useEffect, useRef, useState } from 'react'
import { newId } from '../ids.ts'
import { usePart } from '../state/part.ts'
import { IconButton } from '../ui/Button.tsx'
import { Choice } from '../ui/Choice.tsx'
import {
  CopyIcon,
  GhostIcon,
  MoreIcon,
  MoveDownIcon,
  MoveUpIcon,
  MuteIcon,
  RemoveIcon,
  RepeatIcon,
} from '../ui/icons.ts'
import { ProblemLines } from '../ui/ProblemLines.tsx'
import { PlacePhrase, seatOptions, sidesOf } from './PlacePhrase.tsx'
import { newRepeats, RepeatPhrase } from './RepeatPhrase.tsx'
import { removeStep } from './removeStep.ts'
import { Sentence, sentenceParts } from './Sentence.tsx'
import { effectWords, stepTitle } from './words.ts'

const effectLook: Readonly<Record<Effect, string>> = {
  add: 'border-ink bg-sheet text-ink',
  cut: 'border-plum bg-plum text-sheet',
  keep: 'border-moss bg-moss text-sheet',
}

interface Props {
  readonly part: Part
  readonly step: Step
  readonly number: number
  readonly resolved: ResolvedPart
  readonly plan: Plan
  readonly problems: readonly Problem[]
  readonly selected: boolean
  readonly folded: boolean
}

/** One line of the sheet: its number, its sentence, and what is wrong with it. */
export const StepLine = memo(function StepLine({
  part,
  step,
  number,
  resolved,
  plan,
  problems,
  selected,
  folded,
}: Props) {
  const { select } = usePart.getState()
  const [more, setMore] = useState(false)
  const line = useRef<HTMLLIElement>(null)
  const worked = resolved.steps.get(step.id)
  const shape = worked?.shape
  const names = resolved.measures.names
  const sides = sidesOf(plan, step.id)
  const owner = { kind: 'step', id: step.id } as const

  useEffect(() => {
    if (selected) line.current?.scrollIntoView({ block: 'nearest' })
    else setMore(false)
  }, [selected])

  const parts = shape ? sentenceParts(shape.sentence, worked.values, step.fields, shape.fields) : []
  // "round hole ⌀": the first word of the sentence names the shape and is set apart.
  const [head, ...rest] = parts
  const rare = shape ? Object.keys(shape.fields).filter((field) => shape.fields[field]!.rare) : []
  const shownRest = rest.filter((_, i) => more || !isRareWord(rest, i, rare, step, shape?.fields))

  return (
    <li
      ref={line}
      data-step={step.id}
      aria-current={selected}
      className={`relative flex gap-3 py-2 pr-4 pl-5 ${selected ? 'bg-mackerel-wash before:absolute before:inset-y-0 before:left-0 before:w-[3px] before:bg-mackerel' : 'hover:bg-[#f3f6f4]'} ${step.mute ? 'opacity-60' : ''}`}
      onPointerDown={(event) => {
        if (!selected && event.button === 0) select({ kind: 'step', id: step.id })
      }}
    >
      <button
        type="button"
        aria-label={`Step ${number}, ${stepTitle(step)}`}
        aria-pressed={selected}
        onClick={() => select({ kind: 'step', id: step.id })}
        className={`figures mt-px inline-flex h-6 w-6 shrink-0 items-center justify-center rounded-full border text-sm ${effectLook[step.effect]}`}
      >
        {number}
      </button>
      <div className="min-w-0 flex-1">
        {folded ? (
          <p className="truncate text-base">{stepTitle(step)}</p>
        ) : (
          <p className="relative text-base leading-[26px]">
            {step.name && <span className="mr-1.5 text-xs text-ink-soft">{step.name}:</span>}
            {shape ? (
              <>
                <Choice
                  label="Effect"
                  value={step.effect}
                  shown={effectWords(step.effect, shape.label)}
                  options={[
                    { value: 'add', label: 'Add', hint: 'material' },
                    { value: 'cut', label: 'Cut', hint: 'take away' },
                    { value: 'keep', label: 'Keep', hint: 'only what lies inside' },
                  ]}
                  onChange={(effect) => {
                    usePart.getState().editAll([
                      { type: 'set-step', id: step.id, change: { effect } },
                      { type: 'set-place', id: step.id, change: { rest: restFor(effect) } },
                    ])
                  }}
                />{' '}
                <strong className="font-semibold">{typeof head === 'string' ? head : shape.label}</strong>
                <Sentence
                  owner={owner}
                  fields={shape.fields}
                  texts={step.fields}
                  parts={shownRest}
                  names={names}
                  problems={problems}
                />
                <PlacePhrase
                  id={step.id}
                  place={step.place}
                  seats={selected ? seatOptions(part, plan, resolved, step.id) : []}
                  more={more}
                  names={names}
                  sides={sides}
                  problems={problems}
                />
                {step.repeats.map((repeat, i) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: repeats have no identity but their order
                  <RepeatPhrase key={i} id={step.id} index={i} repeat={repeat} names={names} sides={sides} />
                ))}
                .
              </>
            ) : (
              <>A shape of kind “{step.shape}”.</>
            )}
          </p>
        )}
        <ProblemLines problems={problems} />
        {step.mute && <p className="text-xs text-ink-soft">Muted: left out of the solid.</p>}
        {selected && <StepTools part={part} step={step} number={number} more={more} onMore={() => setMore(!more)} />}
      </div>
    </li>
  )
})

/** Rare values, and the words that lead to them, wait behind "more" while they have their plain value. */
function isRareWord(
  parts: readonly (string | { field: string })[],
  index: number,
  rare: readonly string[],
  step: Step,
  fields: Readonly<Record<string, { default: string }>> | undefined,
): boolean {
  const isRare = (part: string | { field: string } | undefined) =>
    typeof part === 'object' &&
    rare.includes(part.field) &&
    (step.fields[part.field] ?? '') === fields?.[part.field]?.default
  const part = parts[index]
  if (typeof part === 'object') return isRare(part)
  return isRare(parts[index + 1])
}

function StepTools({
  part,
  step,
  number,
  more,
  onMore,
}: {
  readonly part: Part
  readonly step: Step
  readonly number: number
  readonly more: boolean
  onMore(): void
}) {
  const { edit, select } = usePart.getState()
  const piece = part.pieces.find((candidate) => candidate.steps.some(({ id }) => id === step.id))!
  const set = (change: { ghost?: boolean; mute?: boolean }) => edit({ type: 'set-step', id: step.id, change })
  const copy = () => {
    const id = newId()
    edit({ type: 'add-step', piece: piece.id, step: copiedStep(step, id), after: step.id })
    select({ kind: 'step', id }, 'across')
  }
  return (
    <div role="toolbar" aria-label={`Step ${number}`} className="mt-1.5 -ml-1.5 flex items-center gap-0.5">
      <IconButton label="More values" pressed={more} onClick={onMore}>
        <MoreIcon size={15} />
      </IconButton>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild>
          <IconButton label="Repeat" disabled={step.repeats.length >= 3}>
            <RepeatIcon size={15} />
          </IconButton>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            sideOffset={4}
            className="z-50 rounded-sm border border-ink-soft bg-sheet py-1 shadow-[0_6px_18px_rgb(20_40_44/0.16)]"
          >
            {(['row', 'ring'] as const).map((kind) => (
              <DropdownMenu.Item
                key={kind}
                className="cursor-pointer px-4 py-1.5 outline-none data-[highlighted]:bg-mackerel-wash data-[highlighted]:text-mackerel"
                onSelect={() => {
                  const index = step.repeats.length
                  edit({ type: 'set-repeat', id: step.id, index, repeat: newRepeats[kind] })
                  setTimeout(() => select({ kind: 'step', id: step.id }, `repeat${index}.count`), 60)
                }}
              >
                in a {kind}
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <IconButton label="Ghost: show its own shape" pressed={step.ghost} onClick={() => set({ ghost: !step.ghost })}>
        <GhostIcon size={15} />
      </IconButton>
      <IconButton label="Mute: leave it out" pressed={step.mute} onClick={() => set({ mute: !step.mute })}>
        <MuteIcon size={15} />
      </IconButton>
      <IconButton
        label="Earlier in the sheet"
        disabled={number === 1}
        onClick={() => edit({ type: 'move-step', id: step.id, by: -1 })}
      >
        <MoveUpIcon size={15} />
      </IconButton>
      <IconButton
        label="Later in the sheet"
        disabled={number === piece.steps.length}
        onClick={() => edit({ type: 'move-step', id: step.id, by: 1 })}
      >
        <MoveDownIcon size={15} />
      </IconButton>
      <IconButton label="Copy" onClick={copy}>
        <CopyIcon size={15} />
      </IconButton>
      <IconButton label="Remove" onClick={() => removeStep(step.id)}>
        <RemoveIcon size={15} />
      </IconButton>
      <NameField step={step} />
    </div>
  )
}

function NameField({ step }: { readonly step: Step }) {
  const [draft, setDraft] = useState(step.name)
  useEffect(() => setDraft(step.name), [step.name])
  return (
    <input
      aria-label="Name of this step"
      placeholder="name…"
      value={draft}
      maxLength={120}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={() =>
        draft !== step.name &&
        usePart.getState().edit({ type: 'set-step', id: step.id, change: { name: draft.trim() } })
      }
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      className="ml-1 h-6 w-24 min-w-0 flex-1 border-b border-transparent bg-transparent px-1 text-xs hover:border-line focus:border-mackerel"
    />
  )
}
