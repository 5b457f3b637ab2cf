import type { Family } from '../define.ts'

/** Shielded bearings with a flange, as most shops sell them. Measure yours. */
export const flangedBearing: Family = {
  id: 'usual-flanged',
  kind: 'bearing',
  label: 'flanged bearing',
  words: ['bearing', 'ball bearing with a flange', 'collar bearing'],
  standard: 'usual size',

  columns: {
    bore: 'bore',
    outside: 'outside diameter',
    height: 'width',
    flange: 'diameter of its flange',
    flangeHeight: 'thickness of its flange',
  },
  rows: {
    F623: [3, 10, 4, 11.5, 1],
    F624: [4, 13, 5, 15, 1],
    F625: [5, 16, 5, 18, 1],
    F626: [6, 19, 6, 22, 1.5],
    F608: [8, 22, 7, 25, 1.5],
    F693: [3, 8, 4, 9.5, 0.9],
    F694: [4, 11, 4, 12.5, 1],
    F695: [5, 13, 4, 15, 1],
    F696: [6, 15, 5, 17, 1.2],
    F688: [8, 16, 5, 18, 1.1],
  },
}
