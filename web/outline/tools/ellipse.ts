import { distance2, leftOf, minus, type Segment, times, unit2, type Vec2 } from '@makrel/core/plane'
import type { Tool } from './define.ts'

export const ellipse: Tool = {
  kind: 'ellipse',
  label: 'ellipse',
  shelf: 'figures',
  icon: 'M14 8 A6 4 0 1 1 14 7.99',
  key: 'e',
  say: (spots) => ['click its centre', 'click the end of one semi-axis', 'click how wide it is'][spots]!,
  spots: 3,
  preview([m, end, wide]) {
    if (!m || !end || distance2(m.at, end.at) < 1e-9) return []
    const other = wide ? besides(m.at, end.at, wide.at) : distance2(m.at, end.at) / 2
    const major = minus(end.at, m.at)
    const whole: Segment = {
      kind: 'ellipse',
      centre: m.at,
      major,
      minor: times(leftOf(unit2(major)), Math.max(other, 1e-6)),
      startRad: 0,
      sweepRad: 2 * Math.PI,
    }
    return [whole]
  },
  draw(sketch, [m, end, wide]) {
    if (!m || !end || !wide || distance2(m.at, end.at) < 1e-6) return undefined
    const other = besides(m.at, end.at, wide.at)
    if (other < 1e-6) return undefined
    sketch.ellipse(m, end, other)
    return {}
  },
}

function besides(m: Vec2, end: Vec2, p: Vec2): number {
  const normal = leftOf(unit2(minus(end, m)))
  return Math.abs((p[0] - m[0]) * normal[0] + (p[1] - m[1]) * normal[1])
}
