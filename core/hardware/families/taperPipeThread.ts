import type { Family } from '../define.ts'
import { taperedWhitworth } from '../forms/index.ts'

/** ISO 7-1, table 1: threads on a cone, whose nominal diameter is at the gauge plane: so far from the end of the pipe, or at the mouth of its socket. */
export const taperPipeThread: Family = {
  id: 'iso-7',
  kind: 'thread',
  label: 'taper pipe thread',
  words: ['thread', 'bspt', 'tapered pipe thread', 'conical thread'],
  standard: 'ISO 7-1:1994',
  form: taperedWhitworth,
  columns: {
    thread: 'diameter at the gauge plane',
    pitch: 'pitch',
    gauge: 'from the end of a pipe to the gauge plane',
  },
  rows: {
    'R1/16': [7.723, 25.4 / 28, 4],
    'R1/8': [9.728, 25.4 / 28, 4],
    'R1/4': [13.157, 25.4 / 19, 6],
    'R3/8': [16.662, 25.4 / 19, 6.4],
    'R1/2': [20.955, 25.4 / 14, 8.2],
    'R3/4': [26.441, 25.4 / 14, 9.5],
    R1: [33.249, 25.4 / 11, 10.4],
    'R1-1/4': [41.91, 25.4 / 11, 12.7],
    'R1-1/2': [47.803, 25.4 / 11, 12.7],
    R2: [59.614, 25.4 / 11, 15.9],
  },
}
