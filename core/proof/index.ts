import type { Built, TwiceBuilt } from '../build/index.ts'
import type { Kernel } from '../kernel/index.ts'
import { meshFigures } from '../mesh/index.ts'
import { guarded, type Problem } from '../problems/index.ts'
import { inUnit } from '../units/index.ts'
import { bedCheck } from './bed.ts'
import { bodiesCheck } from './bodies.ts'
import { closedCheck } from './closed.ts'
import type { Check, Finding, FindingRank, ProofContext } from './define.ts'
import { gapCheck } from './gap.ts'
import { sheetCheck } from './sheet.ts'

export type { Check, Finding, FindingRank } from './define.ts'
export { gapBetween, trueGap } from './gap.ts'
export { sheetFindings } from './sheet.ts'
export { type SwingPosition, swingAt, swingPositions } from './swing.ts'

/** Every check, in the order they are read. A new one is its file and its line here. */
export function checksFor(kernel: Kernel): readonly Check[] {
  return [sheetCheck, closedCheck, bodiesCheck, bedCheck, gapCheck(kernel)]
}

/** The inspection of a built part: all findings of all checks. `twice`: the same part, for measuring. */
export function proofOf(kernel: Kernel, built: Built, twice?: TwiceBuilt): readonly Finding[] {
  const context: ProofContext = {
    built,
    twice,
    pieces: built.pieces.map((piece) => ({
      built: piece,
      figures: piece.solid && meshFigures(piece.solid.mesh()),
    })),
  }
  const { unit } = built.resolved.part
  return checksFor(kernel)
    .flatMap((check) => safely(check, context))
    .map((finding) => (unit === 'mm' ? finding : { ...finding, text: inUnit(finding.text, unit) }))
}

/** A check that fails takes no other one with it. */
function safely(check: Check, context: ProofContext): readonly Finding[] {
  const faults: Problem[] = []
  const told = (text: string): Finding => ({ check: check.id, rank: 'fault', text, about: [] })
  return guarded([], faults, () => check.run(context)) ?? faults.map(({ text }) => told(`${check.meaning} ${text}`))
}

const ranks: readonly FindingRank[] = ['pass', 'advice', 'warning', 'fault']

/** The gravest rank among findings. */
export function worst(findings: readonly Finding[]): FindingRank {
  return ranks[Math.max(0, ...findings.map(({ rank }) => ranks.indexOf(rank)))]!
}
