import type { FieldKindOf, Part } from '../format.ts'

/**
 * What kinds of edit do to a part, by their names. What an edit says beside its name is what its function takes, so that
 * one entry of a table is all that there is of a kind. One that names something that is not there leaves the part as it is.
 */
export type EditTable = Readonly<Record<string, (part: Part, edit: never, kindOf: FieldKindOf) => Part>>

export type EditsOf<T extends EditTable> = {
  [K in keyof T]: { readonly type: K } & Parameters<T[K]>[1]
}[keyof T]
