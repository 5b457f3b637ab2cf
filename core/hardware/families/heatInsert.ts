import type { Family } from '../define.ts'
import { metricCoarse } from '../threads.ts'

/** Inserts that are pressed in hot: as many shops sell them. Measure yours. */
export const heatInsert: Family = {
  id: 'usual-insert',
  kind: 'insert',
  label: 'heat-set insert',
  words: ['insert', 'threaded insert', 'brass insert', 'melt-in insert'],
  standard: 'usual size',
  threads: metricCoarse,
  columns: {
    hole: 'hole that it is pressed into',
    outside: 'diameter of its knurl',
    height: 'length',
  },
  rows: {
    M2: [3.2, 3.6, 4],
    'M2.5': [4, 4.6, 5.7],
    M3: [4, 4.6, 5.7],
    M4: [5.6, 6.3, 8.1],
    M5: [6.4, 7.1, 9.5],
    M6: [8, 8.7, 12.7],
    M8: [9.7, 10.1, 12.7],
  },
}
