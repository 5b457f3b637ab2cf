import type { PartUnit } from '../units/index.ts'

/** What a server keeps of parts, as it is asked for over HTTP. */

/** What the shelf shows of a part. */
export interface ShelfEntry {
  readonly id: string
  readonly name: string
  /** that its sizes are shown in */
  readonly unit: PartUnit
  readonly revision: number
  readonly updatedAt: string
  /** overall size in mm, where the picture was taken */
  readonly size: readonly [number, number, number] | null
  readonly pictureRevision: number | null
}

/** How the shelf can be put in order: the latest changed, by name, the largest. */
export const shelfOrders = ['changed', 'name', 'size'] as const
export type ShelfOrder = (typeof shelfOrders)[number]

/** Some of the parts of the shelf, and how many it has in all. */
export interface ShelfPage {
  readonly total: number
  readonly entries: readonly ShelfEntry[]
}

/** An earlier version of a part. */
export interface RevisionEntry {
  readonly revision: number
  readonly createdAt: string
  readonly name: string
}
