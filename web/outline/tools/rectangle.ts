import { line, type Segment, type Vec2 } from '@makrel/core/plane'
import type { Tool } from './define.ts'

function sides(a: Vec2, c: Vec2): Segment[] {
  const points: Vec2[] = [a, [c[0], a[1]], c, [a[0], c[1]]]
  return points.map((p, i) => line(p, points[(i + 1) % 4]!))
}

function rectangleTool(kind: string, label: string, key: string, centred: boolean, icon: string): Tool {
  return {
    kind,
    label,
    shelf: 'figures',
    icon,
    key,
    say: (spots) =>
      spots === 0
        ? centred
          ? 'click its centre'
          : 'click one corner'
        : 'click the opposite corner, or type width and height',
    spots: 2,
    preview([from, to]) {
      if (!from || !to) return []
      const first: Vec2 = centred ? [2 * from.at[0] - to.at[0], 2 * from.at[1] - to.at[1]] : from.at
      return sides(first, to.at)
    },
    draw(sketch, [from, to]) {
      if (!from || !to || Math.abs(from.at[0] - to.at[0]) < 1e-6 || Math.abs(from.at[1] - to.at[1]) < 1e-6)
        return undefined
      const lines = sketch.rectangle(from, to, centred)
      return {
        sizes: [
          { label: 'Width', kind: 'distance', of: [lines[0]!] },
          { label: 'Height', kind: 'distance', of: [lines[1]!] },
        ],
      }
    },
  }
}

export const rectangle = rectangleTool('rectangle', 'rectangle', 'r', false, 'M2 4 H14 V12 H2 Z')
export const middleRectangle = rectangleTool(
  'middle-rectangle',
  'centred rectangle',
  'm',
  true,
  'M2 4 H14 V12 H2 Z M8 7 V9 M7 8 H9',
)
