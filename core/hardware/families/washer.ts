import type { Family } from '../define.ts'
import { metricCoarse } from '../threads.ts'

/** ISO 7089, table 1. */
export const washer: Family = {
  id: 'iso-7089',
  kind: 'washer',
  label: 'washer',
  words: ['plain washer', 'flat washer'],
  standard: 'ISO 7089:2000',
  threads: metricCoarse,
  columns: {
    bore: 'its hole',
    outside: 'outside diameter',
    height: 'nominal thickness',
  },
  rows: {
    'M1.6': [1.7, 4, 0.3],
    M2: [2.2, 5, 0.3],
    'M2.5': [2.7, 6, 0.5],
    M3: [3.2, 7, 0.5],
    M4: [4.3, 9, 0.8],
    M5: [5.3, 10, 1],
    M6: [6.4, 12, 1.6],
    M8: [8.4, 16, 1.6],
    M10: [10.5, 20, 2],
    M12: [13, 24, 2.5],
    M16: [17, 30, 3],
    M20: [21, 37, 3],
  },
}
