import {
  bundleKind,
  type Effect,
  type FieldTexts,
  findStep,
  type Part,
  restFor,
  type Step,
  sameKind,
} from '@makrel/core/document'
import { type Plan, type ResolvedPart, scaleFields, scaleSentence } from '@makrel/core/planning'
import type { Problem } from '@makrel/core/problems'
import { cutReach, cutSentence } from '@makrel/core/shapes'
import { formatVolume } from '@makrel/core/units'
import { memo, useCallback, useEffect, useRef, useState } from 'react'
import { solids } from '../channel/client.ts'
import { useBuild } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { Choice } from '../ui/Choice.tsx'
import { OpenedIcon } from '../ui/icons.tsx'
import { ProblemLines } from '../ui/ProblemLines.tsx'
import { dragInList } from './dragInList.ts'
import { PlacePhrase } from './PlacePhrase.tsx'
import { RepeatPhrases } from './RepeatPhrase.tsx'
import { commonParts, Sentence, sentenceParts } from './Sentence.tsx'
import { editFirstValue, openStepMenu } from './StepMenu.tsx'
import { StepTools } from './StepTools.tsx'
import { seatOptions, sidesOf } from './seats.ts'
import { TextField } from './TextField.tsx'
import { effectWords, kindWords, stepsAbove, stepTitle, titleOf, withChosen } from './words.ts'

const effectLook: Readonly<Record<Effect, string>> = {
  add: 'border-ink bg-sheet text-ink',
  cut: 'border-plum bg-plum text-sheet',
  keep: 'border-moss bg-moss text-sheet',
}

export interface StepLineProps {
  readonly part: Part
  readonly step: Step
  /** "3", in a bundle "3.2" */
  readonly number: string
  readonly index: number
  /** whether it is the last one of its list */
  readonly last: boolean
  readonly depth: number
  readonly resolved: ResolvedPart
  readonly plan: Plan
  readonly problems: readonly Problem[]
  /** it has the selection, or is selected along with the one that has */
  readonly selected: boolean
  readonly chosen: boolean
  /** for a bundle: whether what it holds is shown */
  readonly open: boolean
  onOpen(): void
}

/** One line of the sheet: its number, its sentence, and what is wrong with it. */
export function StepLine(props: StepLineProps) {
  const { step, number, index, last, depth, problems, selected, chosen, open, onOpen } = props
  const { edit } = usePart.getState()
  const [more, setMore] = useState(false)
  const onMore = useCallback(() => setMore((before) => !before), [])
  const line = useRef<HTMLDivElement>(null)
  useEffect(() => {
    if (selected) line.current?.scrollIntoView({ block: 'nearest' })
    else setMore(false)
  }, [selected])
  const present = props.resolved.steps.get(step.id)?.present ?? true
  const move = (to: number) => edit({ type: 'move-step', id: step.id, to })

  return (
    <div
      ref={line}
      className={`relative flex gap-3 py-2 pr-4 pl-5 ${lineLook(chosen)} ${present ? '' : 'opacity-60'}`}
      style={{ paddingLeft: 20 + depth * 22 }}
      onPointerDown={(event) => pressed(event, step.id, chosen)}
      onDoubleClick={(event) => doublePressed(event, step.id)}
      onContextMenu={(event) => menuOf(event, step.id)}
    >
      <button
        type="button"
        aria-label={`Step ${number}, ${stepTitle(step)}`}
        aria-pressed={chosen}
        title="Drag to move it in the sheet"
        onPointerDown={dragInList(step.id)}
        onClick={(event) => selectByKey(event, step.id)}
        onKeyDown={(event) => {
          if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return
          event.preventDefault()
          if (event.key === 'ArrowUp' && index > 0) move(index - 1)
          if (event.key === 'ArrowDown' && !last) move(index + 1)
        }}
        className={`figures mt-px inline-flex h-6 min-w-6 shrink-0 cursor-grab touch-none items-center justify-center rounded-full border px-1 text-sm ${effectLook[step.effect]}`}
      >
        {number}
      </button>
      <div className="min-w-0 flex-1">
        <StepSentence {...props} more={more} />
        {step.shape === bundleKind && <BundleToggle step={step} open={open} onOpen={onOpen} />}
        <ProblemLines problems={problems} />
        {!present && (
          <p className="text-xs text-ink-soft">
            {step.mute ? 'Muted: left out of the solid.' : 'Left out of the solid: its condition does not hold.'}
          </p>
        )}
        {selected && present && <EffectLine id={step.id} />}
        {selected && <StepTools step={step} number={number} index={index} last={last} more={more} onMore={onMore} />}
      </div>
    </div>
  )
}

