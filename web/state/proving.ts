import type { Part } from '@makrel/core/document'
import { type Finding, type FindingRank, worst } from '@makrel/core/proof'

/**
 * A proof of one state of the part: under way, or how it ended. Only one of which all checks are done says anything of the whole part; while it
 * is "curing" they are, and cures are tried.
 */
export interface Proving {
  readonly of: Part
  readonly state: 'running' | 'curing' | 'done' | 'stopped' | 'failed'
  /** of the checks that are done */
  readonly findings: readonly Finding[]
  /** how many checks are done, of how many; 0 of 0 before the first one */
  readonly done: number
  readonly total: number
  /** why it ended early, in words */
  readonly why?: string
}

/** Whether all checks are done. */
export function isWhole({ state }: Pick<Proving, 'state'>): boolean {
  return state === 'done' || state === 'curing'
}

/** The proof of a part in a word or two; undefined while there is none, or only that of an earlier state. */
export function proofWord(
  proving: Proving | undefined,
  part: Part | undefined,
): { rank: FindingRank; text: string } | undefined {
  if (!proving || proving.of !== part || proving.state === 'running') return undefined
  if (!isWhole(proving)) return { rank: 'warning', text: proving.state === 'failed' ? 'failed' : 'not proved' }
  return findingsWord(proving.findings)
}

/** What the stage of hand-off says of a part, by the proof of it: it is ready only where that is done and has no fault. */
export function handOffWord(proving: Proving | undefined, part: Part | undefined): string {
  const word = proofWord(proving, part)
  if (!word) return '…'
  if (word.rank === 'fault') return 'has faults'
  return proving && isWhole(proving) && proving.findings.length > 0 ? 'ready' : 'not proved'
}

/** What findings come to: the gravest of them, and how many there are. Where nothing was found, nothing was looked at. */
export function findingsWord(findings: readonly Finding[]): { rank: FindingRank; text: string } {
  if (findings.length === 0) return { rank: 'warning', text: 'not proved' }
  const rank = worst(findings)
  const count = findings.filter((finding) => finding.rank === rank && !finding.aside).length
  const aside = findings.filter((finding) => finding.aside).length
  const rest = aside > 0 ? `, ${aside} aside` : ''
  if (rank === 'pass') return { rank, text: `passed${rest}` }
  return { rank, text: `${count} ${rank === 'advice' ? 'note' : rank}${count === 1 ? '' : 's'}${rest}` }
}
