import type { Family } from '../define.ts'

/** Ring magnets as many shops sell them. Measure yours. */
export const ringMagnet: Family = {
  id: 'usual-ring-magnet',
  kind: 'magnet',
  label: 'ring magnet',
  words: ['magnet', 'magnet with a hole'],
  standard: 'usual size',

  columns: {
    diameter: 'diameter',
    bore: 'its hole',
    height: 'thickness',
  },
  rows: {
    '6 × 2 × 2': [6, 2, 2],
    '8 × 3 × 3': [8, 3, 3],
    '8 × 4 × 3': [8, 4, 3],
    '10 × 3 × 2': [10, 3, 2],
    '10 × 4 × 3': [10, 4, 3],
    '10 × 5 × 3': [10, 5, 3],
    '12 × 4 × 3': [12, 4, 3],
    '12 × 5 × 3': [12, 5, 3],
    '15 × 4 × 3': [15, 4, 3],
    '15 × 5 × 3': [15, 5, 3],
    '20 × 5 × 3': [20, 5, 3],
    '20 × 10 × 5': [20, 10, 5],
  },
}
