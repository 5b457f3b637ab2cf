import type { Family } from '../define.ts'
import { metricCoarse } from '../threads.ts'

/** ISO 4035, table 1. */
export const thinNut: Family = {
  id: 'iso-4035',
  kind: 'nut',
  label: 'thin nut',
  words: ['jam nut', 'thin hex nut', 'nut'],
  standard: 'ISO 4035:2012',
  threads: metricCoarse,
  columns: {
    flats: 'width across flats, at most',
    height: 'height, at most',
  },
  rows: {
    'M1.6': [3.2, 1],
    M2: [4, 1.2],
    'M2.5': [5, 1.6],
    M3: [5.5, 1.8],
    M4: [7, 2.2],
    M5: [8, 2.7],
    M6: [10, 3.2],
    M8: [13, 4],
    M10: [16, 5],
    M12: [18, 6],
    M16: [24, 8],
    M20: [30, 10],
  },
}
