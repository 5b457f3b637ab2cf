import type { Family } from '../define.ts'
import { metricCoarse } from '../threads.ts'

/** ISO 4017, table 1; ISO 4014 has the same heads. */
export const hexScrew: Family = {
  id: 'iso-4017',
  kind: 'screw',
  label: 'hex screw',
  words: ['hex bolt', 'hexagon bolt', 'hex head screw', 'bolt', 'screw'],
  standard: 'ISO 4017:2014',
  threads: metricCoarse,
  columns: {
    flats: 'width across flats, at most',
    headHeight: 'nominal height of its head',
  },
  rows: {
    'M1.6': [3.2, 1.1],
    M2: [4, 1.4],
    'M2.5': [5, 1.7],
    M3: [5.5, 2],
    M4: [7, 2.8],
    M5: [8, 3.5],
    M6: [10, 4],
    M8: [13, 5.3],
    M10: [16, 6.4],
    M12: [18, 7.5],
    M16: [24, 10],
    M20: [30, 12.5],
  },
}
