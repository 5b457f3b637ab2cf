import { isOutside, shellsOf } from '../mesh/index.ts'
import { dot2, leftOf, minus, plus, times, unit2 } from '../plane/index.ts'
import { type Check, findingOf, type ProofContext, type ProofPiece, type Spanned } from './define.ts'
import { hangingBy, hangingOf, hangsFrom, underMarks, underOf } from './hanging.ts'
import { fieldMark } from './narrow.ts'
import { mm, mm2 } from './phrase.ts'
import type { Under } from './undersides.ts'

/** What is found. */
const texts = {
  'bridges-none': 'Nothing of {piece} has to be bridged.',
  'bridges-short': 'The longest bridge of {piece} is {span}; the {printer} spans {limit}.',
  'bridges-long': '{piece} is bridged over {span} at {where}; the {printer} spans {limit}: {area} of it sags.',
  'bridges-unknown': '{piece} has too much surface to look at all that is bridged.',
} as const

/** Whether what is bridged is short enough for the printer. */
export const bridgesCheck: Check = {
  id: 'bridges',
  label: 'Bridges',
  meaning: 'What has nothing below it between two sides is no longer than the printer spans.',
  texts,
  scope: 'piece',
  from: (context, piece) => hangsFrom(context, piece),
  async run(context, piece) {
    const { printer } = context.built.resolved
    const { id, name } = piece.built.piece
    const about = [{ kind: 'piece', id }] as const
    const finding = findingOf('bridges', texts, about)
    const hanging = await hangingBy(context, piece, ({ kind, long }) => kind === 'spans' && long > printer.bridge)
    if (hanging === 'unlaid') return []
    if (hanging === 'too large') return [finding('warning', 'bridges-unknown', { piece: name })]
    const told = { piece: name, printer: printer.name, limit: mm(printer.bridge) }
    if (hanging.length > 0)
      return hanging.map(({ unders, about: steps, where, area, long }) => {
        const values = { ...told, where, area: mm2(area), span: mm(long) }
        const spanned = spannedOf(context, piece, unders)
        const more = {
          ofPrinter: true,
          under: underOf(id, unders),
          marks: underMarks('spans', id, unders),
          by: long,
          ...(spanned ? { spanned } : {}),
        } as const
        return findingOf('bridges', texts, [...steps, ...about])('warning', 'bridges-long', values, more)
      })
    const spans = (await hangingOf(context, piece)).filter(
      ({ kind, long }) => kind === 'spans' && long <= printer.bridge,
    )
    const longest = spans.reduce((most, { long }) => Math.max(most, long), 0)
    if (longest < printer.lineWidth) return [finding('pass', 'bridges-none', told)]
    return [finding('pass', 'bridges-short', { ...told, span: mm(longest) }, { marks: [fieldMark('spans', id)] })]
  },
}

/** Where a bridge is longest: what webs under it have to cross. */
function spannedOf({ tree }: ProofContext, piece: ProofPiece, unders: readonly Under[]): Spanned | undefined {
  const longest = unders.reduce((best, each) => (each.region!.long > best.region!.long ? each : best))
  const { lines = [], rings, long, low: layerLow, high: layerHigh } = longest.region!
  const line = lines.reduce<(typeof lines)[number] | undefined>(
    (best, each) => (best && best.long >= each.long ? best : each),
    undefined,
  )
  // What stands in a closed cavity is cut away by nobody.
  const { shells, shellOf } = shellsOf(piece.built.solid!.mesh())
  if (!line || !isOutside(shells[shellOf[longest.triangle]!]!)) return undefined
  const along = unit2(minus(line.to, line.from))
  const across = leftOf(along)
  // The outermost lines are half a line in from its sides.
  const offsets = rings.flatMap((ring) => ring.map((p) => dot2(p, across)))
  const [first, last] = [Math.min(...offsets), Math.max(...offsets)]
  const far = dot2(plus(line.from, line.to), along) / 2
  const middle = plus(times(along, far), times(across, (first + last) / 2))
  const own = unders.filter(({ region }) => region === longest.region)
  const heights = own.flatMap(({ corners }) => corners.filter((_, k) => k % 3 === 2))
  const high = Math.min(layerHigh, Math.max(layerLow, ...heights))
  const hit = tree(piece).first([middle[0], middle[1], high - under], [middle[0], middle[1], -under], 0)
  return {
    ...{ piece: piece.built.of, middle, along, long, high },
    wide: last - first,
    low: hit ? high - under - hit.far : 0,
  }
}
/** From so far below it is looked down, mm. */
const under = 0.02
