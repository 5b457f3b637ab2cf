import type { Family } from '../define.ts'

/** ISO 2338, table 1: nominal diameters. */
export const dowelPin: Family = {
  id: 'iso-2338',
  kind: 'pin',
  label: 'dowel pin',
  words: ['pin', 'parallel pin', 'cylindrical pin'],
  standard: 'ISO 2338:1997',
  columns: {
    diameter: 'nominal diameter',
  },
  rows: {
    '⌀ 1': [1],
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
    '⌀ 16': [16],
    '⌀ 20': [20],
  },
}
