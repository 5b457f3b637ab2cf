import type { Part, SetAside } from '../document/index.ts'
import type { Finding, Found } from './define.ts'

/** What is worse by no more than this share is as it was: as a file makes up for the printer, say. */
const noWorse = 0.05

/** Findings that cannot be set aside: what has one is no solid. */
const never: readonly string[] = ['closed']

export function canBeSetAside({ check, rank }: Pick<Finding, 'check' | 'rank'>): boolean {
  return rank !== 'pass' && !never.includes(check)
}

type Asked = Pick<Found, 'check' | 'rank' | 'code' | 'about' | 'by'>

/** Why a finding was set aside; undefined where it was not, says something else by now, or is worse than it was. */
export function asideFor({ setAside }: Pick<Part, 'setAside'>, finding: Asked, text: string): SetAside | undefined {
  if (!canBeSetAside(finding)) return undefined
  const about = idsOf(finding)
  return setAside.find(
    (own) =>
      own.check === finding.check &&
      own.code === finding.code &&
      JSON.stringify(own.about) === JSON.stringify(about) &&
      (own.by !== undefined && finding.by !== undefined
        ? finding.by <= own.by + noWorse * Math.abs(own.by)
        : own.said === text),
  )
}

/** A finding as it is kept when it is set aside. */
export function setAsideOf(finding: Finding, id: string, reason: string): SetAside {
  const { check, code, by, text: said } = finding
  return { id, check, code, about: idsOf(finding), reason, ...(by === undefined ? {} : { by }), said }
}

function idsOf({ about }: Pick<Found, 'about'>): readonly string[] {
  return about.map(({ id }) => id)
}
