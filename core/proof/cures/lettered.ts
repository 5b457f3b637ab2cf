import { findStep } from '../../document/index.ts'
import { formatLength } from '../../units/index.ts'
import type { FoundCure } from '../define.ts'
import { clause, mm } from '../phrase.ts'
import type { CureKind } from './define.ts'

/** What is said of letters that are made larger. */
const texts = {
  'letters-larger': 'Make the letters of {letters} {size} high',
  'letters-larger-then': 'Their narrowest strokes are {stroke} wide then.',
} as const

/** Strokes are as wide as the letters are high, but for what their ends come to. */
const spare = 1.03
/** Larger by more than this they are another lettering. */
const most = 4

/** Strokes that are too narrow are made wider by larger letters. */
export const lettered: CureKind = ({ resolved }, { about, resize, code, pattern, values: found }) => {
  if (!resize) return []
  const { part } = resolved
  return about.flatMap(({ kind, id }): FoundCure[] => {
    const step = kind === 'step' ? findStep(part, id)?.step : undefined
    const { shape, values } = resolved.steps.get(id) ?? {}
    const times = (spare * resize.to) / resize.from
    if (step?.kind !== 'shape' || shape?.kind !== 'text' || typeof values?.size !== 'number') return []
    if (!(times > 1 && times < most)) return []
    // To a tenth of a mm, or a hundredth of an inch.
    const fine = part.unit === 'mm' ? 0.1 : 0.254
    const size = Math.ceil((times * values.size) / fine) * fine
    return [
      {
        label: clause(texts, 'letters-larger', { letters: step.name || shape.label, size: mm(size) }),
        edits: [{ type: 'set-field', id, field: 'size', text: formatLength(size, part.unit) }],
        // Each letter has openings of its own.
        ...{ free: 'all', before: { code, pattern, values: found } },
        after: clause(texts, 'letters-larger-then', { stroke: mm((size / values.size) * resize.from) }),
      },
    ]
  })
}
