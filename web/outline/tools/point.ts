import type { Tool } from './define.ts'

export const point: Tool = {
  kind: 'point',
  label: 'point',
  shelf: 'figures',
  icon: 'M8 5.5 A2.5 2.5 0 1 1 7.99 5.5 M8 1 V4 M8 12 V15 M1 8 H4 M12 8 H15',
  key: 'q',
  say: () => 'click where the point is',
  spots: 1,
  preview: () => [],
  draw(sketch, [at]) {
    if (!at) return undefined
    sketch.point(at)
    return {}
  },
}
