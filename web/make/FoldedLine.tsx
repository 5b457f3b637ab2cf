import { isBundle, type Step } from '@makrel/core/document'
import type { ResolvedPart } from '@makrel/core/planning'
import type { Problem } from '@makrel/core/problems'
import { memo } from 'react'
import { ProblemLines } from '../ui/ProblemLines.tsx'
import { doublePressed, lineLook, menuOf, numberLook, pressed, selectByKey } from './lineEvents.ts'
import { useDragHandle } from './sorting.tsx'

/** A line of a long sheet that is not selected: number, what it is, main sizes, and whether something is wrong. */
export const FoldedLine = memo(function FoldedLine({
  id,
  number,
  depth,
  operation,
  title,
  sizes,
  mute,
  chosen,
  problems,
}: {
  readonly id: string
  readonly number: string
  readonly depth: number
  readonly operation: string
  readonly title: string
  readonly sizes: string
  readonly mute: boolean
  readonly chosen: boolean
  readonly problems: readonly Problem[]
}) {
  const handle = useDragHandle()
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: what a press on the line does, its number does by keys
    <div
      className={`relative flex items-center gap-3 py-1 pr-4 [contain-intrinsic-size:auto_32px] [content-visibility:auto] ${lineLook(chosen)} ${mute ? 'opacity-60' : ''}`}
      style={{ paddingLeft: 20 + depth * 22 }}
      onPointerDown={(event) => pressed(event, id, chosen)}
      onDoubleClick={(event) => doublePressed(event, id)}
      onContextMenu={(event) => menuOf(event, id)}
    >
      <button
        {...handle}
        type="button"
        aria-label={`Step ${number}, ${title}`}
        aria-pressed={chosen}
        onClick={(event) => selectByKey(event, id)}
        className={numberLook(operation)}
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

/** What a folded line says of its sizes: the values that are asked for first. */
export function mainSizes(step: Step, resolved: ResolvedPart): string {
  const shape = resolved.steps.get(step.id)?.shape
  if (!shape) return isBundle(step) ? `of ${step.steps.length}` : ''
  return shape.quick
    .map((quick) => (typeof quick === 'string' ? step.fields[quick] : ''))
    .filter(Boolean)
    .join(' × ')
}