/** What the step does to its piece, in cubic centimetres. */
function EffectLine({ id }: { readonly id: string }) {
  const shown = useBuild((state) => state.shown)
  const unit = usePart((state) => state.part!.unit)
  const [volume, setVolume] = useState<number>()
  useEffect(() => {
    if (!shown) return
    let current = true
    // Once the maker rests: it costs about a build.
    const timer = setTimeout(
      () =>
        void solids()
          .call('effect', { step: id })
          .then(
            (answer) => current && setVolume(answer),
            () => current && setVolume(undefined),
          ),
      250,
    )
    return () => {
      current = false
      clearTimeout(timer)
    }
  }, [shown, id])
  // The line keeps its height while it is being worked out.
  return (
    <p className="h-4 text-xs text-ink-soft">
      {volume !== undefined &&
        Math.abs(volume) > 1e-6 &&
        `${volume > 0 ? 'adds' : 'removes'} ${formatVolume(Math.abs(volume), unit)}`}
    </p>
  )
}

/** A line of a long sheet that is not selected: number, what it is, main sizes, and whether something is wrong. */
export const FoldedLine = memo(function FoldedLine({
  id,
  number,
  depth,
  effect,
  title,
  sizes,
  mute,
  chosen,
  problems,
}: {
  readonly id: string
  readonly number: string
  readonly depth: number
  readonly effect: Effect
  readonly title: string
  readonly sizes: string
  readonly mute: boolean
  readonly chosen: boolean
  readonly problems: readonly Problem[]
}) {
  return (
    <div
      className={`relative flex items-center gap-3 py-1 pr-4 [contain-intrinsic-size:auto_32px] [content-visibility:auto] ${lineLook(chosen)} ${mute ? 'opacity-60' : ''}`}
      style={{ paddingLeft: 20 + depth * 22 }}
      onPointerDown={(event) => pressed(event, id, chosen)}
      onDoubleClick={(event) => doublePressed(event, id)}
      onContextMenu={(event) => menuOf(event, id)}
    >
      <button
        type="button"
        aria-label={`Step ${number}, ${title}`}
        aria-pressed={chosen}
        onPointerDown={dragInList(id)}
        onClick={(event) => selectByKey(event, id)}
        className={`figures inline-flex h-6 min-w-6 shrink-0 cursor-grab touch-none items-center justify-center rounded-full border px-1 text-sm ${effectLook[effect]}`}
      >
        {number}
      </button>
      <div className="min-w-0 flex-1">
        <p className="truncate text-base">
          {title} <span className="figures text-ink-soft">{sizes}</span>
        </p>
        <ProblemLines problems={problems} />
      </div>
    </div>
  )
})

function lineLook(chosen: boolean): string {
  return chosen
    ? 'bg-mackerel-wash before:absolute before:inset-y-0 before:left-0 before:w-[3px] before:bg-mackerel'
    : 'hover:bg-[#f3f6f4]'
}

/** A press selects the line; with Ctrl (or Cmd) it joins the selection, with Shift all lines up to it do. */
function pressed(event: React.PointerEvent, id: string, chosen: boolean): void {
  if (event.button !== 0) return
  const { select, alsoSelect, selectTo } = usePart.getState()
  if (event.ctrlKey || event.metaKey) alsoSelect(id)
  else if (event.shiftKey && !(event.target instanceof HTMLInputElement)) {
    event.preventDefault()
    selectTo(id)
  } else if (!chosen) select({ kind: 'step', id })
}

