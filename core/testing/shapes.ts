import { type AnyValues, type FieldValue, isNumberField } from '../fields/index.ts'
import { fitGaps, shippedPrinters } from '../fits/index.ts'
import { itemOf } from '../hardware/index.ts'
import type { Ring, Scope } from '../kernel/index.ts'
import type { Frame } from '../place/index.ts'
import { type ShapeDefinition, shapeOf } from '../shapes/index.ts'
import { sampleAsset } from './meshes.ts'
import { sampleOf } from './outlines.ts'
import { nearly } from './values.ts'

const gaps = fitGaps(shippedPrinters[0]!)

/** Numbers are written plainly in the defaults of shapes, or by the name of a fit, corners as three of them. */
export const defaults = (kind: string): Record<string, FieldValue> =>
  Object.fromEntries(
    Object.entries(shapeOf(kind)!.fields).map(([name, field]): [string, FieldValue] => {
      if (field.kind === 'corners')
        return [name, field.default.split(';').map((corner) => corner.split(',').map(Number)) as never]
      if (field.kind === 'outline' || field.kind === 'sections') return [name, sampleOf(kind, name)]
      if (field.kind === 'item') return [name, itemOf(field.default)!]
      if (field.kind === 'asset') return [name, sampleAsset()]
      return [name, isNumberField(field) ? (gaps[field.default] ?? Number(field.default)) : field.default]
    }),
  )
/** Something below it for what goes on to what it meets. */
export function met({ meets }: ShapeDefinition, scope: Scope) {
  const ground: Ring = [
    [-30, -20],
    [30, -20],
    [30, 0],
    [-30, 0],
  ]
  const under: Frame = { origin: [0, 0, -20], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] }
  return meets ? { material: scope.placed(scope.extrude([ground], 40), under) } : {}
}
/** Values that nobody chose: each size a fifth smaller or larger at most, choices as they are; such as can be. */
export function anyValues(
  kind: string,
  random: () => number,
  chosen: AnyValues = {},
): Record<string, FieldValue> | undefined {
  return nearly(shapeOf(kind)!, defaults(kind), random, chosen)
}

/** A corner that can be rounded, and a part that the widest circle lies in. */
export const given: Record<string, AnyValues> = { plate: { corner: 3.3 }, ball: { from: 6.7 } }
