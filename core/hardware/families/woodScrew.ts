import type { Family } from '../define.ts'

/** Countersunk screws for wood and chipboard, as most shops sell them. Measure yours. */
export const woodScrew: Family = {
  id: 'usual-wood',
  kind: 'screw',
  label: 'countersunk wood screw',
  words: ['wood screw', 'chipboard screw', 'screw for wood', 'screw'],
  standard: 'usual size',

  isCountersunk: true,
  columns: {
    thread: 'outside diameter of the thread',
    core: 'diameter of its core',
    head: 'diameter of its head',
    headHeight: 'height of its head and the cone below it',
  },
  rows: {
    '⌀ 3': [3, 1.9, 6, 1.5],
    '⌀ 3.5': [3.5, 2.2, 7.0, 1.75],
    '⌀ 4': [4, 2.5, 8, 2.0],
    '⌀ 4.5': [4.5, 2.8, 9.0, 2.25],
    '⌀ 5': [5, 3.2, 10, 2.5],
    '⌀ 6': [6, 3.9, 12, 3.0],
  },
}
