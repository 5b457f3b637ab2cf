import type { NumberField } from './kinds/number.ts'
import type { FieldDefinition, Fields } from './registry.ts'
import { checkVersions, type Versioned } from './versions.ts'

export { defaultFields, plainDefault, usualSize } from './defaults.ts'
export type { FieldExpression, FieldReferences, FieldWorking, OutlineText } from './define.ts'
export { type AssetField, AssetValue } from './kinds/asset.ts'
export type { AxisField } from './kinds/axis.ts'
export type { ChoiceField } from './kinds/choice.ts'
export type { Corner, CornersField } from './kinds/corners.ts'
export {
  type EdgeRule,
  type EdgesField,
  type EdgeTrait,
  edgeRules,
  edgeRulesText,
  edgeTraits,
  type FaceName,
  faceNameOf,
  faceNameText,
} from './kinds/edges.ts'
export {
  type FaceSize,
  type FaceSizesField,
  type FacesField,
  faceNames,
  faceNamesText,
  faceSizesText,
  faceSizeTexts,
} from './kinds/faces.ts'
export type { ItemField } from './kinds/item.ts'
export type { NumberField } from './kinds/number.ts'
export { type OutlineField, outlineText, textOfOutline } from './kinds/outline.ts'
export {
  type PlaneAxis,
  type PlaneField,
  type PlaneOf,
  type PlaneValue,
  planeAxes,
  planeText,
  planeTextOf,
} from './kinds/plane.ts'
export { type Section, type SectionsField, sectionsText, sectionTexts } from './kinds/sections.ts'
export type { StepField, StepValue } from './kinds/step.ts'
export type { TextField } from './kinds/text.ts'
export {
  type AnyValues,
  type FieldDefinition,
  type FieldKind,
  type Fields,
  type FieldValue,
  fieldKind,
  fieldKinds,
  type ValuesOf,
} from './registry.ts'
export { type IsName, lettersOff, matched, typedValues, understood } from './typed.ts'
export { upgradedFields, type Versioned, versionOf, versionTold } from './versions.ts'

/** Words and fields in the order they are read. */
export type SentencePart = string | { readonly field: string }

/** A length that must be more than nothing: what most fields of shapes are. */
export function size(label: string, standard: string, meaning: string): NumberField & { readonly kind: 'length' } {
  return { kind: 'length', label, default: standard, above: 0, most: 10_000, meaning }
}

/** The fields of a step: what goes into nothing where it adds has no fit there. */
export function fieldsWhere(adds: boolean, fields: Fields): Fields {
  if (!adds) return fields
  return Object.fromEntries(
    Object.entries(fields).map(([name, field]) => {
      if (!isNumberField(field) || !field.takesWhenCut) return [name, field]
      const { takes: _, ...rest } = field
      return [name, rest]
    }),
  )
}

export function isNumberField(field: FieldDefinition): field is NumberField {
  return field.kind === 'length' || field.kind === 'angle' || field.kind === 'count' || field.kind === 'ratio'
}

/**
 * Finds a definition of a registry by its kind.
 * @throws Error at once where two are of one kind, or one has no way from each of its versions to the next
 */
export function registered<T extends { readonly kind: string } & Versioned>(definitions: readonly T[]) {
  const byKind = new Map<string, T>()
  for (const definition of definitions) {
    if (byKind.has(definition.kind)) throw new Error(`two kinds are called ${definition.kind}`)
    checkVersions(definition)
    byKind.set(definition.kind, definition)
  }
  return (kind: string): T | undefined => byKind.get(kind)
}
