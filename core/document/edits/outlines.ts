import type { OutlineText } from '../../fields/index.ts'
import type { FieldKindOf, Outline, Part } from '../format.ts'
import { regionsChosen, withOutlines } from '../outlines.ts'
import { allSteps, flattened, withStepLists } from '../tree.ts'
import { withItemAdded, withItemChanged, withItemRemoved } from './lists.ts'

type RegionNames = Readonly<Record<string, readonly string[]>>

export const outlineEdits = {
  'add-outline': (part: Part, { outline }: { readonly outline: Outline }): Part =>
    withItemAdded(part, 'outlines', outline),
  /** `regions`: keys of regions that steps may have chosen, with what each has become by this change */
  'set-outline': (
    part: Part,
    {
      id,
      change,
      regions,
    }: {
      readonly id: string
      readonly change: Partial<Omit<Outline, 'id'>>
      readonly regions?: RegionNames | undefined
    },
    kindOf: FieldKindOf,
  ): Part =>
    withItemChanged(regions ? withRegionsRenamed(part, id, regions, kindOf) : part, 'outlines', id, (outline) => ({
      ...outline,
      ...change,
    })),
  'remove-outline': (part: Part, { id }: { readonly id: string }): Part => withItemRemoved(part, 'outlines', id),
}

/** Steps that have chosen regions of an outline stay with them. */
function withRegionsRenamed(part: Part, id: string, names: RegionNames, kindOf: FieldKindOf): Part {
  const renamed = (chosen: OutlineText): OutlineText =>
    chosen.outline === id && chosen.regions
      ? { ...chosen, regions: [...new Set(chosen.regions.flatMap((key) => names[key] ?? [key]))] }
      : chosen
  const users = new Set(allSteps(part).filter((step) => regionsChosen(step, id, kindOf).length > 0))
  if (users.size === 0) return part
  return withStepLists(part, (steps) =>
    steps.map((step) =>
      flattened([step]).some((each) => users.has(each)) ? withOutlines(step, renamed, kindOf) : step,
    ),
  )
}
