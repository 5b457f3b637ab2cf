import { type Edit, findStep, hasBody } from '../../document/index.ts'
import { withAdded } from '../../planning/index.ts'
import { type FoundCure, stepName } from '../define.ts'
import { clause, mm } from '../phrase.ts'
import type { CureKind } from './define.ts'

/** What is said of a step that is moved into what it only touches. */
const texts = {
  'sink-step': 'Sink {step} by {by}',
  'shift-step': 'Move {step} by {by}',
  'sink-step-then': 'It goes {by} into what it only touched, and is one with it.',
} as const

/** Codes of what hangs together by nothing, or hardly anything. */
const touching: readonly string[] = ['bodies-apart', 'joined-narrow', 'necks-thread']
/** So many lines one goes into the other; more, where that is not enough. */
const amounts = [2, 8]

/** What only touches is moved into what it touches: down into what it stands on first, then sideways. */
export const sunken: CureKind = ({ resolved, motions }, { about, code, pattern, values: found }) => {
  if (!touching.includes(code) || motions) return []
  const { part, printer } = resolved
  const before = { code, pattern, values: found }
  const all = amounts.map((lines) => Number((lines * printer.lineWidth).toFixed(2)))
  return all.flatMap((by) =>
    about.flatMap(({ kind, id }): FoundCure[] => {
      const step = kind === 'step' ? findStep(part, id)?.step : undefined
      if (!step || !hasBody(step) || step.operation !== 'add') return []
      const { lift, across, along } = step.place
      const cure = (
        label: 'sink-step' | 'shift-step',
        change: Extract<Edit, { type: 'set-place' }>['change'],
      ): FoundCure => ({
        label: clause(texts, label, { step: stepName(resolved, id), by: mm(by) }),
        edits: [{ type: 'set-place', id, change }],
        ...{ free: 'all', before },
        after: clause(texts, 'sink-step-then', { by: mm(by) }),
      })
      const more = (text: string, way: number) => withAdded(text, way * by, part.unit)
      const isOnFace = step.place.on.kind === 'face'
      return [
        ...(isOnFace ? [cure('sink-step', { lift: more(lift, -1) })] : []),
        ...[1, -1].map((way) => cure('shift-step', { across: { ...across, by: more(across.by, way) } })),
        ...[1, -1].map((way) => cure('shift-step', { along: { ...along, by: more(along.by, way) } })),
      ]
    }),
  )
}
