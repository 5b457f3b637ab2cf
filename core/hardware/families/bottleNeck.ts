import type { Family } from '../define.ts'
import { bottle } from '../forms/index.ts'

/** Necks of bottles, by the middle of what makers allow: diameter over the bead (T), of the neck (E), pitch. Measure yours. */
export const bottleNeck: Family = {
  id: 'usual-neck',
  kind: 'thread',
  label: 'bottle neck',
  words: ['thread', 'bottle thread', 'cap thread', 'lid', 'jar'],
  standard: 'usual size',
  form: bottle,
  columns: { thread: 'diameter over the bead', root: 'diameter of the neck', pitch: 'pitch' },
  rows: {
    'PCO-1810': [27.43, 24.94, 3.18],
    'PCO-1881': [27.43, 24.94, 2.7],
    '24-400': [23.62, 21.24, 25.4 / 8],
    '28-400': [27.38, 24.99, 25.4 / 6],
    '33-400': [31.83, 29.43, 25.4 / 6],
    '38-400': [37.19, 34.8, 25.4 / 6],
  },
}
