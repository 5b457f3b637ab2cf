import type { Drawn } from '../../plane/index.ts'
import { type FieldBase, type FieldKindDefinition, holdsNoExpressions, type OutlineText } from '../define.ts'

/** An outline of the part, by its id; some of its regions, where not all that are filled are meant (see `outlineText`). */
export interface OutlineField extends FieldBase {
  readonly kind: 'outline'
  /** it goes by the lines of the outline, whatever regions they bound */
  readonly lines?: true
}

export const outline: FieldKindDefinition<OutlineField, Drawn> = {
  mapExpressions: holdsNoExpressions,
  mapReferences: (text, { outline: other }) => (other ? textOfOutline(other(outlineText(text))) : text),
  resolve: (_, text, working) => working.outline(outlineText(text)),
}

/** Reads "id", or "id|key|key" where regions are chosen. */
export function outlineText(text: string): OutlineText {
  const [id, ...regions] = text.split('|').map((each) => each.trim())
  return { outline: id!, regions: regions.length > 0 ? regions.filter((key) => key !== '') : undefined }
}

/** The text of an outline field; none of its regions is "id|". */
export function textOfOutline({ outline: id, regions }: OutlineText): string {
  if (!regions) return id
  return regions.length === 0 ? `${id}|` : [id, ...regions].join('|')
}
