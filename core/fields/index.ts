import type { ValueKind } from '../measures/index.ts'

/** What all kinds of field have in common. */
interface FieldBase {
  readonly label: string
  readonly default: string
  /** what it means, in a sentence */
  readonly meaning: string
  /** rarely changed: shown behind "more" */
  readonly rare?: boolean
}

/** An expression. All sizes in mm, angles in degrees. */
export interface NumberField extends FieldBase {
  readonly kind: ValueKind
  /** smallest value allowed; `above` excludes the value itself */
  readonly least?: number
  readonly above?: number
  readonly most?: number
}

export interface ChoiceField extends FieldBase {
  readonly kind: 'choice'
  /** stored word -> how it reads in the sentence */
  readonly choices: Readonly<Record<string, string>>
}

/** Words as they stand; `{wall}` in them is an expression, shown as its value. */
export interface TextField extends FieldBase {
  readonly kind: 'text'
  /** most characters, once expressions are filled in */
  readonly most: number
}

/** Points in space, "0, 0, 0; 20, 0, 0; …": three lengths each, which may be expressions. */
export interface CornersField extends FieldBase {
  readonly kind: 'corners'
  readonly least: number
  readonly most: number
}

/** A value of a shape, repeat or joint that a maker sets. */
export type FieldDefinition = NumberField | ChoiceField | TextField | CornersField
export type FieldKind = FieldDefinition['kind']
export type Fields = Readonly<Record<string, FieldDefinition>>

export type Corner = readonly [number, number, number]
/** A computed value: mm, degrees or a plain number; the stored word of a choice; a text; corners in mm. */
export type FieldValue = number | string | readonly Corner[]
export type AnyValues = Readonly<Record<string, FieldValue>>

type ValueOf<D extends FieldDefinition> = D extends { readonly kind: 'choice'; readonly choices: infer C }
  ? keyof C & string
  : D extends TextField
    ? string
    : D extends CornersField
      ? readonly Corner[]
      : number
export type ValuesOf<F extends Fields> = { readonly [K in keyof F]: ValueOf<F[K]> }

/** Words and fields in the order they are read. */
export type SentencePart = string | { readonly field: string }

/** A length that must be more than nothing: what most fields of shapes are. */
export function size(label: string, standard: string, meaning: string): NumberField & { readonly kind: 'length' } {
  return { kind: 'length', label, default: standard, above: 0, most: 10_000, meaning }
}

/** The words in the order of the fields' definitions, for a new step. */
export function defaultFields(fields: Fields): Readonly<Record<string, string>> {
  return Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, field.default]))
}

export function isNumberField(field: FieldDefinition): field is NumberField {
  return field.kind !== 'choice' && field.kind !== 'text' && field.kind !== 'corners'
}

/**
 * The coordinates of corners as they were typed: corners end at a semicolon or a new line, coordinates at a comma that
 * stands in no brackets. `start` is the position of each coordinate in the text.
 */
export function cornerTexts(text: string): { readonly text: string; readonly start: number }[][] {
  const corners: { text: string; start: number }[][] = [[]]
  let depth = 0
  let start = 0
  const end = (at: number) => {
    corners.at(-1)!.push({ text: text.slice(start, at), start })
    start = at + 1
  }
  for (let i = 0; i < text.length; i++) {
    const c = text[i]
    if (c === '(') depth++
    else if (c === ')') depth--
    else if (c === ';' || c === '\n') {
      end(i)
      corners.push([])
    } else if (c === ',' && depth === 0) end(i)
  }
  end(text.length)
  // A separator at the very end begins no further corner.
  return corners.filter((corner) => corner.length > 1 || corner[0]!.text.trim() !== '')
}

/** The text of corners with each coordinate put through `change`. */
export function mapCorners(text: string, change: (coordinate: string) => string): string {
  return cornerTexts(text)
    .map((corner) => corner.map((coordinate) => change(coordinate.text.trim())).join(', '))
    .join('; ')
}

/**
 * Finds a definition of a registry by its kind.
 * @throws Error at once where two are of one kind
 */
export function registered<T extends { readonly kind: string }>(definitions: readonly T[]) {
  const byKind = new Map<string, T>()
  for (const definition of definitions) {
    if (byKind.has(definition.kind)) throw new Error(`two kinds are called ${definition.kind}`)
    byKind.set(definition.kind, definition)
  }
  return (kind: string): T | undefined => byKind.get(kind)
}
