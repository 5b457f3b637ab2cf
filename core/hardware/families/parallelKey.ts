import type { Family } from '../define.ts'

/** DIN 6885-1, the same as ISO/R 773: keys by the diameters of shafts that they are for, and how deep their ways are. */
export const parallelKey: Family = {
  id: 'din-6885-1',
  kind: 'key',
  label: 'parallel key',
  words: ['key', 'feather key', 'keyway'],
  standard: 'DIN 6885-1:1968',
  columns: {
    width: 'width',
    height: 'height',
    shaftFrom: 'for shafts over',
    shaftTo: 'up to',
    inShaft: 'depth of the way in the shaft',
    inHub: 'depth of the way in the hub',
  },
  rows: {
    '2 × 2': [2, 2, 6, 8, 1.2, 1],
    '3 × 3': [3, 3, 8, 10, 1.8, 1.4],
    '4 × 4': [4, 4, 10, 12, 2.5, 1.8],
    '5 × 5': [5, 5, 12, 17, 3, 2.3],
    '6 × 6': [6, 6, 17, 22, 3.5, 2.8],
    '8 × 7': [8, 7, 22, 30, 4, 3.3],
    '10 × 8': [10, 8, 30, 38, 5, 3.3],
    '12 × 8': [12, 8, 38, 44, 5, 3.3],
  },
}
