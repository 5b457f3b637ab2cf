import { dot2, type Motion2, minus, times, unit2 } from '../../plane/index.ts'
import { withCopies } from './copies.ts'
import { defineDerived } from './define.ts'

export const mirror = defineDerived({
  kind: 'mirror',
  label: 'mirror',
  meaning: 'Draws the mirror image of curves in a straight line: the last one that was chosen, or the upright axis.',
  icon: 'M8 1 V15 M6 4 L2 12 H6 Z M10 4 L14 12 H10 Z',
  takes: 'curves and, last, the line to mirror in',
  fits: ({ points, curves, lines }) => points === 0 && (curves > 1 || (curves === 1 && lines === 0)),
  fields: {},
  sentence: () => ['mirror'],
  apply(_, context) {
    const axisId = context.of.at(-1)!
    const axis = context.line(axisId)
    if (!axis || context.of.length < 2) return { detail: 'choose the line to mirror in last' }
    const d = unit2(minus(axis.to, axis.from))
    const u = [2 * d[0] * d[0] - 1, 2 * d[0] * d[1]] as const
    const v = [2 * d[0] * d[1], 2 * d[1] * d[1] - 1] as const
    const off = minus(axis.from, times(d, dot2(axis.from, d)))
    const motion: Motion2 = { origin: times(off, 2), u, v }
    return withCopies({ ...context, of: context.of.slice(0, -1) }, [motion])
  },
})
