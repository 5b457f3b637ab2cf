import { leftOf, minus, norm2, type Segment, times, unit2, type Vec2 } from '../../plane/index.ts'
import { bentRef, defineCurve } from './define.ts'

/** Its points are its middle and the end of one half axis; its size is the other half axis. */
export const ellipse = defineCurve({
  kind: 'ellipse',
  label: 'ellipse',
  meaning: 'An ellipse about its centre, by the end of one semi-axis and the length of the other.',
  icon: 'M14 8 A6 4 0 1 1 14 7.99',
  points: { least: 2, most: 2 },
  size: 'Other semi-axis',
  ref: (points, size) => ({ ...bentRef(points, size, undefined, whole), axis: [points[0]!, points[1]!] }),
  segments: (points, size) => whole(points, size),
})

function whole([centre, end]: readonly Vec2[], size: number): Segment[] {
  const major = minus(end!, centre!)
  if (norm2(major) < 1e-9 || size < 1e-9) return []
  const minor = times(leftOf(unit2(major)), size)
  return [{ kind: 'ellipse', centre: centre!, major, minor, startRad: 0, sweepRad: 2 * Math.PI }]
}
