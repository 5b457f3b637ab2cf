import type { ThreadForm } from './forms/index.ts'

/** What items are for, so that a field can ask for one of a kind. */
export const itemKinds = [
  'screw',
  'set screw',
  'nut',
  'washer',
  'insert',
  'bearing',
  'pin',
  'key',
  'shaft ring',
  'bore ring',
  'magnet',
  'o-ring',
  'thread',
] as const
export type ItemKind = (typeof itemKinds)[number]

/** A screw thread that goes with a size: nominal diameter and pitch, mm. */
export interface ThreadSize {
  readonly thread: number
  readonly pitch: number
}

/** Items of one form in several sizes: one table of one standard. */
export interface Family {
  /** stored in part files, without blanks */
  readonly id: string
  readonly kind: ItemKind
  /** "hex nut" */
  readonly label: string
  /** further words it is found by */
  readonly words: readonly string[]
  /** the standard with its edition as far as it is known; "usual size" where no standard says what is sold */
  readonly standard: string
  /** what the numbers of a row are, in order, by the names that they have */
  readonly columns: Readonly<Record<string, string>>
  /** by what a size is called; in the unit of the table */
  readonly rows: Readonly<Record<string, readonly number[]>>
  /** its head is a cone, which lies in a countersink */
  readonly isCountersunk?: true
  /** it has four flats, not six */
  readonly isSquare?: true
  /** a plain hole of its own size is what it goes into: it springs, or is pressed in */
  readonly inPlainHole?: true
  /** in inches; mm where it is left out */
  readonly unit?: 'in'
  /** the threads that its sizes are called by: they are two more sizes of each item */
  readonly threads?: Readonly<Record<string, ThreadSize>>
  /** of threads: what their section looks like */
  readonly form?: ThreadForm
}

/** One size of a family: what a shop sells. */
export interface Item {
  /** the family's id and the size: "iso-4032 M4" */
  readonly id: string
  readonly family: Family
  /** "M4", "608", "6 × 2" */
  readonly size: string
  /** "M4 hex nut" */
  readonly label: string
  /** by the family's columns, mm; with `thread` and `pitch` where it has one */
  readonly sizes: Readonly<Record<string, number>>
}
