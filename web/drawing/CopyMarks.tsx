import { findStep } from '@makrel/core/document'
import { usePart } from '../state/part.ts'
import { useLateWorked } from './late.ts'
import { project, useView } from './view.ts'

/** Of more copies than this, marks would only cover the part. */
const mostMarks = 200

/** The number of each copy of the selected step: a press leaves the copy out, or brings it back. */
export function CopyMarks() {
  const { part, worked } = useLateWorked()
  const selection = usePart((state) => state.selection)
  const { edit } = usePart.getState()
  const view = useView()
  const step = selection?.kind === 'step' ? findStep(part, selection.id)?.step : undefined
  const frames = step && worked?.plan.geometry.get(step.id)?.frames
  if (!step || !frames || step.repeats.length === 0 || frames.length > mostMarks) return null
  return (
    <div role="group" aria-label="Copies">
      {frames.map(({ origin }, i) => {
        const copy = i + 1
        const at = project(view, origin)
        const omitted = step.omit.includes(copy)
        if (!at) return null
        return (
          <button
            key={copy}
            type="button"
            aria-pressed={!omitted}
            aria-label={omitted ? `Bring back copy ${copy}` : `Leave out copy ${copy}`}
            title={omitted ? 'Left out; press to bring it back' : 'Press to leave this copy out'}
            onClick={() => edit({ type: 'omit-copy', id: step.id, copy, omitted: !omitted })}
            className={`figures absolute inline-flex h-[18px] min-w-[18px] -translate-x-1/2 -translate-y-1/2 items-center justify-center rounded-full border px-0.5 text-xs hover:bg-mackerel hover:text-sheet ${omitted ? 'border-dashed border-ink-soft bg-sheet/70 text-ink-soft line-through' : 'border-mackerel bg-sheet/90 text-mackerel'}`}
            // The original has its handle on its middle.
            style={{ left: at[0], top: at[1] - (copy === 1 ? 20 : 0) }}
          >
            {copy}
          </button>
        )
      })}
    </div>
  )
}
