import { curveOf, type Spot } from '@makrel/core/outline'
import { distance2 } from '@makrel/core/plane'
import type { Tool } from './define.ts'

/** Without what was pressed twice at one place, as a double press does: a curve has no way from a point to itself. */
function apart(spots: readonly Spot[]): readonly Spot[] {
  return spots.filter(({ at }, i) => i === 0 || distance2(at, spots[i - 1]!.at) > 1e-6)
}

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
    say: (spots) => (spots === 0 ? says : 'keep clicking; Enter ends it, a click on its start closes it'),
    spots: 'endless',
    preview(pressed) {
      const places = apart(pressed).map(({ at }) => at)
      return places.length < 2 ? [] : definition.segments(places, 0, {})
    },
    draw(sketch, pressed) {
      const spots = apart(pressed)
      if (spots.length < 2) return undefined
      const closed = closing(spots)
      sketch.spline(kind, closed ? spots.slice(0, -1) : spots, closed)
      return {}
    },
  }
}

export const through = spline('through', 'curve through', 's', 'click the points that the curve passes through')
export const near = spline('near', 'curve near', 'd', 'click the points that pull the curve')
