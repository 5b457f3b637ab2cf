import { hasBody, isBundle, kindWord, type Step } from '@makrel/core/document'
import { repeats } from '@makrel/core/repeats'
import { DropdownMenu } from 'radix-ui'
import type { ReactNode } from 'react'
import { memo, useEffect, useState } from 'react'
import { usePart } from '../state/part.ts'
import { IconButton } from '../ui/Button.tsx'
import {
  BundleIcon,
  CopyIcon,
  DissolveIcon,
  GhostIcon,
  InspectIcon,
  MoreIcon,
  MoveDownIcon,
  MoveUpIcon,
  MuteIcon,
  RemoveIcon,
  RepeatIcon,
  SameIcon,
  ScaleIcon,
} from '../ui/icons.tsx'
import { useView } from '../viewport/view.ts'
import { newRepeat } from './RepeatPhrase.tsx'
import {
  bundleSteps,
  copySteps,
  dissolveBundle,
  removeSteps,
  repeatAll,
  sameAgain,
  scaleSteps,
  setOfAll,
} from './stepActions.ts'

interface ToolsProps {
  readonly step: Step
  readonly number: string
  readonly index: number
  readonly last: boolean
  readonly more: boolean
  onMore(): void
}

/** What can be done to the selected step. */
export const StepTools = memo(function StepTools({ step, number, index, last, more, onMore }: ToolsProps) {
  const { edit } = usePart.getState()
  const inspected = useView((state) => state.inspected?.step === step.id)
  const body = hasBody(step) ? step : undefined
  const move = (to: number) => edit({ type: 'move-step', id: step.id, to })
  return (
    <div role="toolbar" aria-label={`Step ${number}`} className="mt-1.5 -ml-1.5 flex flex-wrap items-center">
      <IconButton label="More values" pressed={more} onClick={onMore}>
        <MoreIcon size={15} />
      </IconButton>
      {body && (
        <>
          <RepeatMenu disabled={body.repeats.length >= 3} />
          <IconButton
            label="Ghost: show its own shape"
            pressed={body.ghost}
            onClick={() => setOfAll({ ghost: !body.ghost })}
          >
            <GhostIcon size={15} />
          </IconButton>
        </>
      )}
      <IconButton
        label="What it does: before and after, or only this"
        pressed={inspected}
        onClick={() => useView.setState({ inspected: inspected ? undefined : { step: step.id, show: 'without' } })}
      >
        <InspectIcon size={15} />
      </IconButton>
      <IconButton label="Mute: leave it out" pressed={step.mute} onClick={() => setOfAll({ mute: !step.mute })}>
        <MuteIcon size={15} />
      </IconButton>
      <IconButton label="Earlier in the sheet (Alt ↑)" disabled={index === 0} onClick={() => move(index - 1)}>
        <MoveUpIcon size={15} />
      </IconButton>
      <IconButton label="Later in the sheet (Alt ↓)" disabled={last} onClick={() => move(index + 1)}>
        <MoveDownIcon size={15} />
      </IconButton>
      <IconButton label="Copy" onClick={copySteps}>
        <CopyIcon size={15} />
      </IconButton>
      {body && (
        <IconButton label="Place a linked copy" onClick={() => sameAgain(step.id)}>
          <SameIcon size={15} />
        </IconButton>
      )}
      {isBundle(step) ? (
        <IconButton
          label={step.repeats.length > 0 ? 'To dissolve it, remove its repeats first' : 'Dissolve the bundle'}
          disabled={step.repeats.length > 0}
          onClick={() => dissolveBundle(step.id)}
        >
          <DissolveIcon size={15} />
        </IconButton>
      ) : (
        <IconButton label="Make a bundle of it" onClick={bundleSteps}>
          <BundleIcon size={15} />
        </IconButton>
      )}
      {body && (
        <IconButton label="Scale it" onClick={scaleSteps}>
          <ScaleIcon size={15} />
        </IconButton>
      )}
      <IconButton label="Remove" onClick={removeSteps}>
        <RemoveIcon size={15} />
      </IconButton>
      <NameField step={step} />
    </div>
  )
}, sameTools)

/** Whether the row of tools stays as it is: values of the step that are typed are none of its business. */
function sameTools(before: ToolsProps, after: ToolsProps): boolean {
  const [a, b] = [before.step, after.step]
  const shown = (step: Step) =>
    [step.id, step.name, step.mute, kindWord(step), hasBody(step) && `${step.ghost} ${step.repeats.length}`].join(' ')
  return (
    shown(a) === shown(b) &&
    before.number === after.number &&
    before.index === after.index &&
    before.last === after.last &&
    before.more === after.more &&
    before.onMore === after.onMore
  )
}

/** What can be done to several selected steps together, over the foot of the sheet. */
export function SelectionTools({ count, allMuted }: { readonly count: number; readonly allMuted: boolean }) {
  return (
    <div
      role="toolbar"
      aria-label={`${count} selected steps`}
      className="flex items-center gap-0.5 border-t border-line bg-mackerel-wash px-5 py-1"
    >
      <span className="mr-2 font-semibold">{count} steps</span>
      <WordButton onClick={bundleSteps}>
        <BundleIcon size={15} /> bundle
      </WordButton>
      <WordButton onClick={scaleSteps}>
        <ScaleIcon size={15} /> scale
      </WordButton>
      <RepeatMenu disabled={false} />
      <IconButton label="Copy" onClick={copySteps}>
        <CopyIcon size={15} />
      </IconButton>
      <IconButton
        label={allMuted ? 'Unmute' : 'Mute: leave them out'}
        pressed={allMuted}
        onClick={() => setOfAll({ mute: !allMuted })}
      >
        <MuteIcon size={15} />
      </IconButton>
      <IconButton label="Remove" onClick={removeSteps}>
        <RemoveIcon size={15} />
      </IconButton>
    </div>
  )
}

function WordButton({ children, onClick }: { readonly children: ReactNode; onClick(): void }) {
  return (
    <button
      type="button"
      onClick={onClick}
      className="inline-flex h-7 items-center gap-1.5 rounded-sm px-2 hover:bg-sheet hover:text-mackerel"
    >
      {children}
    </button>
  )
}

function RepeatMenu({ disabled }: { readonly disabled: boolean }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <IconButton label="Repeat" disabled={disabled}>
          <RepeatIcon size={15} />
        </IconButton>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          sideOffset={4}
          className="z-50 rounded-sm border border-ink-soft bg-sheet py-1 shadow-[0_6px_18px_rgb(20_40_44/0.16)]"
        >
          {repeats.map((definition) => (
            <DropdownMenu.Item
              key={definition.kind}
              className="cursor-pointer px-4 py-1.5 outline-none data-[highlighted]:bg-mackerel-wash data-[highlighted]:text-mackerel"
              onSelect={() => repeatAll(newRepeat(definition), definition.first)}
            >
              {definition.label}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
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
      className="ml-1 h-6 w-24 min-w-24 flex-1 border-b border-transparent bg-transparent px-1 text-xs hover:border-line focus:border-mackerel"
    />
  )
}
