import { add, scaled, turnedAbout } from '../place/index.ts'
import { defineRepeat, mostCopies } from './define.ts'

/** Round the middle of the seat, about its normal, counter-clockwise as seen from outside; on a round face round its axis. */
export const ring = defineRepeat({
  kind: 'ring',
  label: 'in a ring',
  fields: {
    count: {
      kind: 'count',
      label: 'Copies',
      default: '6',
      least: 1,
      most: mostCopies,
      meaning: 'How many there are, counting the first.',
    },
    angle: {
      kind: 'angle',
      label: 'Angle',
      default: '360',
      least: -36_000,
      most: 36_000,
      meaning: 'The angle of the whole ring, or from each copy to the next.',
    },
    spread: {
      kind: 'choice',
      label: 'The angle is',
      default: 'total',
      choices: { total: 'in all', step: 'from one to the next' },
      meaning: 'The whole angle: 360° closes the ring; a smaller one has a copy at each end.',
    },
  },
  first: 'count',
  sentence: () => [{ field: 'count' }, 'times in a ring round the middle,', { field: 'angle' }, { field: 'spread' }],
  count: (v) => v.count,
  motions: (v, seat) => {
    const closed = Math.abs(Math.abs(v.angle) - 360) < 1e-9
    const step = v.spread === 'step' ? v.angle : v.angle / (closed ? v.count : Math.max(1, v.count - 1))
    // On a round face it goes round the round itself.
    const { origin, n, v: along } = seat.frame
    const [point, axis] = seat.round ? [add(origin, scaled(n, -seat.round)), along] : [origin, n]
    return Array.from({ length: v.count }, (_, i) => turnedAbout(point, axis, i * step))
  },
})
