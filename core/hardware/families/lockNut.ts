import type { Family } from '../define.ts'
import { metricCoarse } from '../threads.ts'

/** ISO 7040, table 1: as high as they are with the ring that locks them. */
export const lockNut: Family = {
  id: 'iso-7040',
  kind: 'nut',
  label: 'lock nut',
  words: ['locking nut', 'stop nut', 'nut'],
  standard: 'ISO 7040:2012',
  threads: metricCoarse,
  columns: {
    flats: 'width across flats, at most',
    height: 'height, at most',
  },
  rows: {
    M3: [5.5, 4.5],
    M4: [7, 6],
    M5: [8, 6.8],
    M6: [10, 8],
    M8: [13, 9.5],
    M10: [16, 11.9],
    M12: [18, 14.9],
    M16: [24, 19.1],
    M20: [30, 22.8],
  },
}
