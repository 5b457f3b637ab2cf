import { type Motion2, minus, turnedBy } from '../../plane/index.ts'
import { withCopies } from './copies.ts'
import { defineDerived } from './define.ts'

export const ring = defineDerived({
  kind: 'ring',
  label: 'ring',
  meaning: 'Repeats curves round a point: one that was chosen with them, or the origin.',
  icon: 'M8 1.5 A1.5 1.5 0 1 1 7.99 1.5 M13 11 A1.5 1.5 0 1 1 12.99 11 M3 11 A1.5 1.5 0 1 1 2.99 11 M8 8 V9',
  takes: 'curves and, if it is not the origin, one point',
  fits: ({ points, curves }) => curves > 0 && points <= 1,
  fields: {
    count: {
      kind: 'count',
      label: 'Count',
      default: '6',
      least: 1,
      most: 500,
      meaning: 'How many there are, counting the drawn one.',
    },
    angle: {
      kind: 'angle',
      label: 'Over',
      default: '360',
      least: -360,
      most: 360,
      meaning: 'The angle that they are spread over; less than a whole turn has one at each end.',
    },
  },
  sentence: () => [{ field: 'count' }, 'round a point over', { field: 'angle' }],
  apply({ count, angle }, context) {
    if (count > 1 && Math.abs(angle) < 1e-6) return { detail: 'the copies would all lie on the drawn one' }
    const centre = context.of.map((id) => context.point(id)).find((point) => point !== undefined) ?? [0, 0]
    const whole = Math.abs(Math.abs(angle) - 360) < 1e-9
    const step = angle / (whole ? count : Math.max(1, count - 1))
    const motions = Array.from({ length: count - 1 }, (_, i): Motion2 => {
      const rad = (step * (i + 1) * Math.PI) / 180
      const [c, s] = [Math.cos(rad), Math.sin(rad)]
      const turn: Motion2 = { origin: [0, 0], u: [c, s], v: [-s, c] }
      return { ...turn, origin: minus(centre, turnedBy(turn, centre)) }
    })
    return withCopies(context, motions)
  },
})
