import { findStep } from '../../document/index.ts'
import type { FoundCure } from '../define.ts'
import { clause } from '../phrase.ts'
import type { CureKind } from './define.ts'

/** What is said of a hole that gets another roof. */
const texts = {
  'roof-pointed': 'Make {hole} a teardrop with a pointed roof',
  'roof-flat': 'Make {hole} a teardrop with a flat roof',
  'roof-pointed-then': 'A teardrop: its roof rises to a point at 45° and carries itself.',
  'roof-flat-then': 'A teardrop: its roof rises at 45° to a short flat, which is bridged.',
} as const

/** Checks of what hangs. */
const hanging: readonly string[] = ['islands', 'overhangs', 'bridges']

/** A plain round hole that lies level is made a teardrop: as large, and a pin of its size enters it. */
export const roofed: CureKind = ({ resolved }, { check, about, code, pattern, values: found }) => {
  if (!hanging.includes(check)) return []
  return about.flatMap(({ kind, id }): FoundCure[] => {
    const step = kind === 'step' ? findStep(resolved.part, id)?.step : undefined
    const { shape, values } = resolved.steps.get(id) ?? {}
    if (step?.kind !== 'shape' || shape?.kind !== 'hole' || values?.mouth !== 'plain') return []
    const hole = step.name || shape.label
    const { diameter, reach, depth } = step.fields
    const kept = Object.fromEntries(
      Object.entries({ diameter, reach, depth }).filter((each): each is [string, string] => each[1] !== undefined),
    )
    return (['pointed', 'flat'] as const).map((roof) => ({
      label: clause(texts, `roof-${roof}`, { hole }),
      edits: [{ type: 'set-shape', id, shape: 'teardrop', fields: { ...kept, roof } }],
      before: { code, pattern, values: found },
      after: clause(texts, `roof-${roof}-then`, {}),
    }))
  })
}
