import type { Family } from '../define.ts'
import { buttress } from '../forms/index.ts'

/** DIN 513-2: threads that are pushed one way only. */
export const buttressThread: Family = {
  id: 'din-513',
  kind: 'thread',
  label: 'buttress thread',
  words: ['thread', 'saw tooth thread', 'vice thread'],
  standard: 'DIN 513-2:1985',
  form: buttress,
  columns: { thread: 'nominal diameter', pitch: 'pitch' },
  rows: {
    'S10 × 2': [10, 2],
    'S12 × 3': [12, 3],
    'S16 × 4': [16, 4],
    'S20 × 4': [20, 4],
    'S24 × 5': [24, 5],
    'S28 × 5': [28, 5],
    'S30 × 6': [30, 6],
    'S32 × 6': [32, 6],
    'S36 × 6': [36, 6],
    'S40 × 7': [40, 7],
  },
}
