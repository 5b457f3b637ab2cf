import { findItems, type Item, type ItemKind, itemOf } from '../../hardware/index.ts'
import { type FieldBase, type FieldKindDefinition, holdsNoExpressions, refersToNothing } from '../define.ts'

/** An item of hardware, by its id. */
export interface ItemField extends FieldBase {
  readonly kind: 'item'
  readonly of: readonly ItemKind[]
}

/** So many are offered where what was typed is none. */
const mostOffered = 3

export const item: FieldKindDefinition<ItemField, Item> = {
  mapExpressions: holdsNoExpressions,
  mapReferences: refersToNothing,
  resolve({ label, of }, text, { tell }) {
    const found = itemOf(text)
    if (found && of.includes(found.family.kind)) return found
    const near = nearestItems(text, of)
    const nearest = near[0] && { text: near[0].id, shown: near[0].label }
    return found
      ? tell('item-unlike', { label, item: found.label }, nearest)
      : tell('item-unknown', { label, value: text, known: near.map((each) => each.label).join(', ') }, nearest)
  },
}

/** Items that may be meant by words that none of them fits: those whose thread, or first size, is nearest to the number in it. */
export function nearestItems(text: string, of: readonly ItemKind[]): readonly Item[] {
  const found = findItems(text, of)
  if (found.length > 0) return found.slice(0, mostOffered)
  const wanted = Number(/\d+(?:\.\d+)?/.exec(text.replace(/^\S*-\d[\d.-]*\s/, ''))?.[0] ?? Number.NaN)
  const all = findItems('', of)
  if (!Number.isFinite(wanted)) return all.slice(0, mostOffered)
  const first = all[0]?.family
  const off = ({ sizes }: Item) => Math.abs((sizes.thread ?? Object.values(sizes)[0]!) - wanted)
  return all
    .filter(({ family }) => family === first)
    .sort((a, b) => off(a) - off(b))
    .slice(0, mostOffered)
}
