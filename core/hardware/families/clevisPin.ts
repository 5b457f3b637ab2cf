import type { Family } from '../define.ts'

/** ISO 2341, table 1: pins with a head. */
export const clevisPin: Family = {
  id: 'iso-2341',
  kind: 'pin',
  label: 'clevis pin',
  words: ['pin with a head', 'headed pin', 'yoke pin'],
  standard: 'ISO 2341:1986',

  columns: {
    diameter: 'nominal diameter',
    head: 'diameter of its head',
    headHeight: 'height of its head',
  },
  rows: {
    '⌀ 3': [3, 5, 1],
    '⌀ 4': [4, 6, 1],
    '⌀ 5': [5, 8, 1.6],
    '⌀ 6': [6, 10, 2],
    '⌀ 8': [8, 14, 3],
    '⌀ 10': [10, 18, 4],
    '⌀ 12': [12, 20, 4],
    '⌀ 16': [16, 25, 4.5],
    '⌀ 20': [20, 30, 5],
  },
}
