import { mapTemplate } from '../../measures/index.ts'
import { type FieldBase, type FieldKindDefinition, refersToNothing } from '../define.ts'

/** Words as they stand; `{wall}` in them is an expression, shown as its value. */
export interface TextField extends FieldBase {
  readonly kind: 'text'
  /** most characters, once expressions are filled in */
  readonly most: number
}

export const text: FieldKindDefinition<TextField, string> = {
  mapExpressions: (words, change) => mapTemplate(words, (inner) => change(inner, 'any')),
  mapReferences: refersToNothing,
  resolve({ label, most }, words, working) {
    const filled = working.filled(words)
    if (filled === undefined || filled.length <= most) return filled
    return working.tell('text-too-long', { label, count: filled.length, limit: most })
  },
}
