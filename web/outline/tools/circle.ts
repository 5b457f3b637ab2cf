import { circleSegment, distance2 } from '@makrel/core/plane'
import type { Tool } from './define.ts'

export const circle: Tool = {
  kind: 'circle',
  label: 'circle',
  shelf: 'figures',
  icon: 'M8 2 A6 6 0 1 1 7.99 2',
  key: 'c',
  say: (spots) => (spots === 0 ? 'click its centre' : 'click on its rim, or type the diameter'),
  spots: 2,
  preview: ([m, rim]) =>
    m && rim && distance2(m.at, rim.at) > 1e-9 ? [circleSegment(m.at, distance2(m.at, rim.at))] : [],
  draw(sketch, [m, rim]) {
    if (!m || !rim || distance2(m.at, rim.at) < 1e-6) return undefined
    const id = sketch.circle(m, distance2(m.at, rim.at))
    if (rim.point !== undefined) sketch.hold('on', [rim.point, id])
    return { sizes: [{ label: 'Diameter', kind: 'diameter', of: [id] }] }
  },
}
