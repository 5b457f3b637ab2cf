import type { Family } from '../define.ts'
import { round } from '../forms/index.ts'

/** DIN 405-1: threads that dirt does no harm; pitches of 10, 8 and 6 threads to the inch. */
export const roundThread: Family = {
  id: 'din-405',
  kind: 'thread',
  label: 'round thread',
  words: ['thread', 'knuckle thread'],
  standard: 'DIN 405-1:1997',
  form: round,
  columns: { thread: 'nominal diameter', pitch: 'pitch' },
  rows: {
    Rd8: [8, 25.4 / 10],
    Rd10: [10, 25.4 / 10],
    Rd12: [12, 25.4 / 10],
    Rd14: [14, 25.4 / 8],
    Rd16: [16, 25.4 / 8],
    Rd20: [20, 25.4 / 8],
    Rd24: [24, 25.4 / 8],
    Rd30: [30, 25.4 / 8],
    Rd36: [36, 25.4 / 8],
    Rd40: [40, 25.4 / 6],
    Rd50: [50, 25.4 / 6],
    Rd60: [60, 25.4 / 6],
  },
}
