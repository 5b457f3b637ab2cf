import type { Drawn } from '../../plane/index.ts'
import type { FieldBase, FieldKindDefinition } from '../define.ts'
import { listed, replaced } from '../stretches.ts'
import { outlineText, textOfOutline } from './outline.ts'

/** Several outlines, each at a height: "id, 0; id|key, 20", the heights being lengths that may be expressions. */
export interface SectionsField extends FieldBase {
  readonly kind: 'sections'
  readonly least: number
  readonly most: number
}
export interface Section {
  readonly outline: Drawn
  /** mm */
  readonly height: number
}

export const sections: FieldKindDefinition<SectionsField, readonly Section[]> = {
  mapExpressions: (text, change) =>
    replaced(
      text,
      listed(text).flatMap(([, height]) => (height ? [height] : [])),
      (height) => change(height, 'length'),
    ),
  mapReferences: (text, { outline: other }) =>
    other
      ? sectionsText(
          sectionTexts(text).map(({ outline, height }) => ({
            outline: textOfOutline(other(outlineText(outline))),
            height,
          })),
        )
      : text,
  resolve({ label, least, most }, text, working) {
    const found = sectionTexts(text).map(({ outline, height }) => {
      const drawn = working.outline(outlineText(outline))
      const at = drawn && working.number(height, 'length')
      return drawn && at !== undefined ? { outline: drawn, height: at } : undefined
    })
    if (found.includes(undefined)) return undefined
    const { length: count } = found
    if (count < least || count > most) return working.tell('sections-count', { label, count, least, most })
    return found as Section[]
  },
}

/** The text of the outline and that of its height, section by section. */
export function sectionTexts(text: string): { readonly outline: string; readonly height: string }[] {
  return listed(text).map(([outline, height]) => ({
    outline: outline!.text.trim(),
    height: (height?.text ?? '').trim(),
  }))
}

export function sectionsText(sections: readonly { readonly outline: string; readonly height: string }[]): string {
  return sections.map(({ outline, height }) => `${outline}, ${height}`).join('; ')
}
