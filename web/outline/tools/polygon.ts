import { distance2, line, type Vec2 } from '@makrel/core/plane'
import type { Tool } from './define.ts'

/** More sides than this are a circle. */
export const mostSides = 100

export const polygon: Tool = {
  kind: 'polygon',
  label: 'polygon',
  shelf: 'figures',
  icon: 'M8 1.5 L13.6 4.75 V11.25 L8 14.5 L2.4 11.25 V4.75 Z',
  key: 'p',
  say: (spots) =>
    spots === 0
      ? 'click its centre; digits 3 to 9, + and − change how many sides it has'
      : 'click one of its corners; 3 to 9, + and − change its sides',
  spots: 2,
  preview([m, corner], { sides }) {
    if (!m || !corner || distance2(m.at, corner.at) < 1e-9) return []
    const arm: Vec2 = [corner.at[0] - m.at[0], corner.at[1] - m.at[1]]
    const points = Array.from({ length: sides }, (_, i): Vec2 => {
      const rad = (2 * Math.PI * i) / sides
      return [
        m.at[0] + arm[0] * Math.cos(rad) - arm[1] * Math.sin(rad),
        m.at[1] + arm[0] * Math.sin(rad) + arm[1] * Math.cos(rad),
      ]
    })
    return points.map((p, i) => line(p, points[(i + 1) % sides]!))
  },
  draw(sketch, [m, corner], { sides }) {
    if (!m || !corner || distance2(m.at, corner.at) < 1e-6) return undefined
    sketch.polygon(m, corner, sides)
    const round = sketch.outline.constraints.findLast(({ kind }) => kind === 'on')!.of[1]!
    return { sizes: [{ label: 'Over corners', kind: 'diameter', of: [round] }] }
  },
}
