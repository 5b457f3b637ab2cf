import { stay } from '../../plane/index.ts'
import { withCopies } from './copies.ts'
import { defineDerived } from './define.ts'

export const row = defineDerived({
  kind: 'row',
  label: 'row',
  meaning: 'Repeats curves in a straight row.',
  icon: 'M1 6 H4 V10 H1 Z M6.5 6 H9.5 V10 H6.5 Z M12 6 H15 V10 H12 Z',
  takes: 'curves',
  fits: ({ points, curves }) => curves > 0 && points === 0,
  fields: {
    count: {
      kind: 'count',
      label: 'Count',
      default: '3',
      least: 1,
      most: 500,
      meaning: 'How many there are, counting the drawn one.',
    },
    x: {
      kind: 'length',
      label: 'Step to the right',
      default: '10',
      most: 10_000,
      meaning: 'From one to the next; negative to the left.',
    },
    y: {
      kind: 'length',
      label: 'Step up',
      default: '0',
      most: 10_000,
      meaning: 'From one to the next; negative down.',
    },
  },
  sentence: () => [{ field: 'count' }, 'in a row,', { field: 'x' }, 'to the right and', { field: 'y' }, 'up'],
  apply({ count, x, y }, context) {
    if (count > 1 && Math.hypot(x, y) < 1e-6) return { detail: 'the copies would all lie on the drawn one' }
    return withCopies(
      context,
      Array.from({ length: count - 1 }, (_, i) => ({ ...stay, origin: [x * (i + 1), y * (i + 1)] as const })),
    )
  },
})
