import { findStep } from '../../document/index.ts'
import { defaultFields } from '../../fields/index.ts'
import { newStep, shapeOf } from '../../shapes/index.ts'
import { formatLength } from '../../units/index.ts'
import type { FoundCure } from '../define.ts'
import { clause } from '../phrase.ts'
import type { CureKind } from './define.ts'
import { freeId } from './freeId.ts'

/** What is said of a hole that is closed by layers. */
const texts = {
  'cover-hole': 'Close {hole} by two layers, to be pierced',
  'cover-hole-then': 'The roof of its counterbore is bridged all over; the layers are pierced after printing.',
} as const

/** A single layer is torn by the next one. */
const layers = 2

/** Checks of what hangs. */
const hanging: readonly string[] = ['islands', 'overhangs', 'bridges']
/** An axis that leans off upright by no more stands upright, as a cosine: 1°. */
const upright = Math.cos(Math.PI / 180)

/**
 * A counterbore that opens downwards has a ring for a roof, which hangs round the hole: layers across the hole make a whole roof of it, which
 * is bridged.
 */
export const covered: CureKind = ({ resolved, plan }, { check, about, code, pattern, values: found }) => {
  const bar = shapeOf('bar')
  if (!hanging.includes(check) || !bar) return []
  const { part, printer } = resolved
  return about.flatMap(({ kind, id }): FoundCure[] => {
    const place = kind === 'step' ? findStep(part, id) : undefined
    const { shape, values } = resolved.steps.get(id) ?? {}
    if (place?.step.kind !== 'shape' || shape?.kind !== 'hole' || values?.mouth !== 'counterbore') return []
    const { diameter, headDepth } = values as { diameter: number; headDepth: number }
    const frames = (plan.geometry.get(id)?.frames ?? []).filter(({ n }) => -n[2] > upright)
    if (frames.length === 0) return []
    const size = (value: number) => formatLength(value, part.unit)
    const offset = (by: number) => ({ from: 'centre', to: 'centre', by: size(by) }) as const
    const edits = frames.map(({ origin }, i): FoundCure['edits'][number] => {
      const fields = {
        ...defaultFields(bar.fields),
        // It runs into the wall of the hole by a line.
        ...{ diameter: size(diameter + 2 * printer.lineWidth), height: size(layers * printer.layerHeight) },
      }
      const stands = { across: offset(origin[0]), along: offset(origin[1]), lift: size(origin[2] + headDepth) }
      const step = { ...newStep(freeId(part, 'cover', i), { shape: bar, fields }, stands), name: 'to be pierced' }
      return { type: 'add-step', piece: place.piece.id, step }
    })
    return [
      {
        label: clause(texts, 'cover-hole', { hole: place.step.name || shape.label }),
        ...{ edits, free: 'all', before: { code, pattern, values: found } },
        after: clause(texts, 'cover-hole-then', {}),
      },
    ]
  })
}
