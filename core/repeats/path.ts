import { compose, type Frame, inverse } from '../place/index.ts'
import { alongChain, type Chain, chainLength, type Drawn, type Vec2 } from '../plane/index.ts'
import { defineRepeat, mostCopies } from './define.ts'

/** Along the line of an outline, evenly by its length; the outline lies on the seat as it was drawn. */
export const path = defineRepeat({
  kind: 'path',
  label: 'along an outline',
  fields: {
    outline: {
      kind: 'outline',
      label: 'Line',
      default: '',
      meaning: 'The drawing whose line the copies follow: its first open one, or a closed one.',
    },
    count: {
      kind: 'count',
      label: 'Copies',
      default: '6',
      least: 1,
      most: mostCopies,
      meaning: 'How many there are, counting the first; on an open line one stands at each end.',
    },
    turning: {
      kind: 'choice',
      label: 'Copies are',
      default: 'turning',
      choices: { turning: 'turning with it', steady: 'all facing one way' },
      meaning: 'Whether the copies turn with the line.',
    },
  },
  first: 'count',
  sentence: () => [{ field: 'count' }, 'times along', { field: 'outline' }, ',', { field: 'turning' }],
  impossible: ({ outline }) =>
    lineOf(outline) ? undefined : { field: 'outline', detail: 'This outline has no line to go along; draw one.' },
  count: (v) => v.count,
  motions(v, { frame }) {
    const chain = lineOf(v.outline)
    if (!chain) return [compose(frame, inverse(frame))]
    const long = chainLength(chain)
    const step = v.count < 2 ? 0 : long / (chain.closed ? v.count : v.count - 1)
    const start = alongChain(chain, 0)
    return Array.from({ length: v.count }, (_, i) => {
      const here = alongChain(chain, i * step)
      const own = carried(start, here, v.turning === 'turning')
      return compose(compose(frame, own), inverse(frame))
    })
  },
})

function lineOf({ open, loops }: Drawn): Chain | undefined {
  return open[0] ?? loops[0]
}

interface Place {
  readonly at: Vec2
  readonly way: Vec2
}

/** The motion in the plane that carries one place of the line to another. */
function carried(from: Place, to: Place, turning: boolean): Frame {
  const turn = turning ? Math.atan2(to.way[1], to.way[0]) - Math.atan2(from.way[1], from.way[0]) : 0
  const [c, s] = [Math.cos(turn), Math.sin(turn)]
  const [x, y] = from.at
  return {
    origin: [to.at[0] - c * x + s * y, to.at[1] - s * x - c * y, 0],
    u: [c, s, 0],
    v: [-s, c, 0],
    n: [0, 0, 1],
  }
}
