import type { Offer, Problem } from '@makrel/core/problems'
import { formatLength, formatNumber, type PartUnit } from '@makrel/core/units'
import { RankMark } from './RankMark.tsx'

function offerText({ value, kind = 'length' }: Offer, unit: PartUnit): string {
  if (kind === 'length') return formatLength(value, unit)
  return kind === 'angle' ? `${formatNumber(value)}°` : formatNumber(value, 4)
}

/** What is wrong with a line of a sheet, each with its mark, and what would do instead, which `onTake` puts in its place. */
export function ProblemLines({
  problems,
  unit = 'mm',
  onTake,
}: {
  readonly problems: readonly Problem[]
  readonly unit?: PartUnit
  onTake?: (offer: Offer) => void
}) {
  return problems.map((problem) => (
    <p key={`${problem.code}${problem.path.join()}`} role="alert" className="mt-1 flex items-start gap-1.5 text-sm">
      <span className="mt-0.5">
        <RankMark rank={problem.rank} />
      </span>
      <span>
        {problem.text}
        {problem.offer && onTake && (
          <button
            type="button"
            className="ml-1.5 whitespace-nowrap text-mackerel underline"
            onClick={() => onTake(problem.offer!)}
          >
            use {offerText(problem.offer, unit)}
          </button>
        )}
      </span>
    </p>
  ))
}
