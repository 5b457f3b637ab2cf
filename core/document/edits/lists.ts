import type { FieldTexts, Part, Place, Step } from '../format.ts'
import { hasBody, withSiblings } from '../tree.ts'

/** The list with one item changed; the same list where the change comes to nothing. */
export function changed<T extends { readonly id: string }>(
  items: readonly T[],
  id: string,
  change: (item: T) => T,
): readonly T[] {
  const index = items.findIndex((item) => item.id === id)
  const item = items[index]
  if (!item) return items
  const next = change(item)
  return next === item || JSON.stringify(next) === JSON.stringify(item) ? items : items.with(index, next)
}

type Lists = Pick<
  Part,
  | 'outlines'
  | 'measures'
  | 'variants'
  | 'pieces'
  | 'joints'
  | 'readouts'
  | 'views'
  | 'poses'
  | 'flexes'
  | 'loads'
  | 'stances'
  | 'setAside'
>

/** `part` with another list under `key`; the same part where the list is the same. */
export function withList<K extends keyof Lists>(part: Part, key: K, items: Part[K]): Part {
  return items === part[key] ? part : { ...part, [key]: items }
}

/** `part` with one item of a list changed; the same part where that comes to nothing. */
export function withItemChanged<K extends keyof Lists>(
  part: Part,
  key: K,
  id: string,
  change: (item: Lists[K][number]) => Lists[K][number],
): Part {
  const items = part[key] as readonly (Lists[K][number] & { readonly id: string })[]
  return withList(part, key, changed(items, id, change as never) as Part[K])
}

export function withItemAdded<K extends keyof Lists>(part: Part, key: K, item: Lists[K][number]): Part {
  return { ...part, [key]: [...part[key], item] }
}

/** `part` with an item of a list in place of the one with the same id, or behind them all. */
export function withItemKept<K extends keyof Lists>(part: Part, key: K, item: Lists[K][number]): Part {
  const { id } = item as { readonly id: string }
  return (part[key] as readonly { readonly id: string }[]).some((own) => own.id === id)
    ? withItemChanged(part, key, id, () => item)
    : withItemAdded(part, key, item)
}

export function withItemRemoved<K extends keyof Lists>(part: Part, key: K, id: string): Part {
  const items = (part[key] as readonly { readonly id: string }[]).filter((item) => item.id !== id)
  return items.length === part[key].length ? part : { ...part, [key]: items }
}

export function without(values: Readonly<Record<string, string>>, key: string): Readonly<Record<string, string>> {
  const { [key]: _, ...rest } = values
  return rest
}

export function withStep(part: Part, id: string, change: (step: Step) => Step): Part {
  return withSiblings(part, id, (steps) => changed(steps, id, change))
}

interface Placed {
  readonly fields: FieldTexts
  readonly place: Place
}

/** Changes the step or joint `id` that has a place. */
export function withPlaced(part: Part, id: string, change: <T extends Placed>(owner: T) => T): Part {
  if (part.joints.some((joint) => joint.id === id)) return withItemChanged(part, 'joints', id, change)
  return withStep(part, id, (step) => (hasBody(step) ? change(step) : step))
}
