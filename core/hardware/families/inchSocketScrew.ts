import type { Family } from '../define.ts'
import { unifiedCoarse } from '../threads.ts'

/** ASME B18.3, table 1A: heads at most as large; UNC threads. */
export const inchSocketScrew: Family = {
  id: 'asme-b18.3',
  kind: 'screw',
  label: 'inch socket screw',
  words: ['socket screw', 'cap screw', 'inch screw', 'unc screw', 'bolt', 'screw'],
  standard: 'ASME B18.3-2012',
  unit: 'in',
  threads: unifiedCoarse,
  columns: {
    head: 'diameter of its head, at most',
    headHeight: 'height of its head, at most',
    key: 'size of its key',
  },
  rows: {
    '#4-40': [0.183, 0.112, 3 / 32],
    '#6-32': [0.226, 0.138, 7 / 64],
    '#8-32': [0.27, 0.164, 9 / 64],
    '#10-24': [0.312, 0.19, 5 / 32],
    '1/4-20': [0.375, 0.25, 3 / 16],
    '5/16-18': [0.469, 5 / 16, 1 / 4],
    '3/8-16': [0.562, 0.375, 5 / 16],
    '1/2-13': [0.75, 0.5, 3 / 8],
  },
}
