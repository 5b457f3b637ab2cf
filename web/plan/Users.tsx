import { findStep } from '@makrel/core/document'
import { Link } from 'react-router'
import { stepNumber, stepTitle } from '../make/words.ts'
import { usePart } from '../state/part.ts'

/** What reads a name: measures, joints, outlines, and steps, which lead to their line in the sheet. */
export function Users({ ids }: { readonly ids: readonly string[] }) {
  const part = usePart((state) => state.part)!
  if (ids.length === 0) return <em>not used yet</em>
  return ids.map((id, i) => {
    const step = findStep(part, id)?.step
    const all = [...part.measures, ...part.joints, ...part.outlines, ...part.flexes, ...part.loads]
    const name = id === part.id ? 'least wall' : all.find((candidate) => candidate.id === id)?.name
    return (
      <span key={id}>
        {i > 0 && ', '}
        {step ? (
          <Link
            to="../make"
            relative="path"
            className="text-mackerel hover:underline"
            onClick={() => usePart.getState().select({ kind: 'step', id })}
          >
            {stepNumber(part, id)} {stepTitle(step)}
          </Link>
        ) : (
          name
        )}
      </span>
    )
  })
}
