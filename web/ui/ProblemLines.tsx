import type { Offer, OfferedText, Problem } from '@makrel/core/problems'
import { formatLength, formatNumber, type PartUnit } from '@makrel/core/units'
import { RankMark } from './RankMark.tsx'

function offerText(offer: Offer | OfferedText, unit: PartUnit): string {
  if ('text' in offer) return `the ${offer.shown}`
  const { value, kind = 'length' } = offer
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
  onTake?: (offer: Offer | OfferedText) => void
}) {
  return problems.map((problem) => {
    const offer = problem.offer ?? problem.instead
    return (
      <p key={`${problem.code}${problem.path.join()}`} role="alert" className="mt-1 flex items-start gap-1.5 text-sm">
        <span className="mt-0.5">
          <RankMark rank={problem.rank} />
        </span>
        <span>
          {problem.text}
          {offer && onTake && (
            <button
              type="button"
              className="ml-1.5 whitespace-nowrap text-mackerel underline"
              onClick={() => onTake(offer)}
            >
              use {offerText(offer, unit)}
            </button>
          )}
        </span>
      </p>
    )
  })
}
