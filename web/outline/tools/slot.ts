import {
  arcBetween,
  distance2,
  leftOf,
  line,
  minus,
  plus,
  type Segment,
  times,
  unit2,
  type Vec2,
} from '@makrel/core/plane'
import type { Tool } from './define.ts'

export const slot: Tool = {
  kind: 'slot',
  label: 'slot',
  shelf: 'figures',
  icon: 'M5 5 H11 A3 3 0 0 1 11 11 H5 A3 3 0 0 1 5 5',
  key: 'o',
  say: (spots) => ['click the middle of one end', 'click the middle of the other end', 'click how wide it is'][spots]!,
  isLine: (spots) => spots === 1,
  spots: 3,
  preview([m, n, wide]) {
    if (!m || !n || distance2(m.at, n.at) < 1e-9) return []
    const r = wide ? apart(m.at, n.at, wide.at) : distance2(m.at, n.at) / 4
    return r < 1e-9 ? [line(m.at, n.at)] : stadium(m.at, n.at, r)
  },
  draw(sketch, [m, n, wide]) {
    const r = m && n && wide ? apart(m.at, n.at, wide.at) : 0
    if (!m || !n || r < 1e-6 || distance2(m.at, n.at) < 1e-6) return undefined
    const [, , round] = sketch.slot(m, n, r)
    const spine = sketch.outline.curves.findLast(({ helper }) => helper)!.id
    return {
      sizes: [
        { label: 'From middle to middle', kind: 'distance', of: [spine] },
        { label: 'Width', kind: 'diameter', of: [round!] },
      ],
    }
  },
}

function apart(m: Vec2, n: Vec2, p: Vec2): number {
  const normal = leftOf(unit2(minus(n, m)))
  return Math.abs((p[0] - m[0]) * normal[0] + (p[1] - m[1]) * normal[1])
}

function stadium(m: Vec2, n: Vec2, r: number): Segment[] {
  const side = times(leftOf(unit2(minus(n, m))), r)
  const [a, b, c, d] = [minus(m, side), minus(n, side), plus(n, side), plus(m, side)]
  return [line(a, b), arcBetween(n, b, c, true), line(c, d), arcBetween(m, d, a, true)]
}
