import type { Family } from '../define.ts'

/** ISO 7049 with the threads of ISO 1478: pan heads. They form their own thread in plastic. */
export const tappingScrew: Family = {
  id: 'iso-7049',
  kind: 'screw',
  label: 'tapping screw',
  words: ['self-tapping screw', 'sheet metal screw', 'plastic screw', 'screw for plastic', 'screw'],
  standard: 'ISO 7049:2011',

  columns: {
    thread: 'outside diameter of the thread, at most',
    pitch: 'pitch',
    core: 'diameter of its core, at most',
    head: 'diameter of its head, at most',
    headHeight: 'height of its head, at most',
  },
  rows: {
    'ST2.2': [2.24, 0.8, 1.63, 4, 1.6],
    'ST2.9': [2.9, 1.1, 2.18, 5.6, 2.4],
    'ST3.5': [3.53, 1.3, 2.64, 7, 2.6],
    'ST4.2': [4.22, 1.4, 3.1, 8, 3.1],
    'ST4.8': [4.8, 1.6, 3.58, 9.5, 3.7],
    'ST5.5': [5.46, 1.8, 4.17, 11, 4],
    'ST6.3': [6.25, 1.8, 4.88, 12, 4.6],
  },
}
