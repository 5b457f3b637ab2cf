import type { OutlineConstraint } from '@makrel/core/document'
import { constraintOf, type SolvedOutline } from '@makrel/core/outline'
import { pointAt, type Vec2 } from '@makrel/core/plane'
import { selectPart, useOutline } from './state.ts'
import { toScreen } from './view.ts'

/** The signs of constraints beside what they hold; each can be selected, and then removed. */
export function Signs({ solved }: { readonly solved: SolvedOutline }) {
  const view = useOutline((state) => state.view)
  const selected = useOutline((state) => state.selected)
  const taken = new Map<string, number>()
  return solved.outline.constraints.map((constraint) => {
    const definition = constraintOf(constraint.kind)
    if (!definition || definition.value) return null
    const anchor = anchorOf(solved, constraint)
    if (!anchor) return null
    const [x, y] = toScreen(view, anchor.at)
    const place = `${Math.round(x / 10)},${Math.round(y / 10)}`
    const slot = taken.get(place) ?? 0
    taken.set(place, slot + 1)
    const tone = solved.conflicts.includes(constraint.id)
      ? 'text-rust'
      : selected.includes(constraint.id)
        ? 'text-mackerel'
        : 'text-ink-soft'
    return (
      <button
        key={constraint.id}
        type="button"
        aria-label={`${definition.label} ${constraint.of.join(', ')}`}
        title={`${definition.label}: ${constraint.of.join(', ')}`}
        aria-pressed={selected.includes(constraint.id)}
        onClick={(event) => selectPart(constraint.id, event.shiftKey)}
        className={`absolute h-4 w-4 rounded-sm hover:bg-mackerel-wash hover:text-mackerel ${tone}`}
        style={{ left: x + 7 + 15 * slot, top: y - 20 }}
      >
        <svg
          viewBox="0 0 12 12"
          width="12"
          height="12"
          fill="none"
          stroke="currentColor"
          strokeWidth="1.3"
          aria-hidden="true"
          className="m-0.5"
        >
          <path d={definition.sign} />
        </svg>
      </button>
    )
  })
}

/** The middle of the first curve that it is put on, or its first point. */
function anchorOf(solved: SolvedOutline, { of }: OutlineConstraint): { readonly at: Vec2 } | undefined {
  for (const id of of) {
    const [segment] = solved.drawnCurves.get(id) ?? []
    if (segment) return { at: pointAt(segment, 0.5) }
  }
  for (const id of of) {
    const at = solved.points.get(id)
    if (at) return { at }
  }
  return undefined
}
