/**
 * What has changed between two values that share what has not: parts after an edit, for one. It holds what is new alone, so
 * that it is small to send; and what is the same stays the same object on the other side, where it is known by that.
 */
export type Patch =
  | { readonly kind: 'same' }
  | { readonly kind: 'new'; readonly value: unknown }
  | { readonly kind: 'record'; readonly fields: Readonly<Record<string, Patch>>; readonly gone: readonly string[] }
  /** for each item of the list which one of the list before it is, or comes from with what has changed of it; −1 where it is new */
  | { readonly kind: 'list'; readonly items: readonly (number | { readonly from: number; readonly patch: Patch })[] }

const same: Patch = { kind: 'same' }

export function patchBetween(before: unknown, after: unknown): Patch {
  if (before === after) return same
  if (Array.isArray(before) && Array.isArray(after)) return listPatch(before, after)
  if (isRecord(before) && isRecord(after)) {
    const changed = Object.keys(after).filter((key) => !Object.hasOwn(before, key) || before[key] !== after[key])
    const gone = Object.keys(before).filter((key) => !Object.hasOwn(after, key))
    return {
      kind: 'record',
      fields: Object.fromEntries(changed.map((key) => [key, patchBetween(before[key], after[key])])),
      gone,
    }
  }
  return { kind: 'new', value: after }
}

/** Items are the same by what they are, or go on from the one that has their id. */
function listPatch(before: readonly unknown[], after: readonly unknown[]): Patch {
  const places = new Map(before.map((item, i) => [item, i]))
  const ids = new Map(before.flatMap((item, i) => (isRecord(item) && 'id' in item ? [[item.id, i]] : [])))
  return {
    kind: 'list',
    items: after.map((item) => {
      const at = places.get(item)
      if (at !== undefined && (isRecord(item) || Array.isArray(item))) return at
      const other = isRecord(item) && 'id' in item ? ids.get(item.id) : undefined
      if (other === undefined) return { from: -1, patch: { kind: 'new', value: item } }
      return { from: other, patch: patchBetween(before[other], item) }
    }),
  }
}

/**
 * The value that a patch was made for, from the one that it was made from.
 * @throws Error where it was made from another one
 */
export function patched<T>(before: T, patch: Patch): T
export function patched(before: unknown, patch: Patch): unknown {
  if (patch.kind === 'same') return before
  if (patch.kind === 'new') return patch.value
  if (patch.kind === 'list') {
    if (!Array.isArray(before)) throw new Error('the patch is for something else')
    return patch.items.map((item) =>
      typeof item === 'number' ? before[item] : patched(item.from < 0 ? undefined : before[item.from], item.patch),
    )
  }
  if (!isRecord(before)) throw new Error('the patch is for something else')
  const kept = Object.entries(before).filter(([key]) => !patch.gone.includes(key))
  const changed = Object.entries(patch.fields).map(([key, own]) => [key, patched(before[key], own)] as const)
  return { ...Object.fromEntries(kept), ...Object.fromEntries(changed) }
}

function isRecord(value: unknown): value is Readonly<Record<string, unknown>> {
  return typeof value === 'object' && value !== null && !Array.isArray(value)
}
