import { type FieldBase, type FieldKindDefinition, refersToNothing } from '../define.ts'
import { listed, replaced } from '../stretches.ts'

/** Points in space, "0, 0, 0; 20, 0, 0; …": three lengths each, which may be expressions. */
export interface CornersField extends FieldBase {
  readonly kind: 'corners'
  readonly least: number
  readonly most: number
}

/** mm */
export type Corner = readonly [number, number, number]

export const corners: FieldKindDefinition<CornersField, readonly Corner[]> = {
  mapExpressions: (text, change) => replaced(text, listed(text).flat(), (inner) => change(inner, 'length')),
  mapReferences: refersToNothing,
  resolve({ label, least, most }, text, working) {
    const found: Corner[] = []
    for (const [i, texts] of listed(text).entries()) {
      if (texts.length !== 3) return working.tell('corner-unlike', { number: i + 1, count: texts.length })
      const corner = texts.map((coordinate) => working.number(coordinate.text, 'length'))
      if (corner.includes(undefined)) return undefined
      found.push(corner as unknown as Corner)
    }
    const { length: count } = found
    return count < least || count > most ? working.tell('corners-count', { label, count, least, most }) : found
  },
}
