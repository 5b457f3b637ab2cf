import type { Family } from '../define.ts'

/** ISO 104: single-direction thrust ball bearings of the series 511. */
export const thrustBearing: Family = {
  id: 'iso-104',
  kind: 'bearing',
  label: 'thrust bearing',
  words: ['bearing', 'axial bearing', 'thrust ball bearing'],
  standard: 'ISO 104:2015',

  columns: {
    bore: 'bore',
    outside: 'outside diameter',
    height: 'height',
  },
  rows: {
    '51100': [10, 24, 9],
    '51101': [12, 26, 9],
    '51102': [15, 28, 9],
    '51103': [17, 30, 9],
    '51104': [20, 35, 10],
    '51105': [25, 42, 11],
    '51106': [30, 47, 11],
  },
}
