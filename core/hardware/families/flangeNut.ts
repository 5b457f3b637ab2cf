import type { Family } from '../define.ts'
import { metricCoarse } from '../threads.ts'

/** ISO 4161, table 1. */
export const flangeNut: Family = {
  id: 'iso-4161',
  kind: 'nut',
  label: 'flange nut',
  words: ['hex flange nut', 'nut'],
  standard: 'ISO 4161:2012',
  threads: metricCoarse,
  columns: {
    flats: 'width across flats, at most',
    height: 'height, at most',
    flange: 'diameter of its flange, at most',
  },
  rows: {
    M5: [8, 5, 11.8],
    M6: [10, 6, 14.2],
    M8: [13, 8, 17.9],
    M10: [16, 10, 21.8],
    M12: [18, 12, 26],
    M16: [24, 16, 34.5],
  },
}
