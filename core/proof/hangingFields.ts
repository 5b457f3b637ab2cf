import type { Printer } from '../fits/index.ts'
import type { HangingRegion, SpannedLine } from '../layers/index.ts'
import { withTurns } from '../pacing/index.ts'
import { minus, norm2, offSide, type Vec2 } from '../plane/index.ts'
import type { FieldKind, SurfaceField } from './field.ts'
import { hangingOf } from './hanging.ts'
import { type Under, undersides } from './undersides.ts'

/** A value over all that a piece has nothing below of. */
function hanging(
  id: string,
  scale: Pick<SurfaceField, 'label' | 'unit'> & {
    of(printer: Printer): { readonly limit: number; readonly to: number }
  },
  kinds: readonly HangingRegion['kind'][],
  valueAt: (under: Under, place: Vec2) => number,
): FieldKind {
  return {
    id,
    async of(context, pieces) {
      const { printer } = context.built.resolved
      const { limit, to } = scale.of(printer)
      const surfaces: SurfaceField['surfaces'][number][] = []
      for (const piece of pieces) {
        const regions = (await hangingOf(context, piece)).filter(({ kind }) => kinds.includes(kind))
        const unders = await withTurns(
          undersides(context.kernel, piece.built.solid!.mesh(), regions, { printer }),
          context.pause,
        )
        const points = Float32Array.from(unders.flatMap(({ corners }) => corners))
        const values = new Float32Array(points.length / 3)
        const limits = new Float32Array(points.length / 3)
        let at = 0
        for (const under of unders)
          for (let k = 0; k < under.corners.length; k += 3) {
            values[at] = valueAt(under, [under.corners[k]!, under.corners[k + 1]!])
            // What lies on something may lean as it likes.
            limits[at++] = under.region ? limit : 1e6
          }
        surfaces.push({ piece: piece.built.piece.id, points, values, limits })
      }
      const { label, unit } = scale
      return { label, unit, from: 0, to, limit, broken: 'above', surfaces }
    },
  }
}

export const leansField = hanging(
  'leans',
  { label: 'Leans by', unit: 'degrees', of: ({ overhang }) => ({ limit: overhang, to: 90 }) },
  ['begins', 'reaches'],
  ({ lean }) => lean,
)

export const spansField = hanging(
  'spans',
  { label: 'Bridged over', unit: 'mm', of: ({ bridge }) => ({ limit: bridge, to: 2 * bridge }) },
  ['spans'],
  ({ region }, place) => (region?.lines ? spanAt(region.lines, place) : 0),
)

/** How long the line is that runs nearest to a place. */
function spanAt(lines: readonly SpannedLine[], place: Vec2): number {
  const far = ({ from, to }: SpannedLine) =>
    norm2(minus(to, from)) > 0 ? offSide(place, from, to) : Number.POSITIVE_INFINITY
  return lines.reduce((best, line) => (far(line) < far(best) ? line : best)).long
}
