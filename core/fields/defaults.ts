import type { PartUnit } from '../units/index.ts'
import { type FieldDefinition, type Fields, fieldKinds } from './registry.ts'

/** The words in the order of the fields' definitions, for a new step of a part in this unit. */
export function defaultFields(fields: Fields, unit: PartUnit = 'mm'): Readonly<Record<string, string>> {
  return Object.fromEntries(
    Object.entries(fields).map(([name, field]) => [
      name,
      unit === 'mm' ? field.default : withLengths(field, ruleInches),
    ]),
  )
}

/** What a field is that was never typed: its default in mm, whatever the part's unit. */
export function plainDefault(field: FieldDefinition): string {
  return withLengths(field, (text) => (isPlainNumber(text) ? `${text} mm` : text))
}

function withLengths(field: FieldDefinition, change: (text: string) => string): string {
  return fieldKinds[field.kind].mapExpressions(field.default, (text, kind) => (kind === 'length' ? change(text) : text))
}

function isPlainNumber(text: string): boolean {
  return /^-?\d+(?:\.\d+)?$/.test(text)
}

/** A size to begin with as it is typed in a part of this unit: of inches about as many as that many mm, as a rule shows them. */
export function usualSize(mm: number, unit: PartUnit): string {
  return unit === 'mm' ? String(mm) : ruleInches(String(mm))
}

/** About as many inches as a number of mm, as they are found on a rule: sixteenths, of small sizes sixty-fourths. */
function ruleInches(text: string): string {
  const mm = Number(text)
  if (!isPlainNumber(text) || mm === 0) return text
  const parts = Math.abs(mm) < 6 ? 64 : 16
  let over = Math.max(1, Math.round((Math.abs(mm) / 25.4) * parts))
  let under = parts
  while (over % 2 === 0 && under > 1) [over, under] = [over / 2, under / 2]
  const [whole, rest] = [Math.floor(over / under), over % under]
  const shown = rest === 0 ? String(whole) : `${whole > 0 ? `${whole} ` : ''}${rest}/${under}`
  return mm < 0 ? `-(${shown})` : shown
}
