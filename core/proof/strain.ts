import type { Material } from '../fits/index.ts'
import type { FindingRank } from './define.ts'

/**
 * What a strain, as a share, is to a material: sound where it takes it again and again, a fault where it would break; undefined where the strain
 * is no number, which says nothing of it.
 */
export function strainRank(strain: number, material: Material): FindingRank | undefined {
  const percent = 100 * Math.abs(strain)
  if (percent <= material.strainOften) return 'pass'
  if (percent <= material.strainOnce) return 'warning'
  return Number.isFinite(percent) ? 'fault' : undefined
}

/** A strain in per cent, as finely as it takes to tell it from a limit that it is over. */
export function strainText(strain: number, limit: number): string {
  const percent = 100 * Math.abs(strain)
  for (let digits = 2; digits < 8; digits++) {
    const told = Number(percent.toPrecision(digits))
    if (told > limit === percent > limit) return String(told)
  }
  return String(percent)
}
