import { listed } from '../document/index.ts'
import type { Blanks } from '../problems/index.ts'
import { formatNumber, mmPer, type PartUnit } from '../units/index.ts'

/** mm, mm² or mm³, one or several sides of the same thing. */
export interface Size {
  readonly of: readonly number[]
  readonly unit: 'mm' | 'mm²' | 'mm³'
}

/** What stands in a place of a text: a name or a word is said as it is, a size in the unit of the part. */
export type Value = string | number | Size | Clause | Sentences | readonly Value[]
/** Said one after the other; several values that are no sentences are listed: "a, b and c". */
export interface Sentences {
  readonly sentences: readonly Clause[]
}
/** All that one check may say: code -> text; `{name}` places are filled from what was found. */
export type Texts = Readonly<Record<string, string>>
export type ValuesIn<Text extends string> = { readonly [K in Blanks<Text>]: Value }

/** A text with what stands in its places; the code names it, whatever its words are. */
export interface Clause {
  readonly code: string
  readonly pattern: string
  readonly values: Readonly<Record<string, Value>>
}

export function clause<T extends Texts, C extends keyof T & string>(texts: T, code: C, values: ValuesIn<T[C]>): Clause {
  return { code, pattern: texts[code]!, values }
}

export const sentences = (...all: readonly Clause[]): Sentences => ({ sentences: all })
export const mm = (...of: readonly number[]): Size => ({ of, unit: 'mm' })
export const mm2 = (...of: readonly number[]): Size => ({ of, unit: 'mm²' })
export const mm3 = (...of: readonly number[]): Size => ({ of, unit: 'mm³' })

/** A text in words, with its sizes in this unit. */
export function phrased({ pattern, values }: Clause, unit: PartUnit): string {
  return pattern.replace(/\{(\w+)\}/g, (_, name: string) => said(values[name]!, unit))
}

function said(value: Value, unit: PartUnit): string {
  if (typeof value === 'string') return value
  if (typeof value === 'number') return value.toLocaleString('en', { maximumFractionDigits: 3 })
  if ('code' in value) return phrased(value, unit)
  if ('unit' in value) return sizeText(value, unit)
  if ('sentences' in value) return value.sentences.map((each) => phrased(each, unit)).join('')
  return listed(value.map((each) => said(each, unit)))
}

/** Areas and volumes are told to these significant digits. */
const digits = { 'mm²': 3, 'mm³': 4 }

function sizeText({ of, unit: measured }: Size, unit: PartUnit): string {
  if (measured === 'mm')
    return `${of.map((each) => formatNumber(each / mmPer(unit), unit === 'mm' ? 3 : 4)).join(' × ')} ${unit}`
  const per = mmPer(unit) ** (measured === 'mm²' ? 2 : 3)
  const shown = of.map((each) => {
    const rounded = Number((each / per).toPrecision(digits[measured]))
    return rounded.toLocaleString('en', { maximumFractionDigits: unit === 'mm' ? 3 : 6 })
  })
  return `${shown.join(' × ')} ${unit}${measured.at(-1)}`
}

/** Values for programs: sizes as bare numbers in mm, mm² and mm³, and what is said in words in mm. */
export function plainValues(values: Clause['values']): Readonly<Record<string, unknown>> {
  return Object.fromEntries(Object.entries(values).map(([name, value]) => [name, plainOf(value)]))
}

function plainOf(value: Value): unknown {
  if (typeof value !== 'object') return value
  if ('unit' in value) return value.of.length === 1 ? value.of[0] : value.of
  return 'sentences' in value || 'code' in value ? said(value, 'mm') : value.map(plainOf)
}
