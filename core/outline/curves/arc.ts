import { arcBetween, distance2 } from '../../plane/index.ts'
import { both, single } from '../constraints/define.ts'
import { defineCurve } from './define.ts'

/** Its points are its middle, its start and its end; it runs counter-clockwise. */
export const arc = defineCurve({
  kind: 'arc',
  label: 'arc',
  meaning: 'Part of a circle: tangent to what it goes on from, or through three points.',
  icon: 'M2 13 A11 11 0 0 1 14 4',
  points: { least: 3, most: 3 },
  ref: ([c, s, e]) => ({ kind: 'round', c: c!, r: undefined, s, e }),
  own([c, s, e]) {
    const far = (x: Float64Array, p: number) => Math.hypot(x[p]! - x[c!]!, x[p + 1]! - x[c! + 1]!)
    return single(both(c!, s!, e!), (x) => far(x, s!) - far(x, e!))
  },
  segments: ([c, s, e]) => (distance2(c!, s!) < 1e-9 || distance2(s!, e!) < 1e-9 ? [] : [arcBetween(c!, s!, e!, true)]),
})
