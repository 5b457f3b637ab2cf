import { type BundleStep, isBundle, type Part, type Step } from '@makrel/core/document'
import type { Plan, ResolvedPart } from '@makrel/core/planning'
import type { Offer, OfferedText, Problem } from '@makrel/core/problems'
import { useCallback, useEffect, useRef, useState } from 'react'
import { checks } from '../channel/client.ts'
import { useBuild } from '../state/build.ts'
import { usePart } from '../state/part.ts'
import { OpenedIcon } from '../ui/icons.tsx'
import { ProblemLines } from '../ui/ProblemLines.tsx'
import { ItemNote } from './ItemNote.tsx'
import { doublePressed, lineLook, menuOf, numberLook, pressed, selectByKey } from './lineEvents.ts'
import { takesAway } from './operations.ts'
import { SpringNote } from './SpringNote.tsx'
import { StepSentence } from './StepSentence.tsx'
import { StepTools } from './StepTools.tsx'
import { useDragHandle } from './sorting.tsx'
import { effectText, stepTitle } from './words.ts'

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
  const unit = usePart((state) => state.part!.unit)
  const { step, number, index, last, depth, problems, selected, chosen, open, onOpen } = props
  const { edit } = usePart.getState()
  const [more, setMore] = useState(false)
  const onMore = useCallback(() => setMore((before) => !before), [])
  const line = useRef<HTMLDivElement>(null)
  const handle = useDragHandle()
  useEffect(() => {
    if (selected) line.current?.scrollIntoView({ block: 'nearest' })
    else setMore(false)
  }, [selected])
  const present = props.resolved.steps.get(step.id)?.present ?? true
  const move = (to: number) => edit({ type: 'move-step', id: step.id, to })

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: what a press on the line does, its number does by keys
    <div
      ref={line}
      className={`relative flex gap-3 py-2 pr-4 pl-5 ${lineLook(chosen)} ${present ? '' : 'opacity-60'}`}
      style={{ paddingLeft: 20 + depth * 22 }}
      onPointerDown={(event) => pressed(event, step.id, chosen)}
      onDoubleClick={(event) => doublePressed(event, step.id)}
      onContextMenu={(event) => menuOf(event, step.id)}
    >
      <button
        {...handle}
        type="button"
        aria-label={`Step ${number}, ${stepTitle(step)}`}
        aria-pressed={chosen}
        title="Drag to move it in the sheet"
        onClick={(event) => selectByKey(event, step.id)}
        onKeyDown={(event) => {
          handle.onKeyDown?.(event)
          if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return
          event.preventDefault()
          if (event.key === 'ArrowUp' && index > 0) move(index - 1)
          if (event.key === 'ArrowDown' && !last) move(index + 1)
        }}
        className={`mt-px ${numberLook(step.operation)}`}
      >
        {number}
      </button>
      <div className="min-w-0 flex-1">
        <StepSentence {...props} more={more} />
        {isBundle(step) && <BundleToggle step={step} open={open} onOpen={onOpen} />}
        <ProblemLines
          problems={problems}
          unit={unit}
          onTake={(offer) =>
            usePart.getState().edit({ type: 'set-field', id: step.id, field: offer.field, text: textOf(offer) })
          }
        />
        {!present && (
          <p className="text-xs text-ink-soft">
            {step.mute ? 'Muted: left out of the solid.' : 'Left out of the solid: its condition does not hold.'}
          </p>
        )}
        {selected && present && <ItemNote id={step.id} />}
        {selected && present && <SpringNote id={step.id} />}
        {selected && present && <EffectLine id={step.id} cuts={takesAway(step.operation)} />}
        {selected && <StepTools step={step} number={number} more={more} onMore={onMore} />}
      </div>
    </div>
  )
}

/** What the step does to its piece, in cubic centimetres. */
function EffectLine({ id, cuts }: { readonly id: string; readonly cuts: boolean }) {
  const shown = useBuild((state) => state.shown)
  const unit = usePart((state) => state.part!.unit)
  const [volume, setVolume] = useState<number>()
  useEffect(() => {
    if (!shown) return
    let current = true
    // Once the maker rests: it costs about a build.
    const timer = setTimeout(
      () =>
        void checks()
          .call('effect', { step: id }, shown)
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
  return <p className="h-4 text-xs text-ink-soft">{volume !== undefined && effectText(volume, cuts, unit)}</p>
}

function BundleToggle({ step, open, onOpen }: { readonly step: BundleStep; readonly open: boolean; onOpen(): void }) {
  const count = step.steps.length
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

/** What an offer puts into its field. */
function textOf(offer: Offer | OfferedText): string {
  if ('text' in offer) return offer.text
  return (offer.kind ?? 'length') === 'length' ? `${offer.value} mm` : `${offer.value}`
}
