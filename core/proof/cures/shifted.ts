import { defaultFields, type FaceName, faceNamesText } from '../../fields/index.ts'
import { newTreatment, treatmentOf } from '../../operations/index.ts'
import type { Plan } from '../../planning/index.ts'
import { tried } from '../../problems/index.ts'
import { formatLength } from '../../units/index.ts'
import { type FoundCure, stepName } from '../define.ts'
import { clause, mm } from '../phrase.ts'
import type { CureKind } from './define.ts'
import { freeId } from './freeId.ts'
import { readable } from './resized.ts'

/** What is said of a face that is moved. */
const texts = {
  'shift-face': 'Shift the {face} of {step} outward by {by}',
} as const

/** More faces are not tried. */
const most = 4

/**
 * A wall of which no size is its thickness is made thicker by a flat face of it, moved outward by what it lacks. Rounds are as wide as what
 * goes into them.
 */
export const shifted: CureKind = ({ resolved, plan, motions }, { between, resize, code, pattern, values }) => {
  const shift = treatmentOf('shift')
  if (!between || !resize || !shift || motions) return []
  const { part } = resolved
  const size = readable(resize.to, part.unit)
  const by = readable(size - resize.from, part.unit)
  const flats = between.faces.filter((face) => isFlat(plan, face)).slice(0, most)
  return flats.map((face): FoundCure => {
    const fields = { ...defaultFields(shift.fields), faces: faceNamesText([face]), by: formatLength(by, part.unit) }
    const step = { ...newTreatment(freeId(part, 'thicker'), { treatment: shift, fields }), name: 'thicker' }
    return {
      label: clause(texts, 'shift-face', { face: face.face ?? '', step: stepName(resolved, face.step), by: mm(by) }),
      edits: [{ type: 'add-step', piece: between.piece, step }],
      before: { code, pattern, values },
      after: { ...resize.after, values: { ...resize.after.values, size: mm(size) } },
    }
  })
}

function isFlat(plan: Plan, { step, face }: FaceName): boolean {
  const { body, copies = [] } = plan.operands.get(step) ?? {}
  const [first] = copies
  if (body?.kind !== 'shape' || !first) return false
  const known = tried(() => body.shape.surfaces(first.values).faces) ?? []
  return known.some(({ name, round }) => name === face && round === undefined)
}
