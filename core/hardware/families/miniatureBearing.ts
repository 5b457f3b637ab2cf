import type { Family } from '../define.ts'

/** Miniature bearings with shields, which are wider than open ones: as most shops sell them. */
export const miniatureBearing: Family = {
  id: 'usual-bearing',
  kind: 'bearing',
  label: 'miniature bearing',
  words: ['bearing', 'shielded bearing', 'miniature ball bearing'],
  standard: 'usual size',
  columns: {
    bore: 'bore',
    outside: 'outside diameter',
    height: 'width',
  },
  rows: {
    '683': [3, 7, 3],
    '684': [4, 9, 4],
    '685': [5, 11, 5],
    '686': [6, 13, 5],
    '687': [7, 14, 5],
    '688': [8, 16, 5],
    '689': [9, 17, 5],
    '693': [3, 8, 4],
    '694': [4, 11, 4],
    '695': [5, 13, 4],
    '696': [6, 15, 5],
    '697': [7, 17, 5],
    '698': [8, 19, 6],
    '699': [9, 20, 6],
  },
}
