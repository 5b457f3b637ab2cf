import type { Family } from '../define.ts'
import { metricCoarse } from '../threads.ts'

/** ISO 4032, table 1. */
export const hexNut: Family = {
  id: 'iso-4032',
  kind: 'nut',
  label: 'hex nut',
  words: ['nut', 'hexagon nut'],
  standard: 'ISO 4032:2012',
  threads: metricCoarse,
  columns: {
    flats: 'width across flats, at most',
    height: 'height, at most',
  },
  rows: {
    'M1.6': [3.2, 1.3],
    M2: [4, 1.6],
    'M2.5': [5, 2],
    M3: [5.5, 2.4],
    M4: [7, 3.2],
    M5: [8, 4.7],
    M6: [10, 5.2],
    M8: [13, 6.8],
    M10: [16, 8.4],
    M12: [18, 10.8],
    M16: [24, 14.8],
    M20: [30, 18],
  },
}
