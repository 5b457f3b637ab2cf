import type { Vec3 } from '../place/index.ts'

/** What the numbers of a file may mean, with how many mm each is. Those that makers use come first. */
export const fileUnits = [
  { id: 'mm', label: 'mm', mm: 1 },
  { id: 'in', label: 'inches', mm: 25.4 },
  { id: 'm', label: 'm', mm: 1000 },
  { id: 'cm', label: 'cm', mm: 10 },
  { id: 'ft', label: 'feet', mm: 304.8 },
] as const
export type FileUnit = (typeof fileUnits)[number]['id']

export function unitNamed(id: FileUnit): (typeof fileUnits)[number] {
  return fileUnits.find((unit) => unit.id === id)!
}

/** Shorter than this all round hardly anything is printed, mm. */
export const smallestPrinted = 5

/** What a file would be in one of the units. */
export interface FileUnitTried {
  readonly unit: FileUnit
  readonly label: string
  /** mm */
  readonly size: Vec3
  /** whether a printer could print it at once, turned about the upright or tipped onto another side if need be */
  readonly is: 'printable' | 'too small' | 'too large'
}

/** A file of this size, in its own numbers, in each unit. `bed`: the printer's, mm. */
export function inEachUnit(size: Vec3, bed: Vec3): readonly FileUnitTried[] {
  const room = bed.toSorted((a, b) => a - b)
  return fileUnits.map(({ id, label, mm }) => {
    const own = size.map((each) => each * mm) as unknown as Vec3
    const sorted = own.toSorted((a, b) => a - b)
    const fits = sorted.every((each, i) => each <= room[i]!)
    const is = sorted[2]! < smallestPrinted ? 'too small' : fits ? 'printable' : 'too large'
    return { unit: id, label, size: own, is }
  })
}

/**
 * The first unit in which it could be printed; else the first in which it is at most twice as long as the bed, and may be printed in
 * parts or on another printer; else mm.
 */
export function likelyUnit(size: Vec3, bed: Vec3): FileUnit {
  const all = inEachUnit(size, bed)
  const longest = 2 * Math.max(...bed)
  const likely =
    all.find(({ is }) => is === 'printable') ??
    all.find((tried) => tried.is === 'too large' && Math.max(...tried.size) <= longest)
  return likely?.unit ?? 'mm'
}
