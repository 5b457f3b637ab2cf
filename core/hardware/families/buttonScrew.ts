import type { Family } from '../define.ts'
import { metricCoarse } from '../threads.ts'

/** ISO 7380-1, table 1. */
export const buttonScrew: Family = {
  id: 'iso-7380-1',
  kind: 'screw',
  label: 'button screw',
  words: ['button head screw', 'round head screw', 'dome screw', 'screw'],
  standard: 'ISO 7380-1:2011',
  threads: metricCoarse,
  columns: {
    head: 'diameter of its head, at most',
    headHeight: 'height of its head, at most',
    key: 'size of its key',
  },
  rows: {
    M3: [5.7, 1.65, 2],
    M4: [7.6, 2.2, 2.5],
    M5: [9.5, 2.75, 3],
    M6: [10.5, 3.3, 4],
    M8: [14, 4.4, 5],
    M10: [17.5, 5.5, 6],
    M12: [21, 6.6, 8],
    M16: [28, 8.8, 10],
  },
}
