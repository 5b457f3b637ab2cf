import type { Measure } from '../../measures/index.ts'
import type { FieldKindOf, Part, Readout, Variant } from '../format.ts'
import { withItemAdded, withItemChanged, withItemRemoved, without } from './lists.ts'
import { withMeasureRenamed, withReadoutRenamed } from './names.ts'

interface Id {
  readonly id: string
}
interface Renaming extends Id {
  readonly name: string
}

/** Measures, the variants of their values, and read-outs. */
export const measureEdits = {
  'add-measure': (part: Part, { measure }: { readonly measure: Measure }): Part =>
    withItemAdded(part, 'measures', measure),
  'set-measure': (part: Part, { id, change }: Id & { readonly change: Partial<Omit<Measure, 'id' | 'name'>> }): Part =>
    withItemChanged(part, 'measures', id, (measure) => ({ ...measure, ...change })),
  'rename-measure': (part: Part, { id, name }: Renaming, kindOf: FieldKindOf): Part =>
    withMeasureRenamed(part, id, name, kindOf),
  'remove-measure': (part: Part, { id }: Id): Part => ({
    ...withItemRemoved(part, 'measures', id),
    variants: part.variants.map((variant) => ({ ...variant, values: without(variant.values, id) })),
  }),

  'add-variant': (part: Part, { variant }: { readonly variant: Variant }): Part => ({
    ...withItemAdded(part, 'variants', variant),
    variant: variant.id,
  }),
  'rename-variant': (part: Part, { id, name }: Renaming): Part =>
    withItemChanged(part, 'variants', id, (variant) => ({ ...variant, name })),
  'remove-variant': (part: Part, { id }: Id): Part => ({
    ...withItemRemoved(part, 'variants', id),
    variant: part.variant === id ? '' : part.variant,
  }),
  /** an empty id: the measures as they are typed */
  'choose-variant': (part: Part, { id }: Id): Part => (part.variant === id ? part : { ...part, variant: id }),
  /** without an expression, the measure is in this variant what it is in all */
  'set-variant-value': (
    part: Part,
    { id, measure, expression }: Id & { readonly measure: string; readonly expression: string | undefined },
  ): Part =>
    withItemChanged(part, 'variants', id, (variant) => ({
      ...variant,
      values:
        expression === undefined ? without(variant.values, measure) : { ...variant.values, [measure]: expression },
    })),

  'add-readout': (part: Part, { readout }: { readonly readout: Readout }): Part =>
    withItemAdded(part, 'readouts', readout),
  'set-readout': (part: Part, { id, change }: Id & { readonly change: Partial<Omit<Readout, 'id' | 'name'>> }): Part =>
    withItemChanged(part, 'readouts', id, (readout) => ({ ...readout, ...change })),
  'rename-readout': (part: Part, { id, name }: Renaming, kindOf: FieldKindOf): Part =>
    withReadoutRenamed(part, id, name, kindOf),
  'remove-readout': (part: Part, { id }: Id): Part => withItemRemoved(part, 'readouts', id),
}
