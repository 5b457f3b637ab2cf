import type { FieldKind } from './field.ts'
import { gapField } from './gapField.ts'
import { leansField, spansField } from './hangingFields.ts'
import { slotsField, wallsField } from './narrowFields.ts'

/** Every kind of field. A new one is its file and its line here. */
export const fieldKinds: readonly FieldKind[] = [gapField, wallsField, slotsField, leansField, spansField]
