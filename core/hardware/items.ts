import type { Family, Item, ItemKind } from './define.ts'
import { families } from './registry.ts'

/** All sizes of a family, in the order of its table. */
export function itemsOf(family: Family): readonly Item[] {
  const columns = Object.keys(family.columns)
  const unit = family.unit === 'in' ? 25.4 : 1
  return Object.entries(family.rows).map(([size, row]) => ({
    id: `${family.id} ${size}`,
    family,
    size,
    label: `${size} ${family.label}`,
    sizes: { ...family.threads?.[size], ...Object.fromEntries(columns.map((name, i) => [name, unit * row[i]!])) },
  }))
}

const all: readonly Item[] = families.flatMap(itemsOf)
const byId = new Map(all.map((item) => [item.id, item]))

export function itemOf(id: string): Item | undefined {
  return byId.get(id)
}

/** All items of some kinds, metric first. */
export function itemsFor(kinds: readonly ItemKind[]): readonly Item[] {
  return all.filter(({ family }) => kinds.includes(family.kind))
}
