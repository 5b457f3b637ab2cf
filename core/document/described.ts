/**
 * What a part file holds, described once: from a description come the check of what is read (`schemas.ts`, which whoever only builds
 * or draws needs nothing of), and the type that it then has.
 *
 *     const joint = record({ id, name, pieces: list(id, { least: 2, most: 2 }) })
 *     type Joint = Typed<typeof joint>
 *
 * Nothing is converted, and what is not described is refused.
 */
export interface Described<T> {
  readonly form: Form
  /** never there; it carries the type */
  readonly gives?: T
}

/** What a description says. */
export type Form =
  | { readonly kind: 'record'; readonly members: Members }
  | {
      readonly kind: 'list'
      readonly item: Form
      readonly least?: number | undefined
      readonly most: number
      readonly distinct?: string | undefined
    }
  | { readonly kind: 'just'; readonly item: Form; readonly count: number }
  | { readonly kind: 'oneOf'; readonly values: readonly (string | number)[] }
  | { readonly kind: 'anyOf'; readonly forms: readonly Form[] }
  | {
      readonly kind: 'byKind'
      readonly key: string
      readonly variants: Readonly<Record<string, Form>>
      readonly otherwise: string
    }
  | { readonly kind: 'table'; readonly key: RegExp | Form; readonly value: Form; readonly most: number }
  | { readonly kind: 'flag' | 'date' }
  | {
      readonly kind: 'number'
      readonly whole?: boolean
      readonly least?: number | undefined
      readonly above?: number | undefined
      readonly most?: number | undefined
    }
  | { readonly kind: 'text'; readonly least?: number | undefined; readonly most?: number | undefined }
  | {
      readonly kind: 'textLike'
      readonly pattern: RegExp
      readonly most?: number | undefined
      readonly told?: string | undefined
    }
  | { readonly kind: 'orEmpty'; readonly form: Form }
  | { readonly kind: 'again'; readonly name: string }
  | { readonly kind: 'named'; readonly name: string; readonly form: Form }

export type Typed<D> = D extends Described<infer T> ? T : never

interface Optional<T> extends Described<T> {
  readonly optional: true
}

type Members = Readonly<Record<string, Described<unknown>>>
type MembersOf<M> = {
  readonly [K in keyof M as M[K] extends Optional<unknown> ? never : K]: Typed<M[K]>
} & {
  readonly [K in keyof M as M[K] extends Optional<unknown> ? K : never]?: Typed<M[K]> | undefined
}
type Flat<T> = { [K in keyof T]: T[K] }

export interface DescribedRecord<M extends Members> extends Described<Flat<MembersOf<M>>> {
  readonly members: M
}

export function record<M extends Members>(members: M): DescribedRecord<M> {
  return { form: { kind: 'record', members }, members }
}

export function optional<T>({ form }: Described<T>): Optional<T> {
  return { form, optional: true }
}

export function list<T>(
  { form: item }: Described<T>,
  limits: { least?: number; most: number; distinct?: string },
): Described<readonly T[]> {
  return { form: { kind: 'list', item, ...limits } }
}

/** A list of just these, in this order. */
export function pairOf<T>({ form: item }: Described<T>): Described<readonly [T, T]> {
  return { form: { kind: 'just', item, count: 2 } }
}
export function tripleOf<T>({ form: item }: Described<T>): Described<readonly [T, T, T]> {
  return { form: { kind: 'just', item, count: 3 } }
}

/** One of these words or numbers. */
export function oneOf<const T extends readonly (string | number)[]>(...values: T): Described<T[number]> {
  return { form: { kind: 'oneOf', values } }
}

export function anyOf<const D extends readonly Described<unknown>[]>(...described: D): Described<Typed<D[number]>> {
  return { form: { kind: 'anyOf', forms: described.map(({ form }) => form) } }
}

/** Records that are told apart by what they have for `key`; `otherwise` says what else is refused. */
export function byKind<const V extends Readonly<Record<string, Described<unknown>>>>(
  key: string,
  variants: V,
  otherwise: string,
): Described<Typed<V[keyof V]>> {
  const forms = Object.fromEntries(Object.entries(variants).map(([kind, { form }]) => [kind, form]))
  return { form: { kind: 'byKind', key, variants: forms, otherwise } }
}

/** Values by name. */
export function table<T>(
  key: RegExp | Described<string>,
  { form: value }: Described<T>,
  { most }: { most: number },
): Described<Readonly<Record<string, T>>> {
  return { form: { kind: 'table', key: key instanceof RegExp ? key : key.form, value, most } }
}

export const flag: Described<boolean> = { form: { kind: 'flag' } }

export function number(more: { least?: number; above?: number; most?: number } = {}): Described<number> {
  return { form: { kind: 'number', ...more } }
}

export function whole(least: number, most?: number): Described<number> {
  return { form: { kind: 'number', whole: true, least, most } }
}

/** Text that may be empty, unless `least` says otherwise. */
export function text(more: { least?: number; most?: number }): Described<string> {
  return { form: { kind: 'text', ...more } }
}

/** Text of a form; `told` is what is said of any other, behind the place where it is. */
export function textLike<T extends string = string>(
  pattern: RegExp,
  more: { most?: number; told?: string } = {},
): Described<T> {
  return { form: { kind: 'textLike', pattern, ...more } }
}

/** The same, or the empty text. */
export function orEmpty<T extends string>({ form }: Described<T>): Described<T> {
  return { form: { kind: 'orEmpty', form } }
}

/** A date as it is written by `Date.toISOString`. */
export const date: Described<string> = { form: { kind: 'date' } }

/** What a description describes further down in itself, by its name. */
export function again<T>(name: string): Described<T> {
  return { form: { kind: 'again', name } }
}
export function named<T>(name: string, { form }: Described<T>): Described<T> {
  return { form: { kind: 'named', name, form } }
}
