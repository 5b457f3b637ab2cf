import type { Family } from '../define.ts'

/** DIN 471, normal rings. */
export const shaftRing: Family = {
  id: 'din-471',
  kind: 'shaft ring',
  label: 'retaining ring for shafts',
  words: ['circlip', 'external circlip', 'shaft circlip', 'retaining ring'],
  standard: 'DIN 471:2011',
  columns: {
    diameter: 'diameter of the shaft',
    groove: 'diameter of the groove',
    grooveWidth: 'width of the groove, at least',
    height: 'thickness of the ring',
  },
  rows: {
    '⌀ 3': [3, 2.8, 0.5, 0.4],
    '⌀ 4': [4, 3.8, 0.5, 0.4],
    '⌀ 5': [5, 4.8, 0.7, 0.6],
    '⌀ 6': [6, 5.7, 0.8, 0.7],
    '⌀ 8': [8, 7.6, 0.9, 0.8],
    '⌀ 10': [10, 9.6, 1.1, 1],
    '⌀ 12': [12, 11.5, 1.1, 1],
    '⌀ 15': [15, 14.3, 1.1, 1],
    '⌀ 16': [16, 15.2, 1.1, 1],
    '⌀ 20': [20, 19, 1.3, 1.2],
    '⌀ 25': [25, 23.9, 1.3, 1.2],
    '⌀ 30': [30, 28.6, 1.6, 1.5],
  },
}
