import type { Family } from '../define.ts'

/** ISO 1234: called by the hole that they go through. */
export const splitPin: Family = {
  id: 'iso-1234',
  kind: 'pin',
  label: 'split pin',
  words: ['cotter pin', 'cotter'],
  standard: 'ISO 1234:1997',

  inPlainHole: true,
  columns: {
    diameter: 'nominal diameter: that of its hole',
  },
  rows: {
    '⌀ 1': [1],
    '⌀ 1.2': [1.2],
    '⌀ 1.6': [1.6],
    '⌀ 2': [2],
    '⌀ 2.5': [2.5],
    '⌀ 3.2': [3.2],
    '⌀ 4': [4],
    '⌀ 5': [5],
    '⌀ 6.3': [6.3],
  },
}
