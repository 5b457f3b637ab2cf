import { toDecimals } from '../units/index.ts'

/** A size as it is told: to a hundredth. */
export const shown = (value: number): number => toDecimals(value, 2)

/** What joints that are printed above each other say of their gaps. */
export const gapsSaid = [
  ', gap',
  { field: 'gap' },
  'per side and',
  { field: 'upward' },
  'upward, in whole layers',
] as const
