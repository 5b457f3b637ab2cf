import { layerMiddle } from '../layers/index.ts'
import { type Check, type Finding, type Mark, millimetres, type ProofPiece } from './define.ts'
import { touching } from './stands.ts'

/** What a piece stands on is as large as a line at least: a ball touches the bed in a point, a block on its edge in a line. */
export const footCheck: Check = {
  id: 'foot',
  label: 'Foot',
  meaning: 'What touches the bed is no point, and has room for a line in the first layer.',
  scope: 'piece',
  from: ({ built }) => built.resolved.printer,
  async run({ built, laid }, piece): Promise<Finding[]> {
    const { id, name } = piece.built.piece
    // What does not stand on the bed is told by its own check.
    if (Math.abs(piece.figures!.min[2]) > touching) return []
    const { printer } = built.resolved
    const groups = await laid(piece)
    // So is what has no room for a line anywhere.
    if (groups.length === 0) return []
    const line = `a line of ${millimetres(printer.lineWidth)}`
    const { across, marks } = footOf(piece)
    const finding = (rank: Finding['rank'], text: string): Finding[] => [
      { check: 'foot', rank, text, about: [{ kind: 'piece', id }], ...(rank === 'pass' ? {} : { marks }) },
    ]
    if (!groups.some(([lowest]) => lowest!.layer === 0))
      return finding(
        'fault',
        `${name} stands on less than ${line}: nothing of it is laid in the first layer, ${millimetres(layerMiddle(0, printer))} above the bed.`,
      )
    if (across < printer.lineWidth)
      return finding('fault', `${name} stands on a point: what touches the bed is smaller than ${line}.`)
    return finding('pass', `${name} stands on at least ${line}.`)
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