/** A second press on a line's words edits its first value; on a value it is the value's own. */
function doublePressed(event: React.MouseEvent, id: string): void {
  if (event.target instanceof HTMLElement && event.target.closest('input, button, [role=combobox]')) return
  document.getSelection()?.removeAllRanges()
  editFirstValue(id)
}

/** In a field the browser's own menu copies and pastes. */
function menuOf(event: React.MouseEvent, id: string): void {
  if (event.target instanceof HTMLInputElement) return
  event.preventDefault()
  openStepMenu(event.clientX, event.clientY, id)
}

/** Enter or the space bar on a step's number; a press by pointer has selected already. */
function selectByKey({ detail }: React.MouseEvent, id: string): void {
  if (detail === 0) usePart.getState().select({ kind: 'step', id })
}

function BundleToggle({ step, open, onOpen }: { readonly step: Step; readonly open: boolean; onOpen(): void }) {
  const count = step.steps?.length ?? 0
  return (
    <button
      type="button"
      aria-expanded={open}
      onClick={onOpen}
      className="inline-flex items-center gap-1 text-sm text-ink-soft hover:text-mackerel"
    >
      <OpenedIcon size={14} className={open ? 'rotate-90' : ''} />
      {open ? 'close it' : `open it: ${count} ${count === 1 ? 'step' : 'steps'}`}
    </button>
  )
}

