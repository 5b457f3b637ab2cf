import type { ThreadSize } from './define.ts'

/** How much room a screw has in its hole. */
export const clearances = ['close', 'normal', 'loose'] as const
export type Clearance = (typeof clearances)[number]

/** Holes for screws by the diameter of their thread, mm: close, normal and loose. ISO 273:1979, table 1 (fine, medium and coarse series). */
const metric: Readonly<Record<number, readonly [number, number, number]>> = {
  1.6: [1.7, 1.8, 2],
  2: [2.2, 2.4, 2.6],
  2.5: [2.7, 2.9, 3.1],
  3: [3.2, 3.4, 3.6],
  4: [4.3, 4.5, 4.8],
  5: [5.3, 5.5, 5.8],
  6: [6.4, 6.6, 7],
  8: [8.4, 9, 10],
  10: [10.5, 11, 12],
  12: [13, 13.5, 14.5],
  16: [17, 17.5, 18.5],
  20: [21, 22, 24],
}

/** The same of inch screws, in 64ths of an inch by their diameter in inches: ASME B18.2.8-1999, table 1. */
const inch: Readonly<Record<number, readonly [number, number, number]>> = {
  [1 / 4]: [17, 18, 19],
  [5 / 16]: [21, 22, 23],
  [3 / 8]: [25, 26, 27],
  [1 / 2]: [34, 36, 39],
}

/** The diameter of a hole that a screw of this thread goes through, mm; undefined where no table has it. */
export function clearanceHole({ thread }: Pick<ThreadSize, 'thread'>, clearance: Clearance): number | undefined {
  const column = clearances.indexOf(clearance)
  const inches = inch[Math.round((thread / 25.4) * 1e6) / 1e6]
  return metric[thread]?.[column] ?? (inches && (25.4 * inches[column]!) / 64)
}
