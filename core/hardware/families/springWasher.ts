import type { Family } from '../define.ts'
import { metricCoarse } from '../threads.ts'

/** DIN 127, form B: as wide as they are at most. */
export const springWasher: Family = {
  id: 'din-127',
  kind: 'washer',
  label: 'spring washer',
  words: ['lock washer', 'split washer', 'split ring washer'],
  standard: 'DIN 127:1987',
  threads: metricCoarse,
  columns: {
    bore: 'its hole, at least',
    outside: 'outside diameter, at most',
    height: 'thickness of its wire',
  },
  rows: {
    M3: [3.1, 6.2, 0.8],
    M4: [4.1, 7.6, 0.9],
    M5: [5.1, 9.2, 1.2],
    M6: [6.1, 11.8, 1.6],
    M8: [8.1, 14.8, 2],
    M10: [10.2, 18.1, 2.2],
    M12: [12.2, 21.1, 2.5],
    M16: [16.2, 27.4, 3.5],
  },
}
