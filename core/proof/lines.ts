import type { Check } from './define.ts'
import { millimetres } from './define.ts'

/** Whether a piece has room for a line of its printer anywhere. */
export const linesCheck: Check = {
  id: 'lines',
  label: 'Lines',
  meaning: 'A line of the printer has room in each piece.',
  scope: 'piece',
  from: ({ built }) => built.resolved.printer,
  async run({ built, laid }, piece) {
    const { id, name } = piece.built.piece
    const { lineWidth, firstLayer, name: printer } = built.resolved.printer
    const about = [{ kind: 'piece', id }] as const
    if ((await laid(piece)).length > 0)
      return [
        { check: 'lines', rank: 'pass', text: `${name} has room for a line of ${millimetres(lineWidth)}.`, about },
      ]
    const { min, max } = piece.figures!
    const high = max[2] - min[2]
    // What is lower than half of it is in no layer's middle.
    const why =
      high < firstLayer / 2
        ? `${name} is ${millimetres(high)} high, less than half of the first layer of ${millimetres(firstLayer)}`
        : `${name} is thinner everywhere than a line of ${millimetres(lineWidth)}`
    return [{ check: 'lines', rank: 'fault', text: `${why}: the ${printer} lays nothing of it.`, about }]
  },
}
