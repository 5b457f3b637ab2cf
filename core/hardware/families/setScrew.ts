import type { Family } from '../define.ts'
import { metricCoarse } from '../threads.ts'

/** ISO 4026, table 1. */
export const setScrew: Family = {
  id: 'iso-4026',
  kind: 'set screw',
  label: 'set screw',
  words: ['grub screw', 'headless screw'],
  standard: 'ISO 4026:2003',
  threads: metricCoarse,
  columns: {
    key: 'size of its key',
  },
  rows: {
    'M1.6': [0.7],
    M2: [0.9],
    'M2.5': [1.3],
    M3: [1.5],
    M4: [2],
    M5: [2.5],
    M6: [3],
    M8: [4],
    M10: [5],
    M12: [6],
    M16: [8],
    M20: [10],
  },
}
