import type { Family } from '../define.ts'

/** ISO 8752: the hole is as wide as the pin is called; the pin itself is wider, and springs. */
export const springPin: Family = {
  id: 'iso-8752',
  kind: 'pin',
  label: 'spring pin',
  words: ['roll pin', 'slotted pin', 'tension pin', 'pin'],
  standard: 'ISO 8752:2009',

  inPlainHole: true,
  columns: {
    diameter: 'nominal diameter: that of its hole',
  },
  rows: {
    '⌀ 1.5': [1.5],
    '⌀ 2': [2],
    '⌀ 2.5': [2.5],
    '⌀ 3': [3],
    '⌀ 4': [4],
    '⌀ 5': [5],
    '⌀ 6': [6],
    '⌀ 8': [8],
    '⌀ 10': [10],
    '⌀ 12': [12],
  },
}
