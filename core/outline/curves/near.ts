import { defineCurve } from './define.ts'
import { closedUp, near as spline, splineRef } from './splines.ts'

export const near = defineCurve({
  kind: 'near',
  label: 'curve near points',
  meaning: 'A smooth curve that is pulled by its points, and passes through the first and the last one.',
  icon: 'M1 13 C4 6 12 10 15 3 M1 13 L5 4 L11 12 L15 3',
  points: { least: 2, most: 200 },
  ref: (points, _, closed) => splineRef(points, closed, spline),
  segments: (points) => {
    const own = closedUp(points)
    return spline(own.points, own.closed)
  },
})
