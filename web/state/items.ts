import type { Part } from '@makrel/core/document'
import { itemsIn, type StandingItem } from '@makrel/core/planning'
import { workedOf } from './build.ts'

const known = new WeakMap<Part, readonly StandingItem[]>()

/** The items that a part takes, worked out once for each state of it. */
export function itemsOf(part: Part): readonly StandingItem[] {
  const { resolved, plan } = workedOf(part)
  const items = known.get(part) ?? itemsIn(resolved, plan)
  known.set(part, items)
  return items
}
