import { type FieldBase, type FieldKindDefinition, holdsNoExpressions, refersToNothing } from '../define.ts'

/** One of several words. */
export interface ChoiceField extends FieldBase {
  readonly kind: 'choice'
  /** stored word -> how it reads in the sentence */
  readonly choices: Readonly<Record<string, string>>
}

export const choice: FieldKindDefinition<ChoiceField, string> = {
  mapExpressions: holdsNoExpressions,
  mapReferences: refersToNothing,
  resolve({ choices }, text, { tell }) {
    if (Object.hasOwn(choices, text)) return text
    return tell('choice-unknown', { value: text, known: Object.keys(choices).join(', ') })
  },
}
