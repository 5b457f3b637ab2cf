import type { FieldBase, FieldKindDefinition } from './define.ts'
import { asset } from './kinds/asset.ts'
import { axis } from './kinds/axis.ts'
import { choice } from './kinds/choice.ts'
import { corners } from './kinds/corners.ts'
import { edges } from './kinds/edges.ts'
import { faceSizes, faces } from './kinds/faces.ts'
import { item } from './kinds/item.ts'
import { numberKind } from './kinds/number.ts'
import { outline } from './kinds/outline.ts'
import { plane } from './kinds/plane.ts'
import { sections } from './kinds/sections.ts'
import { step } from './kinds/step.ts'
import { text } from './kinds/text.ts'

/** All kinds of field, by the word that a definition names them with. */
export const fieldKinds = {
  length: numberKind('length'),
  angle: numberKind('angle'),
  count: numberKind('count'),
  ratio: numberKind('ratio'),
  choice,
  text,
  corners,
  outline,
  axis,
  sections,
  asset,
  edges,
  faces,
  faceSizes,
  plane,
  step,
  item,
}

type Kinds = typeof fieldKinds
export type FieldKind = keyof Kinds
type DeclaredBy<K> = K extends FieldKindDefinition<infer D, unknown> ? D : never
type GivenBy<K> = K extends FieldKindDefinition<never, infer V> ? V : never

/** A value of a shape, repeat or joint that a maker sets. */
export type FieldDefinition = DeclaredBy<Kinds[FieldKind]>
export type Fields = Readonly<Record<string, FieldDefinition>>

/** A computed value: mm, degrees or a plain number; the stored word of a choice; a text; corners in mm; solved outlines. */
export type FieldValue = GivenBy<Kinds[FieldKind]>
export type AnyValues = Readonly<Record<string, FieldValue>>

type ValueOf<D extends FieldDefinition> = D extends { readonly kind: 'choice'; readonly choices: infer C }
  ? keyof C & string
  : GivenBy<Kinds[D['kind']]>
export type ValuesOf<F extends Fields> = Fields extends F ? AnyValues : { readonly [K in keyof F]: ValueOf<F[K]> }

/** What is known of a kind of field, whatever it declares; undefined where the kind is not known. */
export function fieldKind(kind: string | undefined): FieldKindDefinition<FieldBase, FieldValue> | undefined {
  return kind !== undefined && Object.hasOwn(fieldKinds, kind)
    ? (fieldKinds[kind as FieldKind] as unknown as FieldKindDefinition<FieldBase, FieldValue>)
    : undefined
}
