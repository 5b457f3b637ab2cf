import { arcThrough, line } from '@makrel/core/plane'
import type { Tool } from './define.ts'

export const arc: Tool = {
  kind: 'arc',
  label: 'arc',
  shelf: 'lines',
  icon: 'M2 12 A9 9 0 0 1 14 12 M8 6.4 V6.6',
  key: 'a',
  say: (spots) => ['click where the arc begins', 'click where it ends', 'click a place that it passes through'][spots]!,
  spots: 3,
  preview([from, to, via]) {
    if (!from || !to) return []
    const through = via && arcThrough(from.at, via.at, to.at)
    return through ? [through] : [line(from.at, to.at)]
  },
  draw(sketch, [from, to, via]) {
    const id = from && to && via ? sketch.arc(from, via.at, to) : undefined
    return id === undefined ? undefined : { sizes: [{ label: 'Radius', kind: 'radius', of: [id] }] }
  },
}
