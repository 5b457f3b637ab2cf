import type { Part, SetAside } from '../document/index.ts'
import type { Finding } from './define.ts'

/** What is worse by no more than this share is as it was: as a file makes up for the printer, say. */
const noWorse = 0.05

/** Findings that cannot be set aside: what has one is no solid. */
const never: readonly string[] = ['closed']

export function canBeSetAside({ check, rank }: Pick<Finding, 'check' | 'rank'>): boolean {
  return rank !== 'pass' && !never.includes(check)
}

/**
 * Findings, those that were set aside and are no worse with why. What was set aside is one finding: of several that say the same of the same
 * steps the one that is nearest to it, and the others count as before.
 */
export function withAsides({ setAside }: Pick<Part, 'setAside'>, findings: readonly Finding[]): readonly Finding[] {
  const asides = new Map<Finding, SetAside>()
  for (const own of setAside) {
    const of = findings
      .filter((finding) => !asides.has(finding) && canBeSetAside(finding) && isOf(own, finding))
      .sort((a, b) => apart(own, a) - apart(own, b))[0]
    if (of) asides.set(of, own)
  }
  return findings.map((finding) => {
    const aside = asides.get(finding)
    return aside ? { ...finding, aside } : finding
  })
}

function isOf({ check, code, about, by, said }: SetAside, finding: Finding): boolean {
  const isSame = check === finding.check && code === finding.code
  if (!isSame || JSON.stringify(about) !== JSON.stringify(idsOf(finding))) return false
  if (by === undefined || finding.by === undefined) return said === finding.text
  return finding.by <= by + noWorse * Math.abs(by)
}

function apart({ by = 0 }: SetAside, finding: Finding): number {
  return Math.abs((finding.by ?? 0) - by)
}

/** A finding as it is kept when it is set aside. */
export function setAsideOf(finding: Finding, id: string, reason: string): SetAside {
  const { check, code, by, text: said } = finding
  return { id, check, code, about: idsOf(finding), reason, ...(by === undefined ? {} : { by }), said }
}

function idsOf({ about }: Pick<Finding, 'about'>): readonly string[] {
  return about.map(({ id }) => id)
}
