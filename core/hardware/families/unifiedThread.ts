import type { Family } from '../define.ts'
import { metric } from '../forms/index.ts'

/** ASME B1.1, table 1: diameters in inches, pitches as threads to the inch; coarse (UNC) and fine (UNF). */
export const unifiedThread: Family = {
  id: 'asme-b1.1',
  kind: 'thread',
  label: 'unified thread',
  words: ['thread', 'screw thread', 'tapped', 'unc', 'unf', 'inch thread'],
  standard: 'ASME B1.1-2003',
  unit: 'in',
  form: metric,
  columns: { thread: 'nominal diameter', pitch: 'pitch' },
  rows: {
    '#4-40': [0.112, 1 / 40],
    '#6-32': [0.138, 1 / 32],
    '#8-32': [0.164, 1 / 32],
    '#10-24': [0.19, 1 / 24],
    '#10-32': [0.19, 1 / 32],
    '1/4-20': [0.25, 1 / 20],
    '1/4-28': [0.25, 1 / 28],
    '5/16-18': [0.3125, 1 / 18],
    '5/16-24': [0.3125, 1 / 24],
    '3/8-16': [0.375, 1 / 16],
    '3/8-24': [0.375, 1 / 24],
    '7/16-14': [0.4375, 1 / 14],
    '1/2-13': [0.5, 1 / 13],
    '1/2-20': [0.5, 1 / 20],
    '5/8-11': [0.625, 1 / 11],
    '5/8-18': [0.625, 1 / 18],
    '3/4-10': [0.75, 1 / 10],
    '3/4-16': [0.75, 1 / 16],
    '1-8': [1, 1 / 8],
    '1-12': [1, 1 / 12],
  },
}
