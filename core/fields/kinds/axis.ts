import { type FieldBase, type FieldKindDefinition, holdsNoExpressions, refersToNothing } from '../define.ts'

/** A straight line of the outline that field `of` names, by its id; its own axes are `x-axis` and `y-axis`. */
export interface AxisField extends FieldBase {
  readonly kind: 'axis'
  readonly of: string
}

export const axis: FieldKindDefinition<AxisField, string> = {
  mapExpressions: holdsNoExpressions,
  // A line goes with its outline, which field `of` refers to.
  mapReferences: refersToNothing,
  resolve: (_, text) => text,
}
