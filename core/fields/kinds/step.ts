import { type FieldBase, type FieldKindDefinition, holdsNoExpressions } from '../define.ts'

/** Another step of the part, by its id. */
export interface StepField extends FieldBase {
  readonly kind: 'step'
  /** kinds of shapes; any without */
  readonly of?: readonly string[]
  /** kinds of shapes that a new one names sooner than others */
  readonly rather?: readonly string[]
  /** of a joint: which of its pieces the step is in */
  readonly side?: 0 | 1
}

/** What is known of another step. */
export interface StepValue {
  readonly id: string
  readonly shape: string
  /** whether it puts material there */
  readonly adds: boolean
  /** what its own fields come to */
  readonly values: Readonly<Record<string, unknown>>
}

export const step: FieldKindDefinition<StepField, StepValue> = {
  mapExpressions: holdsNoExpressions,
  mapReferences: (text, { step: other }) => (text === '' ? text : (other?.(text) ?? text)),
  resolve({ label, of, side }, text, working) {
    const found = working.step(text, side)
    if (!found) return working.tell(text === '' ? 'step-choose' : 'step-missing', { label })
    return !of || of.includes(found.shape) ? found : working.tell('step-unlike', { label })
  },
}
