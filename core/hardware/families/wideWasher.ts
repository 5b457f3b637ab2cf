import type { Family } from '../define.ts'
import { metricCoarse } from '../threads.ts'

/** ISO 7093-1, table 1. */
export const wideWasher: Family = {
  id: 'iso-7093',
  kind: 'washer',
  label: 'wide washer',
  words: ['fender washer', 'penny washer', 'large washer'],
  standard: 'ISO 7093-1:2000',
  threads: metricCoarse,
  columns: {
    bore: 'its hole',
    outside: 'outside diameter',
    height: 'nominal thickness',
  },
  rows: {
    M3: [3.2, 9, 0.8],
    M4: [4.3, 12, 1],
    M5: [5.3, 15, 1],
    M6: [6.4, 18, 1.6],
    M8: [8.4, 24, 2],
    M10: [10.5, 30, 2.5],
    M12: [13, 37, 3],
  },
}
