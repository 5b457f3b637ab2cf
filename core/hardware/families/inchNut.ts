import type { Family } from '../define.ts'
import { unifiedCoarse } from '../threads.ts'

/** ASME B18.2.2: machine screw nuts up to #10, hex nuts from 1/4; UNC threads. */
export const inchNut: Family = {
  id: 'asme-b18.2.2',
  kind: 'nut',
  label: 'inch hex nut',
  words: ['hex nut', 'inch nut', 'unc nut', 'nut'],
  standard: 'ASME B18.2.2-2015',
  unit: 'in',
  threads: unifiedCoarse,
  columns: {
    flats: 'width across flats, at most',
    height: 'height, at most',
  },
  rows: {
    '#4-40': [1 / 4, 0.098],
    '#6-32': [5 / 16, 0.114],
    '#8-32': [11 / 32, 0.13],
    '#10-24': [3 / 8, 0.13],
    '1/4-20': [7 / 16, 0.226],
    '5/16-18': [1 / 2, 0.273],
    '3/8-16': [9 / 16, 0.337],
    '1/2-13': [3 / 4, 0.448],
  },
}
