import type { Family } from '../define.ts'
import { whitworth } from '../forms/index.ts'

/** ISO 228-1, table 1: parallel threads, which do not seal by themselves; called by the bore of the pipe in inches. */
export const pipeThread: Family = {
  id: 'iso-228',
  kind: 'thread',
  label: 'pipe thread',
  words: ['thread', 'gas thread', 'bsp', 'parallel pipe thread', 'hose thread'],
  standard: 'ISO 228-1:2000',
  form: whitworth,
  columns: { thread: 'nominal diameter', pitch: 'pitch' },
  rows: {
    'G1/16': [7.723, 25.4 / 28],
    'G1/8': [9.728, 25.4 / 28],
    'G1/4': [13.157, 25.4 / 19],
    'G3/8': [16.662, 25.4 / 19],
    'G1/2': [20.955, 25.4 / 14],
    'G3/4': [26.441, 25.4 / 14],
    G1: [33.249, 25.4 / 11],
    'G1-1/4': [41.91, 25.4 / 11],
    'G1-1/2': [47.803, 25.4 / 11],
    G2: [59.614, 25.4 / 11],
  },
}
