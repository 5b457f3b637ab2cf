import type { Spot } from '@makrel/core/outline'
import { curveOf } from '@makrel/core/outline'
import type { Tool } from './define.ts'

function spline(kind: 'through' | 'near', label: string, key: string, says: string): Tool {
  const definition = curveOf(kind)!
  const closing = (spots: readonly Spot[]) =>
    spots.length > 3 && spots[0]!.point === undefined && spots.at(-1)!.at === spots[0]!.at
  return {
    kind,
    label,
    shelf: 'lines',
    icon: definition.icon,
    key,
    say: (spots) => (spots === 0 ? says : 'press on; Enter ends it, a press on its beginning closes it'),
    spots: 'endless',
    preview: (spots) =>
      spots.length < 2
        ? []
        : definition.segments(
            spots.map(({ at }) => at),
            0,
            {},
          ),
    draw(sketch, spots) {
      if (spots.length < 2) return undefined
      const closed = closing(spots)
      sketch.spline(kind, closed ? spots.slice(0, -1) : spots, closed)
      return {}
    },
  }
}

export const through = spline('through', 'curve through', 's', 'press the points that the curve passes through')
export const near = spline('near', 'curve near', 'd', 'press the points that pull the curve')
