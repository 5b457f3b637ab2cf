import Joi from 'joi'

/**
 * What a part file holds, described once: from a description come the check of what is read, and the type that it then has.
 *
 *     const joint = record({ id, name, pieces: list(id, { least: 2, most: 2 }) })
 *     type Joint = Typed<typeof joint>
 *
 * Nothing is converted, and what is not described is refused.
 */
export interface Described<T> {
  readonly schema: Joi.Schema
  /** never there; it carries the type */
  readonly gives?: T
}
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
  const keys = Object.entries(members).map(([name, { schema, ...more }]) => [
    name,
    'optional' in more ? schema : schema.required(),
  ])
  return { schema: Joi.object(Object.fromEntries(keys)), members }
}

export function optional<T>({ schema }: Described<T>): Optional<T> {
  return { schema, optional: true }
}

export function list<T>(
  item: Described<T>,
  { least, most, distinct }: { least?: number; most: number; distinct?: string },
): Described<readonly T[]> {
  let schema = Joi.array().items(item.schema).max(most)
  if (least !== undefined) schema = schema.min(least)
  return { schema: distinct === undefined ? schema : schema.unique(distinct) }
}

/** A list of just these, in this order. */
export function pairOf<T>(item: Described<T>): Described<readonly [T, T]> {
  return { schema: Joi.array().items(item.schema).length(2) }
}
export function tripleOf<T>(item: Described<T>): Described<readonly [T, T, T]> {
  return { schema: Joi.array().items(item.schema).length(3) }
}

/** One of these words or numbers. */
export function oneOf<const T extends readonly (string | number)[]>(...values: T): Described<T[number]> {
  return { schema: Joi.valid(...values) }
}

export function anyOf<const D extends readonly Described<unknown>[]>(...described: D): Described<Typed<D[number]>> {
  return { schema: Joi.alternatives().try(...described.map(({ schema }) => schema)) }
}

/** Records that are told apart by what they have for `key`; `otherwise` says what else is refused. */
export function byKind<const V extends Readonly<Record<string, Described<unknown>>>>(
  key: string,
  variants: V,
  otherwise: string,
): Described<Typed<V[keyof V]>> {
  const cases = Object.entries(variants).map(([kind, { schema }]) => ({ is: kind, then: schema }))
  return {
    schema: Joi.alternatives().conditional(`.${key}`, {
      switch: [
        ...cases.slice(0, -1),
        { ...cases.at(-1)!, otherwise: Joi.forbidden().messages({ 'any.unknown': `{#label} must be ${otherwise}` }) },
      ],
    }),
  }
}

/** Values by name. */
export function table<T>(
  key: RegExp | Described<string>,
  value: Described<T>,
  { most }: { most: number },
): Described<Readonly<Record<string, T>>> {
  return {
    schema: Joi.object()
      .pattern(key instanceof RegExp ? key : key.schema, value.schema)
      .max(most),
  }
}

export const flag: Described<boolean> = { schema: Joi.boolean() }

export function number(more: { least?: number; above?: number; most?: number } = {}): Described<number> {
  let schema = Joi.number()
  if (more.least !== undefined) schema = schema.min(more.least)
  if (more.above !== undefined) schema = schema.greater(more.above)
  if (more.most !== undefined) schema = schema.max(more.most)
  return { schema }
}

export function whole(least: number, most?: number): Described<number> {
  const schema = Joi.number().integer().min(least)
  return { schema: most === undefined ? schema : schema.max(most) }
}

/** Text that may be empty, unless `least` says otherwise. */
export function text(more: { least?: number; most?: number }): Described<string> {
  const schema = more.least ? Joi.string().min(more.least) : Joi.string().allow('')
  return { schema: more.most === undefined ? schema : schema.max(more.most) }
}

/** Text of a form; `told` is what is said of any other, behind the place where it is. */
export function textLike<T extends string = string>(
  pattern: RegExp,
  { most, told }: { most?: number; told?: string } = {},
): Described<T> {
  let schema = Joi.string().pattern(pattern)
  if (most !== undefined) schema = schema.max(most)
  return { schema: told === undefined ? schema : schema.messages({ 'string.pattern.base': `{#label} ${told}` }) }
}

/** A date as it is written by `Date.toISOString`. */
export const date: Described<string> = { schema: Joi.string().isoDate() }

/** What a description describes further down in itself, by its name. */
export function again<T>(name: string): Described<T> {
  return { schema: Joi.link(`#${name}`) }
}
export function named<T>(name: string, { schema }: Described<T>): Described<T> {
  return { schema: schema.id(name) }
}
