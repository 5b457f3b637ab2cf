import type { Family } from '../define.ts'

/** Disc magnets as many shops sell them. Measure yours. */
export const discMagnet: Family = {
  id: 'usual-magnet',
  kind: 'magnet',
  label: 'disc magnet',
  words: ['magnet', 'round magnet'],
  standard: 'usual size',
  columns: {
    diameter: 'diameter',
    height: 'thickness',
  },
  rows: {
    '3 × 1': [3, 1],
    '3 × 2': [3, 2],
    '4 × 2': [4, 2],
    '5 × 1': [5, 1],
    '5 × 2': [5, 2],
    '5 × 3': [5, 3],
    '6 × 2': [6, 2],
    '6 × 3': [6, 3],
    '8 × 2': [8, 2],
    '8 × 3': [8, 3],
    '10 × 2': [10, 2],
    '10 × 3': [10, 3],
    '10 × 5': [10, 5],
    '12 × 3': [12, 3],
    '15 × 3': [15, 3],
    '20 × 3': [20, 3],
  },
}
