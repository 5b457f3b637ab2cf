import type { Problem } from '@makrel/core/problems'
import { RankMark } from './RankMark.tsx'

/** What is wrong with a line of a sheet, each with its mark. */
export function ProblemLines({ problems }: { readonly problems: readonly Problem[] }) {
  return problems.map((problem) => (
    <p key={`${problem.code}${problem.path.join()}`} role="alert" className="mt-1 flex items-start gap-1.5 text-sm">
      <span className="mt-0.5">
        <RankMark rank={problem.rank} />
      </span>
      <span>{problem.text}</span>
    </p>
  ))
}
