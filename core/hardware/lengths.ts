/** Lengths in which screws are sold, mm: ISO 888:2012, nominal lengths, the usual ones. */
const nominal = [
  ...[3, 4, 5, 6, 8, 10, 12, 16, 20, 25, 30, 35, 40, 45, 50, 55, 60, 65, 70, 80, 90, 100, 110, 120, 130, 140, 150, 160],
  ...[180, 200, 220, 240, 260, 280, 300],
]
/** The same of inch screws, in sixteenths of an inch: the lengths that ASME B18.3 lists, the usual ones. */
const sixteenths = [4, 6, 8, 10, 12, 14, 16, 20, 24, 28, 32, 36, 40, 44, 48, 56, 64, 72, 80, 96]

const lengthsIn = (unit: 'in' | 'mm') => (unit === 'in' ? sixteenths.map((each) => (25.4 * each) / 16) : nominal)
const hardly = 1e-6

/** The shortest length that is sold and not less than this, mm; undefined where none is as long. */
export function lengthFrom(least: number, unit: 'in' | 'mm' = 'mm'): number | undefined {
  return lengthsIn(unit).find((each) => each >= least - hardly)
}
/** The longest that is sold and not more than this, mm; undefined where none is as short. */
export function lengthUpTo(most: number, unit: 'in' | 'mm' = 'mm'): number | undefined {
  return lengthsIn(unit).findLast((each) => each <= most + hardly)
}
