import type { Family } from '../define.ts'
import { metricCoarse } from '../threads.ts'

/** ISO 10642, table 1: heads of 90°, whose diameter is that of the sharp edge that they would have. */
export const countersunkScrew: Family = {
  id: 'iso-10642',
  kind: 'screw',
  label: 'countersunk screw',
  words: ['countersunk socket screw', 'flat head screw', 'csk screw', 'screw'],
  standard: 'ISO 10642:2004',
  threads: metricCoarse,
  isCountersunk: true,
  columns: {
    head: 'diameter of its head as a sharp cone',
    headHeight: 'height of its head, at most',
    key: 'size of its key',
  },
  rows: {
    M3: [6.72, 1.86, 2],
    M4: [8.96, 2.48, 2.5],
    M5: [11.2, 3.1, 3],
    M6: [13.44, 3.72, 4],
    M8: [17.92, 4.96, 5],
    M10: [22.4, 6.2, 6],
    M12: [26.88, 7.44, 8],
    M16: [33.6, 8.8, 10],
    M20: [40.32, 10.16, 12],
  },
}
