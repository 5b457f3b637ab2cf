import type { Family } from '../define.ts'

/** DIN 472, normal rings. */
export const boreRing: Family = {
  id: 'din-472',
  kind: 'bore ring',
  label: 'retaining ring for bores',
  words: ['circlip', 'internal circlip', 'bore circlip', 'retaining ring'],
  standard: 'DIN 472:2011',
  columns: {
    diameter: 'diameter of the bore',
    groove: 'diameter of the groove',
    grooveWidth: 'width of the groove, at least',
    height: 'thickness of the ring',
  },
  rows: {
    '⌀ 8': [8, 8.4, 0.9, 0.8],
    '⌀ 10': [10, 10.4, 1.1, 1],
    '⌀ 12': [12, 12.5, 1.1, 1],
    '⌀ 16': [16, 16.8, 1.1, 1],
    '⌀ 19': [19, 20, 1.1, 1],
    '⌀ 20': [20, 21, 1.1, 1],
    '⌀ 22': [22, 23, 1.1, 1],
    '⌀ 26': [26, 27.2, 1.3, 1.2],
    '⌀ 28': [28, 29.4, 1.3, 1.2],
    '⌀ 30': [30, 31.4, 1.3, 1.2],
    '⌀ 32': [32, 33.7, 1.3, 1.2],
    '⌀ 35': [35, 37, 1.6, 1.5],
    '⌀ 42': [42, 44.5, 1.85, 1.75],
  },
}
