import type { Family } from '../define.ts'
import { trapezoidal } from '../forms/index.ts'

/** ISO 2904, table 1: threads that move something, with the pitch that is used most. */
export const trapezoidalThread: Family = {
  id: 'iso-2904',
  kind: 'thread',
  label: 'trapezoidal thread',
  words: ['thread', 'lead screw', 'leadscrew', 'acme', 'power screw', 'spindle'],
  standard: 'ISO 2904:1977',
  form: trapezoidal,
  columns: { thread: 'nominal diameter', pitch: 'pitch' },
  rows: {
    'Tr8 × 1.5': [8, 1.5],
    'Tr10 × 2': [10, 2],
    'Tr12 × 3': [12, 3],
    'Tr16 × 4': [16, 4],
    'Tr20 × 4': [20, 4],
    'Tr24 × 5': [24, 5],
    'Tr28 × 5': [28, 5],
    'Tr30 × 6': [30, 6],
    'Tr32 × 6': [32, 6],
    'Tr36 × 6': [36, 6],
    'Tr40 × 7': [40, 7],
  },
}
