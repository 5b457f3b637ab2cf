import type { Solid } from '../kernel/index.ts'
import type { Halves } from '../splits/index.ts'
import type { TreatmentWork } from './define.ts'

/** What all that split a piece have in common. */
export const gapField = {
  kind: 'length',
  label: 'Gap',
  default: '0',
  least: 0,
  most: 1000,
  meaning: 'The gap between the two; half of it comes off each.',
} as const

/** Both halves; where one of them is nothing the solid stays whole, which is told. */
export function toldHalves({ solid, miss }: Pick<TreatmentWork, 'solid' | 'miss'>, halves: Halves): readonly Solid[] {
  if (!halves.some((half) => half.isEmpty())) return halves
  miss('split-misses', {})
  return [solid]
}
