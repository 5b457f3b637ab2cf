import { layerMiddle } from '../layers/index.ts'
import { type Check, type Found, findingOf, type Mark, type ProofPiece } from './define.ts'
import { mm } from './phrase.ts'
import { touching } from './stands.ts'

/** What is found. */
const texts = {
  'foot-not-laid':
    '{piece} stands on less than a line of {line}: nothing of it is laid in the first layer, {height} above the bed.',
  'foot-point': '{piece} stands on a point: what touches the bed is smaller than a line of {line}.',
  'foot-wide': '{piece} stands on at least a line of {line}.',
} as const

/** What a piece stands on is as large as a line at least: a ball touches the bed in a point, a block on its edge in a line. */
export const footCheck: Check = {
  id: 'foot',
  label: 'Foot',
  meaning: 'What touches the bed is wide enough for a line in the first layer.',
  texts,
  scope: 'piece',
  from: ({ built }) => built.resolved.printer,
  async run({ built, laid }, piece): Promise<readonly Found[]> {
    const { id, name } = piece.built.piece
    // What does not stand on the bed is told by its own check.
    if (Math.abs(piece.figures!.min[2]) > touching) return []
    const { printer } = built.resolved
    const groups = await laid(piece)
    // So is what has no room for a line anywhere.
    if (groups.length === 0) return []
    const told = { piece: name, line: mm(printer.lineWidth) }
    const { across, marks } = footOf(piece)
    const finding = findingOf('foot', texts, [{ kind: 'piece', id }])
    if (!groups.some(([lowest]) => lowest!.layer === 0))
      return [finding('fault', 'foot-not-laid', { ...told, height: mm(layerMiddle(0, printer)) }, { marks })]
    if (across < printer.lineWidth) return [finding('fault', 'foot-point', told, { marks })]
    return [finding('pass', 'foot-wide', told)]
  },
}

/** How far it is across what touches the bed, mm, and where that is. */
function footOf({ built, figures }: ProofPiece): { readonly across: number; readonly marks: readonly Mark[] } {
  const { positions } = built.solid!.mesh()
  const [low, high] = [
    [Infinity, Infinity],
    [-Infinity, -Infinity],
  ]
  const points: number[] = []
  for (let v = 0; v < positions.length; v += 3) {
    if (positions[v + 2]! - figures!.min[2] > touching) continue
    points.push(positions[v]!, positions[v + 1]!, positions[v + 2]!)
    for (const k of [0, 1]) {
      low[k] = Math.min(low[k]!, positions[v + k]!)
      high[k] = Math.max(high[k]!, positions[v + k]!)
    }
  }
  const across = Math.hypot(high[0]! - low[0]!, high[1]! - low[1]!)
  return { across, marks: [{ kind: 'points', points: Float32Array.from(points) }] }
}
