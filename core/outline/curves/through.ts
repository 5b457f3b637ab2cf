import { defineCurve } from './define.ts'
import { closedUp, through as spline, splineRef } from './splines.ts'

export const through = defineCurve({
  kind: 'through',
  label: 'curve through points',
  meaning: 'A smooth curve that passes through all its points.',
  icon: 'M1 12 C4 2 7 2 8 8 S12 14 15 4',
  points: { least: 2, most: 200 },
  ref: (points, _, closed) => splineRef(points, closed, spline),
  segments: (points) => {
    const own = closedUp(points)
    return spline(own.points, own.closed)
  },
})
