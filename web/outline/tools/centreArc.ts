import type { Spot } from '@makrel/core/outline'
import { arcBetween, distance2, line, minus, plus, times, unit2, type Vec2 } from '@makrel/core/plane'
import type { Tool } from './define.ts'

/** From its middle: where it begins says its radius, and where it ends how far round it goes, counter-clockwise. */
export const centreArc: Tool = {
  kind: 'centre-arc',
  label: 'arc about a centre',
  shelf: 'lines',
  icon: 'M13 8 A5 5 0 0 0 8 3 M8 8 H13 M8 8 V3 M8 7.9 V8.1',
  key: 'u',
  say: (spots) =>
    ['click its centre', 'click where the arc begins', 'click where it ends, counter-clockwise from there'][spots]!,
  spots: 3,
  preview([middle, from, to]) {
    if (!middle || !from || distance2(middle.at, from.at) < 1e-9) return []
    if (!to) return [line(middle.at, from.at)]
    return [arcBetween(middle.at, from.at, ended(middle, from, to), true)]
  },
  draw(sketch, [middle, from, to]) {
    if (!middle || !from || !to || distance2(middle.at, from.at) < 1e-6) return undefined
    const end = ended(middle, from, to)
    if (distance2(end, from.at) < 1e-6) return undefined
    // Only an end that lies on the round already keeps what it was found on.
    const there = distance2(end, to.at) < 1e-9 ? to : { at: end }
    const id = sketch.curve('arc', [sketch.point(middle), sketch.point(from), sketch.point(there)])
    return { sizes: [{ label: 'Radius', kind: 'radius', of: [id] }] }
  },
}

/** On the round, in the direction of what was pressed. */
function ended(middle: Spot, from: Spot, to: Spot): Vec2 {
  const way = minus(to.at, middle.at)
  if (Math.hypot(...way) < 1e-9) return from.at
  return plus(middle.at, times(unit2(way), distance2(middle.at, from.at)))
}
