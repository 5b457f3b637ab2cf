import { circleSegment } from '../../plane/index.ts'
import { defineCurve } from './define.ts'

export const circle = defineCurve({
  kind: 'circle',
  label: 'circle',
  meaning: 'A whole circle about its centre.',
  icon: 'M8 2 A6 6 0 1 1 7.99 2',
  points: { least: 1, most: 1 },
  size: 'Radius',
  ref: ([c], r) => ({ kind: 'round', c: c!, r, s: undefined, e: undefined }),
  segments: ([c], r) => (r > 1e-9 ? [circleSegment(c!, r)] : []),
})
