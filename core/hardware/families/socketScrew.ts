import type { Family } from '../define.ts'
import { metricCoarse } from '../threads.ts'

/** ISO 4762, table 1: cylindrical heads without knurl. */
export const socketScrew: Family = {
  id: 'iso-4762',
  kind: 'screw',
  label: 'socket screw',
  words: ['cap screw', 'socket head cap screw', 'allen screw', 'bolt', 'screw'],
  standard: 'ISO 4762:2004',
  threads: metricCoarse,
  columns: {
    head: 'diameter of its head, at most',
    headHeight: 'height of its head, at most',
    key: 'size of its key',
  },
  rows: {
    'M1.6': [3, 1.6, 1.5],
    M2: [3.8, 2, 1.5],
    'M2.5': [4.5, 2.5, 2],
    M3: [5.5, 3, 2.5],
    M4: [7, 4, 3],
    M5: [8.5, 5, 4],
    M6: [10, 6, 5],
    M8: [13, 8, 6],
    M10: [16, 10, 8],
    M12: [18, 12, 10],
    M16: [24, 16, 14],
    M20: [30, 20, 17],
  },
}
