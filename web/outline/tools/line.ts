import { distance2, line as segment } from '@makrel/core/plane'
import type { Tool } from './define.ts'

export const line: Tool = {
  kind: 'line',
  label: 'line',
  shelf: 'lines',
  icon: 'M2 13 L14 3',
  key: 'l',
  say: (spots) =>
    spots === 0 ? 'click where the line begins' : 'click where it ends; B bends on, Escape ends the line',
  isLine: (spots) => spots > 0,
  spots: 2,
  preview: ([from, to]) => (from && to && distance2(from.at, to.at) > 1e-9 ? [segment(from.at, to.at)] : []),
  draw(sketch, [from, to], { wishes }) {
    if (!from || !to || distance2(from.at, to.at) < 1e-6) return undefined
    const id = sketch.line(from, to, wishes)
    const end = sketch.outline.curves.find((curve) => curve.id === id)!.points[1]!
    return {
      sizes: [{ label: 'Length', kind: 'distance', of: [id] }],
      next: to.point === undefined ? [{ at: to.at, point: end }] : [],
    }
  },
}
