import { type Check, findingOf } from './define.ts'
import { mm } from './phrase.ts'

/** What is found. */
const texts = {
  'lines-have-room': '{piece} has room for a line of {line}.',
  'lines-too-low':
    '{piece} is {height} high, less than half of the first layer of {layer}: the {printer} lays nothing of it.',
  'lines-too-thin': '{piece} is thinner everywhere than a line of {line}: the {printer} lays nothing of it.',
} as const

/** Whether a piece has room for a line of its printer anywhere. */
export const linesCheck: Check = {
  id: 'lines',
  label: 'Lines',
  meaning: 'Every piece is wide enough somewhere for a line of the printer.',
  texts,
  scope: 'piece',
  from: ({ built }) => built.resolved.printer,
  async run({ built, laid }, piece) {
    const { id, name } = piece.built.piece
    const { lineWidth, firstLayer, name: printer } = built.resolved.printer
    const finding = findingOf('lines', texts, [{ kind: 'piece', id }])
    const told = { piece: name, line: mm(lineWidth) }
    if ((await laid(piece)).length > 0) return [finding('pass', 'lines-have-room', told)]
    const { min, max } = piece.figures!
    const high = max[2] - min[2]
    // What is lower than half of it is in no layer's middle.
    if (high < firstLayer / 2)
      return [finding('fault', 'lines-too-low', { piece: name, printer, height: mm(high), layer: mm(firstLayer) })]
    return [finding('fault', 'lines-too-thin', { ...told, printer })]
  },
}
