import { compose } from '../place/index.ts'
import { defineRepeat, mostCopies, shift } from './define.ts'

export const grid = defineRepeat({
  kind: 'grid',
  label: 'on a grid',
  fields: {
    across: {
      kind: 'count',
      label: 'Columns',
      default: '3',
      least: 1,
      most: mostCopies,
      meaning: 'How many stand side by side, from left to right.',
    },
    along: {
      kind: 'count',
      label: 'Rows',
      default: '2',
      least: 1,
      most: mostCopies,
      meaning: 'How many stand one behind the other.',
    },
    acrossSpacing: {
      kind: 'length',
      label: 'Spacing of the columns',
      default: '20',
      meaning: 'From each column to the next; negative goes the other way.',
    },
    alongSpacing: {
      kind: 'length',
      label: 'Spacing of the rows',
      default: '20',
      meaning: 'From each row to the next; negative goes the other way.',
    },
    stagger: {
      kind: 'choice',
      label: 'Rows stand',
      default: 'square',
      choices: { square: 'in line', staggered: 'staggered by half' },
      meaning: 'Whether every second row is offset by half a spacing.',
      rare: true,
    },
  },
  first: 'across',
  sentence: () => [
    { field: 'across' },
    'by',
    { field: 'along' },
    'times on a grid,',
    { field: 'acrossSpacing' },
    'and',
    { field: 'alongSpacing' },
    'apart,',
    { field: 'stagger' },
  ],
  count: (v) => v.across * v.along,
  motions: (v, seat) =>
    Array.from({ length: v.along }, (_, j) => j).flatMap((j) => {
      const half = v.stagger === 'staggered' && j % 2 === 1 ? v.acrossSpacing / 2 : 0
      return Array.from({ length: v.across }, (_, i) =>
        compose(shift(seat, 'along', j * v.alongSpacing), shift(seat, 'across', i * v.acrossSpacing + half)),
      )
    }),
})
