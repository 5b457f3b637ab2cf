import type { Family } from '../define.ts'
import { metricCoarse } from '../threads.ts'

/** DIN 562: thin square nuts. */
export const squareNut: Family = {
  id: 'din-562',
  kind: 'nut',
  label: 'square nut',
  words: ['thin square nut', 'nut'],
  standard: 'DIN 562',
  threads: metricCoarse,
  isSquare: true,
  columns: {
    flats: 'width across flats, at most',
    height: 'height, at most',
  },
  rows: {
    M2: [4, 1.2],
    'M2.5': [5, 1.6],
    M3: [5.5, 1.8],
    M4: [7, 2.2],
    M5: [8, 2.7],
    M6: [10, 3.2],
    M8: [13, 4],
  },
}
