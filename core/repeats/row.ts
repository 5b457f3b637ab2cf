import { defineRepeat, directions, mostCopies, shift } from './define.ts'

export const row = defineRepeat({
  kind: 'row',
  label: 'in a row',
  fields: {
    count: {
      kind: 'count',
      label: 'Copies',
      default: '2',
      least: 1,
      most: mostCopies,
      meaning: 'How many there are, counting the first.',
    },
    spacing: {
      kind: 'length',
      label: 'Spacing',
      default: '20',
      meaning: 'From each copy to the next; negative goes the other way.',
    },
    direction: {
      kind: 'choice',
      label: 'Direction of the row',
      default: 'across',
      choices: directions,
      meaning: 'Which way the row runs on its face.',
    },
  },
  first: 'count',
  sentence: () => [{ field: 'count' }, 'times in a row,', { field: 'spacing' }, 'apart', { field: 'direction' }],
  count: (v) => v.count,
  motions: (v, seat) => Array.from({ length: v.count }, (_, i) => shift(seat, v.direction, i * v.spacing)),
})