function StepSentence({ part, step, resolved, plan, problems, more }: StepLineProps & { readonly more: boolean }) {
  const focus = usePart((state) => (state.selection?.id === step.id ? state.focus : undefined))
  const { edit, editAll } = usePart.getState()
  const worked = resolved.steps.get(step.id)
  const shape = worked?.shape
  const ofSteps = step.shape === bundleKind || step.shape === sameKind
  if (!worked || (!shape && !ofSteps)) return <p className="text-base">A shape of kind “{step.shape}”.</p>
  const { names } = worked
  const sides = sidesOf(plan, step.id)
  const geometry = plan.geometry.get(step.id)
  const bundled = plan.operands.get(step.id)?.body.kind === 'bundle' || step.shape === bundleKind
  // "round hole ⌀": the first word of the sentence names the shape and is set apart.
  const reaches = shape?.deep !== undefined && step.effect !== 'add'
  const sayWith = (texts: FieldTexts, values = worked.values) => {
    const said = shape ? sentenceParts(shape.sentence, values, texts, shape.fields) : []
    return shape && reaches ? cutSentence(shape, said, texts[cutReach] === 'through') : said
  }
  const [head, ...rest] = sayWith(step.fields)
  const valuesIn = (said: ReturnType<typeof sayWith>) =>
    said.flatMap((each) => (typeof each === 'string' ? [] : [each.field]))
  const brings = (field: string, value: string) => {
    const before = new Set(valuesIn(rest))
    const texts = { ...step.fields, [field]: value }
    return valuesIn(sayWith(texts, worked.values && { ...worked.values, [field]: value })).find(
      (each) => !before.has(each),
    )
  }
  const parts = shape ? (more ? rest : commonParts(rest, shape.fields, step.fields)) : []
  const label = shape?.label ?? kindWords(step)
  return (
    <p className="relative text-base leading-[1.625rem]">
      {step.name && <span className="mr-1.5 text-xs text-ink-soft">{step.name}:</span>}
      {shape?.datum ? (
        'A'
      ) : (
        <Choice
          label="Effect"
          value={step.effect}
          shown={effectWords(step.effect, label)}
          options={[
            { value: 'add', label: 'Add', hint: 'material' },
            { value: 'cut', label: 'Cut', hint: 'take away' },
            { value: 'keep', label: 'Keep', hint: 'only what lies inside' },
          ]}
          onChange={(effect) => {
            editAll([
              { type: 'set-step', id: step.id, change: { effect } },
              { type: 'set-place', id: step.id, change: { rest: restFor(effect) } },
            ])
          }}
        />
      )}{' '}
      <strong className="font-semibold">{typeof head === 'string' ? head : label}</strong>
      {step.shape === sameKind && (
        <>
          {' '}
          as{' '}
          <Choice
            label="The step whose shape it has"
            value={step.fields.of ?? ''}
            shown={titleOf(part, step.fields.of ?? '')}
            options={() => withChosen(stepsAbove(part, step.id), step.fields.of ?? '')}
            onChange={(of) => edit({ type: 'set-field', id: step.id, field: 'of', text: of })}
          />
        </>
      )}
      {ofSteps && (more || (step.fields.scale ?? 'none') !== 'none') && (
        <>
          ,
          <Sentence
            fields={scaleFields}
            texts={step.fields}
            parts={scaleSentence({ scale: (step.fields.scale ?? 'none') as keyof typeof scaleFields.scale.choices })}
            names={names}
            problems={problems.filter(({ path }) => path[2] === 'fields')}
            focus={focus}
            onChange={(field, text, final) =>
              edit({ type: 'set-field', id: step.id, field, text }, final ? undefined : `${step.id}.${field}`)
            }
          />
        </>
      )}
      {shape && (
        <Sentence
          fields={shape.fields}
          texts={step.fields}
          parts={parts}
          names={names}
          problems={problems.filter(({ path }) => path[2] === 'fields')}
          focus={focus}
          brings={brings}
          onChange={(field, text, final) =>
            edit({ type: 'set-field', id: step.id, field, text }, final ? undefined : `${step.id}.${field}`)
          }
        />
      )}
      <PlacePhrase
        id={step.id}
        place={step.place}
        seats={() => seatOptions(part, plan, step.id)}
        bases={shape?.seat === 'stands' ? geometry?.faces.map((face) => face.name) : undefined}
        ownPlace={bundled ? 'made' : shape?.drawn ? 'drawn' : undefined}
        rests={shape?.seat === 'stands' || (step.shape === sameKind && !bundled)}
        goesUpTo={worked.values !== undefined && shape?.upTo?.wanted(worked.values as never)}
        extentless={geometry?.seating.size.every((mm) => mm === 0)}
        more={more}
        names={names}
        sides={sides}
        problems={problems}
      />
      <RepeatPhrases step={step} resolved={worked} names={names} sides={sides} more={more} problems={problems} />
      {(more || step.when !== '') && (
        <>
          , only if{' '}
          <TextField
            label="Condition"
            text={step.when}
            quoted={false}
            fault={problems.find(({ path }) => path[2] === 'when')?.text}
            autoFocus={focus === 'when'}
            onAutoFocused={usePart.getState().focused}
            onChange={(when, final) =>
              edit({ type: 'set-step', id: step.id, change: { when } }, final ? undefined : `${step.id}.when`)
            }
          />
        </>
      )}
      .
    </p>
  )
}

/** What a folded line says of its sizes: the values that are asked for first. */
export function mainSizes(step: Step, resolved: ResolvedPart): string {
  const shape = resolved.steps.get(step.id)?.shape
  if (!shape) return step.steps ? `of ${step.steps.length}` : ''
  return shape.quick
    .map((quick) => (typeof quick === 'string' ? step.fields[quick] : ''))
    .filter(Boolean)
    .join(' × ')
}

/** The problems of one step. */
export function problemsOf(problems: readonly Problem[], id: string): readonly Problem[] {
  return problems.filter(({ path }) => path[0] === 'steps' && path[1] === id)
}

/** Whether a selected step lies somewhere in this bundle. */
export function holds(part: Part, bundle: Step, id: string | undefined): boolean {
  return id !== undefined && (findStep(part, id)?.bundles.some((other) => other.id === bundle.id) ?? false)
}
