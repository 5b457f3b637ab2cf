import type { Material } from './materials.ts'
import type { Printer } from './printers.ts'

/** What a workshop keeps a list of. */
export interface WorkshopThings {
  readonly printers: Printer
  readonly materials: Material
}
export type WorkshopKind = keyof WorkshopThings
export const workshopKinds: readonly WorkshopKind[] = ['printers', 'materials']

/** A printer or material as it is kept. */
export interface KeptThing<T> {
  readonly thing: T
  /** counts its changes, from 1 */
  readonly revision: number
  /** as it was before, the latest first: parts that carry one of these go with it */
  readonly formerly: readonly T[]
  readonly updatedAt: string
}

export function sameThing(one: object, other: object): boolean {
  return JSON.stringify(ordered(one)) === JSON.stringify(ordered(other))
}

/** With the members of all records in one order: files are written by many hands. */
function ordered(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(ordered)
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([name, each]) => [name, ordered(each)]),
  )
}

/** The names of what differs between two of a kind, as their fields are called. */
export function differing<T extends object>(one: T, other: T): readonly string[] {
  const names = [...new Set([...Object.keys(one), ...Object.keys(other)])]
  return names.filter(
    (name) => !sameThing({ at: one[name as keyof T] ?? null }, { at: other[name as keyof T] ?? null }),
  )
}

/**
 * How what a part carries stands to the list of the workshop: the same; changed there since (`was` one of its former states), so
 * that the part goes with it; another one of that name, as in a file from elsewhere; or not in the list.
 */
export type InWorkshop<T> =
  | { readonly kind: 'same' }
  | { readonly kind: 'changed' | 'other'; readonly now: T }
  | { readonly kind: 'gone' }

export function standingOf<T extends { readonly id: string }>(
  carried: T,
  list: readonly KeptThing<T>[],
): InWorkshop<T> {
  const kept = list.find(({ thing }) => thing.id === carried.id)
  if (!kept) return { kind: 'gone' }
  if (sameThing(kept.thing, carried)) return { kind: 'same' }
  return { kind: kept.formerly.some((was) => sameThing(was, carried)) ? 'changed' : 'other', now: kept.thing }
}
