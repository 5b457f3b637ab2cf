import type { ValueKind } from '../measures/index.ts'
import type { Drawn } from '../plane/index.ts'
import type { PartUnit } from '../units/index.ts'

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

/** An outline of the part, by its id; some of its regions, where not all that are filled are meant (see `outlineText`). */
export interface OutlineField extends FieldBase {
  readonly kind: 'outline'
  /** it goes by the lines of the outline, whatever regions they bound */
  readonly lines?: true
}

/** A straight line of the outline that field `of` names, by its id; its own axes are `x-axis` and `y-axis`. */
export interface AxisField extends FieldBase {
  readonly kind: 'axis'
  readonly of: string
}

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

/** A value of a shape, repeat or joint that a maker sets. */
export type FieldDefinition =
  | NumberField
  | ChoiceField
  | TextField
  | CornersField
  | OutlineField
  | AxisField
  | SectionsField
export type FieldKind = FieldDefinition['kind']
export type Fields = Readonly<Record<string, FieldDefinition>>

export type Corner = readonly [number, number, number]
/** A computed value: mm, degrees or a plain number; the stored word of a choice; a text; corners in mm; solved outlines. */
export type FieldValue = number | string | readonly Corner[] | Drawn | readonly Section[]
export type AnyValues = Readonly<Record<string, FieldValue>>

type ValueOf<D extends FieldDefinition> = D extends { readonly kind: 'choice'; readonly choices: infer C }
  ? keyof C & string
  : D extends TextField
    ? string
    : D extends CornersField
      ? readonly Corner[]
      : D extends OutlineField
        ? Drawn
        : D extends AxisField
          ? string
          : D extends SectionsField
            ? readonly Section[]
            : number
export type ValuesOf<F extends Fields> = { readonly [K in keyof F]: ValueOf<F[K]> }

/** Words and fields in the order they are read. */
export type SentencePart = string | { readonly field: string }

/** A length that must be more than nothing: what most fields of shapes are. */
export function size(label: string, standard: string, meaning: string): NumberField & { readonly kind: 'length' } {
  return { kind: 'length', label, default: standard, above: 0, most: 10_000, meaning }
}

/** The words in the order of the fields' definitions, for a new step of a part in this unit. */
export function defaultFields(fields: Fields, unit: PartUnit = 'mm'): Readonly<Record<string, string>> {
  return Object.fromEntries(
    Object.entries(fields).map(([name, field]) => {
      if (unit === 'mm') return [name, field.default]
      if (field.kind === 'length') return [name, ruleInches(field.default)]
      return [name, field.kind === 'corners' ? mapCorners(field.default, ruleInches) : field.default]
    }),
  )
}

/** What a field is that was never typed: its default in mm, whatever the part's unit. */
export function plainDefault(field: FieldDefinition): string {
  const inMm = (text: string) => (isPlainNumber(text) ? `${text} mm` : text)
  if (field.kind === 'length') return inMm(field.default)
  return field.kind === 'corners' ? mapCorners(field.default, inMm) : field.default
}

function isPlainNumber(text: string): boolean {
  return /^-?\d+(?:\.\d+)?$/.test(text)
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

export function isNumberField(field: FieldDefinition): field is NumberField {
  return !['choice', 'text', 'corners', 'outline', 'axis', 'sections'].includes(field.kind)
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

/** What an outline field says: which outline, and which of its regions by their keys; undefined: all that are filled. */
export interface OutlineText {
  readonly outline: string
  readonly regions: readonly string[] | undefined
}

/** Reads "id", or "id|key|key" where regions are chosen. */
export function outlineText(text: string): OutlineText {
  const [outline, ...regions] = text.split('|').map((each) => each.trim())
  return { outline: outline!, regions: regions.length > 0 ? regions.filter((key) => key !== '') : undefined }
}

/** The text of an outline field; none of its regions is "id|". */
export function textOfOutline({ outline, regions }: OutlineText): string {
  if (!regions) return outline
  return regions.length === 0 ? `${outline}|` : [outline, ...regions].join('|')
}

/** The text of corners with each coordinate put through `change`; what stands between them stays as it was typed. */
export function mapCorners(text: string, change: (coordinate: string) => string): string {
  return replaced(text, cornerTexts(text).flat(), change)
}

/** The text with some of its stretches put through `change`, but for the blanks round them. */
function replaced(
  text: string,
  stretches: readonly { readonly text: string; readonly start: number }[],
  change: (stretch: string) => string,
): string {
  return stretches.reduceRight((out, { text: own, start }) => {
    const from = start + own.length - own.trimStart().length
    return out.slice(0, from) + change(own.trim()) + out.slice(from + own.trim().length)
  }, text)
}

/** The text of the outline and that of its height, section by section. */
export function sectionTexts(text: string): { readonly outline: string; readonly height: string }[] {
  return cornerTexts(text).map(([outline, height]) => ({
    outline: outline!.text.trim(),
    height: (height?.text ?? '').trim(),
  }))
}

export function sectionsText(sections: readonly { readonly outline: string; readonly height: string }[]): string {
  return sections.map(({ outline, height }) => `${outline}, ${height}`).join('; ')
}

/** The text of sections with each height put through `change`. */
export function mapSections(text: string, change: (height: string) => string): string {
  return replaced(
    text,
    cornerTexts(text).flatMap(([, height]) => (height ? [height] : [])),
    change,
  )
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
