import { findBody } from '@makrel/core/document'
import { compose, inverse } from '@makrel/core/place'
import { usePart } from '../state/part.ts'
import { useLateWorked } from './late.ts'
import { project, useView } from './view.ts'

/** Of more copies than this, marks would only cover the part. */
const mostMarks = 200

/** Marks nearer than this lie on one another, pixels. */
const markSize = 20
type Point = readonly [number, number]

/** Places of marks, those that would lie on an earlier one moved aside: each can be pressed. */
export function apart(places: readonly (Point | undefined)[]): (Point | undefined)[] {
  const taken: Point[] = []
  const free = ([x, y]: Point) => taken.every(([a, b]) => Math.abs(a - x) >= markSize || Math.abs(b - y) >= markSize)
  return places.map((place) => {
    if (!place) return undefined
    // Round about it, ring by ring.
    for (let ring = 0; ring < 20; ring++)
      for (let k = 0; k < Math.max(1, 8 * ring); k++) {
        const rad = ring === 0 ? 0 : (2 * Math.PI * k) / (8 * ring)
        const at: Point = [place[0] + ring * markSize * Math.cos(rad), place[1] + ring * markSize * Math.sin(rad)]
        if (!free(at)) continue
        taken.push(at)
        return at
      }
    return place
  })
}

/** The number of each copy of the selected step: a press leaves the copy out, or brings it back. */
export function CopyMarks() {
  const { part, worked } = useLateWorked()
  const selection = usePart((state) => state.selection)
  const { edit } = usePart.getState()
  const view = useView()
  const step = selection?.kind === 'step' ? findBody(part, selection.id) : undefined
  const geometry = step && worked?.plan.geometry.get(step.id)
  if (!step || !geometry || step.repeats.length === 0 || geometry.frames.length > mostMarks) return null
  const { frames, frame } = geometry
  // A bundle's copies are told by how its first one moves to them.
  const back = compose(inverse(frames[0]!), frame)
  const places = apart(
    frames.map((each, i) => {
      const at = project(view, compose(each, back).origin)
      // The original has its handle on its middle.
      return at && ([at[0], at[1] - (i === 0 ? 20 : 0)] as const)
    }),
  )
  return (
    <div role="group" aria-label="Copies">
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
            title={omitted ? 'Left out; press to bring it back' : 'Press to leave this copy out'}
            onClick={() => edit({ type: 'omit-copy', id: step.id, copy, omitted: !omitted })}
            className={`figures absolute inline-flex h-[1.125rem] min-w-[1.125rem] -translate-x-1/2 -translate-y-1/2 items-center justify-center rounded-full border px-0.5 text-xs hover:bg-mackerel hover:text-sheet ${omitted ? 'border-dashed border-ink-soft bg-sheet/70 text-ink-soft line-through' : 'border-mackerel bg-sheet/90 text-mackerel'}`}
            style={{ left: at[0], top: at[1] }}
          >
            {copy}
          </button>
        )
      })}
    </div>
  )
}
