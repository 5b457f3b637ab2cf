import { findBody } from '@makrel/core/document'
import { usePart } from '../state/part.ts'
import { copyPlaces } from './copyPlaces.ts'
import { useLateWorked } from './late.ts'
import { useView } from './view.ts'

/** The number of each copy of the selected step: a press leaves the copy out, or brings it back. */
export function CopyMarks() {
  const { part, worked } = useLateWorked()
  const selection = usePart((state) => state.selection)
  const { edit } = usePart.getState()
  const view = useView()
  const step = selection?.kind === 'step' ? findBody(part, selection.id) : undefined
  const geometry = step && worked?.plan.geometry.get(step.id)
  const places = step && geometry ? copyPlaces(step, geometry, view) : []
  if (!step || places.length === 0) return null
  return (
    <fieldset aria-label="Copies">
      {places.map((at, i) => {
        const copy = i + 1
        const omitted = step.omit.includes(copy)
        if (!at) return null
        return (
          <button
            key={copy}
            type="button"
            aria-pressed={!omitted}
            aria-label={omitted ? `Bring back copy ${copy}` : `Leave out copy ${copy}`}
            title={omitted ? 'Left out; click to bring it back' : 'Click to leave this copy out'}
            onClick={() => edit({ type: 'omit-copy', id: step.id, copy, omitted: !omitted })}
            className={`figures absolute inline-flex h-[1.125rem] min-w-[1.125rem] -translate-x-1/2 -translate-y-1/2 items-center justify-center rounded-full border px-0.5 text-xs hover:bg-mackerel hover:text-sheet ${omitted ? 'border-dashed border-ink-soft bg-sheet/70 text-ink-soft line-through' : 'border-mackerel bg-sheet/90 text-mackerel'}`}
            style={{ left: at[0], top: at[1] }}
          >
            {copy}
          </button>
        )
      })}
    </fieldset>
  )
}
