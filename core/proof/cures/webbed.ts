import type { Edit } from '../../document/index.ts'
import { defaultFields } from '../../fields/index.ts'
import { newStep, shapeOf } from '../../shapes/index.ts'
import { formatLength } from '../../units/index.ts'
import type { FoundCure } from '../define.ts'
import { clause, mm } from '../phrase.ts'
import type { CureKind } from './define.ts'
import { freeId } from './freeId.ts'

/** What is said of webs under a bridge. */
const texts = {
  'web-one': 'Stand a web of {thick} under it, to be cut away',
  'web-several': 'Stand {count} webs of {thick} under it, to be cut away',
  'web-then': 'Bridged in stretches of {span} at most; the webs are cut away after printing.',
} as const

/** More are no cure, but another part. */
const mostWebs = 6
/** What is lower has no room for a knife, mm. */
const leastRoom = 2
/** A web goes into what is above it, and into what it stands on but for the bed, by so much, mm: numbers are rounded. */
const sunk = 0.1

/** Webs of two lines stand across the lines of a bridge that is too long, so that it is bridged in stretches; they are cut away after. */
export const webbed: CureKind = ({ resolved }, { spanned, code, pattern, values: found }) => {
  const plate = shapeOf('plate')
  if (!spanned || !plate) return []
  const { part, printer } = resolved
  const { piece, middle, along, long, wide, low, high } = spanned
  const thick = 2 * printer.lineWidth
  const least = Math.ceil((long - printer.bridge) / (printer.bridge + thick))
  if (!(least >= 1) || high - low < leastRoom) return []
  const foot = low > 0 ? low - sunk : 0
  const size = (value: number) => formatLength(value, part.unit)
  const offset = (by: number) => ({ from: 'centre', to: 'centre', by: size(by) }) as const
  // One more where lines run askew, and are longer than they need to be.
  return [least, least + 1]
    .filter((count) => count <= mostWebs)
    .map((count): FoundCure => {
      // Stretches between them are as long as those at the ends.
      const apart = (long - count * thick) / (count + 1)
      const turn = (Math.atan2(along[0], -along[1]) * 180) / Math.PI
      const edits = Array.from({ length: count }, (_, i): Edit => {
        const far = (i + 1) * apart + (i + 0.5) * thick - long / 2
        const fields = {
          ...defaultFields(plate.fields),
          ...{ width: size(wide), depth: size(thick), height: size(high - foot + sunk) },
        }
        const place = {
          across: offset(middle[0] + far * along[0]),
          along: offset(middle[1] + far * along[1]),
          ...{ lift: size(foot), turn: String(Number(turn.toFixed(3))) },
        }
        const step = { ...newStep(freeId(part, 'web', i), { shape: plate, fields }, place), name: 'web' }
        return { type: 'add-step', piece, step }
      })
      const told = { count, thick: mm(thick), span: mm(apart) }
      return {
        label: clause(texts, count === 1 ? 'web-one' : 'web-several', told),
        ...{ edits, free: 'all', before: { code, pattern, values: found }, after: clause(texts, 'web-then', told) },
      }
    })
}
