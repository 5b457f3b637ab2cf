import { defaultFields, edgeRulesText } from '../../fields/index.ts'
import { newTreatment, treatmentOf } from '../../operations/index.ts'
import { formatLength } from '../../units/index.ts'
import { type FoundCure, stepName } from '../define.ts'
import { clause, mm } from '../phrase.ts'
import type { CureKind } from './define.ts'
import { freeId } from './freeId.ts'

/** What is said of a bevel on the bed. */
const texts = {
  'bevel-mouth': 'Bevel the mouth of {hole} on the bed by {size}',
  'bevel-mouth-then': 'The first layer is pressed out into the bevel, not into the fit.',
} as const

/** So much wider than the first layer is pressed out, mm. */
const spare = 0.15

/** A mouth that the first layer is pressed into is bevelled. */
export const mouthed: CureKind = ({ resolved }, { code, about, pattern, values: found }) => {
  const bevel = treatmentOf('bevel')
  if (code !== 'flare-pinches' || !bevel) return []
  const { part, printer } = resolved
  const wide = printer.flare + spare
  return about.flatMap(({ id }): FoundCure[] => {
    const piece = part.pieces.find(({ steps }) => steps.some((step) => step.id === id))
    if (!piece) return []
    const of = { step: id, face: undefined }
    const edges = edgeRulesText([{ less: false, traits: ['bed'], where: { kind: 'of', of } }])
    const fields = { ...defaultFields(bevel.fields), edges, size: formatLength(wide, part.unit) }
    const step = {
      ...newTreatment(freeId(part, 'bevel'), { treatment: bevel, fields }),
      name: 'room for the first layer',
    }
    return [
      {
        label: clause(texts, 'bevel-mouth', { hole: stepName(resolved, id), size: mm(wide) }),
        edits: [{ type: 'add-step', piece: piece.id, step }],
        ...{ free: 'borders', before: { code, pattern, values: found } },
        after: clause(texts, 'bevel-mouth-then', {}),
      },
    ]
  })
}
