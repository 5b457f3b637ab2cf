import { list, number, record, type Typed, table, text, textLike, tripleOf } from './described.ts'
import { documentLimits } from './limits.ts'

/** Words that the descriptions of all things in a part file are made of. */

export const id = textLike(/^[A-Za-z0-9_-]{1,64}$/, { told: 'must be 1 to 64 letters, digits, - or _' })
/** A piece, or one of the bodies that it was parted into: "p1.2". */
export const body = textLike(/^[A-Za-z0-9_-]{1,64}(\.[1-9][0-9]{0,3})?$/, {
  told: 'must be the id of a piece, or that and the number of a body that it was parted into',
})
export const name = text({ most: documentLimits.name })
/** The SHA-256 (FIPS 180-4) of an asset's data, in hexadecimal digits. */
export const hash = textLike(/^[0-9a-f]{64}$/, { told: 'must be 64 hexadecimal digits' })
export const note = text({ most: documentLimits.note })
/** Numbers are kept as they were typed, as expressions. */
export const expression = text({ most: documentLimits.text })
/** Lists of corners are longer than any expression. */
export const fieldText = text({ most: documentLimits.field })
/** A shape's fields by name: expression, choice or yes/no, always as text. */
export const fieldTexts = table(/^[a-zA-Z][a-zA-Z0-9]{0,40}$/, fieldText, { most: 40 })
export type FieldTexts = Typed<typeof fieldTexts>

export const triple = tripleOf(number())
export type Triple = Typed<typeof triple>

/** Copies of a step; the kinds are those of the registry of repeats. Each repeat copies what the ones before it made. */
export const repeat = record({ kind: id, fields: fieldTexts })
export interface Repeat extends Typed<typeof repeat> {}
export const repeats = list(repeat, { most: documentLimits.repeats })
