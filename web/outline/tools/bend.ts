import { goingOn, tangentCentre } from '@makrel/core/outline'
import { arcBetween, cross2, minus, type Segment, type Vec2 } from '@makrel/core/plane'
import type { Tool, ToolContext } from './define.ts'

export const bend: Tool = {
  kind: 'bend',
  label: 'bend',
  shelf: 'lines',
  icon: 'M2 13 H6 A7 7 0 0 0 13 6 V2',
  key: 'b',
  say: (spots) =>
    spots === 0 ? 'click the end of a curve that it goes on from' : 'click where the arc ends; L goes on straight',
  spots: 2,
  preview([from, to], { solved }) {
    const on = from?.point === undefined ? undefined : goingOn(solved, from.point)
    return on && from && to ? arcFrom(from.at, on.way, to.at) : []
  },
  draw(sketch, [from, to], context: ToolContext) {
    const on = from?.point === undefined ? undefined : goingOn(context.solved, from.point)
    const id = on && from && to ? sketch.tangentArc(from, on.way, on.curve, to) : undefined
    if (!id || !to) return undefined
    const [, start, end] = sketch.outline.curves.find((curve) => curve.id === id)!.points
    const last = start === from!.point ? end! : start!
    return {
      sizes: [{ label: 'Radius', kind: 'radius', of: [id] }],
      next: to.point === undefined ? [{ at: to.at, point: last }] : [],
    }
  },
}

function arcFrom(from: Vec2, way: Vec2, to: Vec2): readonly Segment[] {
  const centre = tangentCentre(from, way, to)
  if (!centre) return [{ kind: 'line', from, to }]
  return [arcBetween(centre, from, to, cross2(way, minus(to, from)) > 0)]
}
