import { distance2, line as segment } from '../../plane/index.ts'
import { defineCurve } from './define.ts'

export const line = defineCurve({
  kind: 'line',
  label: 'line',
  meaning: 'A straight line from one point to another.',
  icon: 'M2 13 L14 3',
  points: { least: 2, most: 2 },
  ref: ([a, b]) => ({ kind: 'line', a: a!, b: b! }),
  segments: ([a, b]) => (distance2(a!, b!) < 1e-9 ? [] : [segment(a!, b!)]),
})
