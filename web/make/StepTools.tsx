import { hasBody, kindWord, type Step } from '@makrel/core/document'
import { repeats } from '@makrel/core/repeats'
import { DropdownMenu } from 'radix-ui'
import type { ButtonHTMLAttributes, ReactNode } from 'react'
import { memo, useEffect, useState } from 'react'
import { usePart } from '../state/part.ts'
import { IconButton } from '../ui/Button.tsx'
import { BundleIcon, CopyIcon, GhostIcon, MoreIcon, MuteIcon, RemoveIcon, RepeatIcon, ScaleIcon } from '../ui/icons.tsx'
import { newRepeat } from './RepeatPhrase.tsx'
import { openStepMenu } from './StepMenu.tsx'
import { bundleSteps, copySteps, removeSteps, repeatAll, scaleSteps, setOfAll } from './stepActions.ts'

interface ToolsProps {
  readonly step: Step
  readonly number: string
  readonly more: boolean
  onMore(): void
}

/** What is done to the selected step most often, in words; the rest, with its keys, is behind the dots. */
export const StepTools = memo(function StepTools({ step, number, more, onMore }: ToolsProps) {
  return (
    <div role="toolbar" aria-label={`Step ${number}`} className="mt-1.5 -ml-2 flex flex-wrap items-center">
      <WordButton label="More values" pressed={more} onClick={onMore}>
        {more ? 'fewer' : 'more'}
      </WordButton>
      {hasBody(step) && (
        <RepeatMenu disabled={step.repeats.length >= 3}>
          <WordButton label="Repeat" disabled={step.repeats.length >= 3}>
            repeat
          </WordButton>
        </RepeatMenu>
      )}
      <WordButton label="Copy" onClick={copySteps}>
        copy
      </WordButton>
      <WordButton label="Mute: leave it out" pressed={step.mute} onClick={() => setOfAll({ mute: !step.mute })}>
        <MuteIcon size={14} />
        mute
      </WordButton>
      {hasBody(step) && step.ghost && (
        <WordButton label="Ghost: its own shape is shown" pressed onClick={() => setOfAll({ ghost: false })}>
          <GhostIcon size={14} />
          ghost
        </WordButton>
      )}
      <WordButton label="Remove" onClick={removeSteps}>
        remove
      </WordButton>
      <IconButton
        label="All that can be done with it"
        onClick={({ currentTarget }) => {
          const { left, bottom } = currentTarget.getBoundingClientRect()
          openStepMenu(left, bottom, step.id)
        }}
      >
        <MoreIcon size={15} />
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
      <RepeatMenu disabled={false}>
        <IconButton label="Repeat">
          <RepeatIcon size={15} />
        </IconButton>
      </RepeatMenu>
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

function WordButton({
  label,
  pressed,
  children,
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { readonly label?: string; readonly pressed?: boolean }) {
  return (
    <button
      type="button"
      aria-label={label}
      aria-pressed={pressed}
      className="inline-flex h-7 items-center gap-1 rounded-sm px-2 text-sm text-ink-soft hover:bg-sheet hover:text-mackerel disabled:opacity-50 aria-pressed:text-mackerel"
      {...rest}
    >
      {children}
    </button>
  )
}

function RepeatMenu({ disabled, children }: { readonly disabled: boolean; readonly children: ReactNode }) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild disabled={disabled}>
        {children}
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
