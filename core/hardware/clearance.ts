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

/** The same of numbered sizes, in thousandths of an inch: drills that the table of ASME B18.2.8 names by number and letter. */
const numbered: Readonly<Record<number, readonly [number, number, number]>> = {
  0.112: [120, 128.5, 144],
  0.138: [154, 169.5, 185],
  0.164: [180, 196, 213],
  0.19: [205.5, 221, 238],
}

/**
 * What goes through loosely where no table has it, as screws for wood and plastic: a tenth more than their thread for the normal
 * one. A rule of thumb.
 */
const loosely: Readonly<Record<Clearance, number>> = { close: 1.05, normal: 1.1, loose: 1.15 }

/** The hole for a screw that no table of clearances knows, mm. */
export function looseHole({ thread }: Pick<ThreadSize, 'thread'>, clearance: Clearance): number {
  return Math.ceil(20 * loosely[clearance] * thread) / 20
}

/** The diameter of a hole that a screw of this thread goes through, mm; undefined where no table has it. */
export function clearanceHole({ thread }: Pick<ThreadSize, 'thread'>, clearance: Clearance): number | undefined {
  const column = clearances.indexOf(clearance)
  const inches = inch[Math.round((thread / 25.4) * 1e6) / 1e6]
  if (inches) return (25.4 * inches[column]!) / 64
  const drill = numbered[Math.round((thread / 25.4) * 1e6) / 1e6]?.[column]
  return metric[thread]?.[column] ?? (drill && (25.4 * drill) / 1000)
}
