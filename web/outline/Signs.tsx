import { constraintOf, type SolvedOutline } from '@makrel/core/outline'
import { type Labels, signSize } from './labels.ts'
import { selectPart, useOutline } from './state.ts'

/** The signs of constraints beside what they hold; each can be selected, and then removed. */
export function Signs({ solved, signs }: { readonly solved: SolvedOutline; readonly signs: Labels['signs'] }) {
  const selected = useOutline((state) => state.selected)
  return signs.map(({ constraint, middle }) => {
    const { label, sign } = constraintOf(constraint.kind)!
    const tone = solved.conflicts.includes(constraint.id)
      ? 'text-rust'
      : selected.includes(constraint.id)
        ? 'text-mackerel'
        : 'text-ink-soft'
    return (
      <button
        key={constraint.id}
        type="button"
        aria-label={`${label} ${constraint.of.join(', ')}`}
        title={`${label}: ${constraint.of.join(', ')}`}
        aria-pressed={selected.includes(constraint.id)}
        onClick={(event) => selectPart(constraint.id, event.shiftKey)}
        className={`absolute rounded-sm hover:bg-mackerel-wash hover:text-mackerel ${tone}`}
        style={{ left: middle[0] - signSize / 2, top: middle[1] - signSize / 2, width: signSize, height: signSize }}
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
          <path d={sign} />
        </svg>
      </button>
    )
  })
}
