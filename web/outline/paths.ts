import { endOf, pointAt, type Segment, startOf } from '@makrel/core/plane'
import { type PlaneView, toScreen } from './view.ts'

const shown = (value: number) => Math.round(value * 100) / 100

/** SVG path data of true curves on the screen, where y runs down and turns change their sense. */
export function pathOf(segments: readonly Segment[], view: PlaneView, closed = false): string {
  let out = ''
  let last: readonly [number, number] | undefined
  for (const s of segments) {
    const from = toScreen(view, startOf(s))
    if (!last || Math.hypot(from[0] - last[0], from[1] - last[1]) > 0.05) out += `M${shown(from[0])} ${shown(from[1])}`
    out += drawn(s, view)
    last = toScreen(view, endOf(s))
  }
  return closed ? `${out}Z` : out
}

/** Arcs that turn by more are drawn in equal parts, radians. */
const longestTurn = (2 * Math.PI) / 3

/** What a segment was in a view: most are the same in the next drawing. */
const known = new WeakMap<Segment, { readonly view: PlaneView; readonly text: string }>()

function drawn(s: Segment, view: PlaneView): string {
  const before = known.get(s)
  if (before?.view === view) return before.text
  const text = textOf(s, view)
  known.set(s, { view, text })
  return text
}

function textOf(s: Segment, view: PlaneView): string {
  const to = toScreen(view, endOf(s))
  const end = `${shown(to[0])} ${shown(to[1])}`
  switch (s.kind) {
    case 'line':
      return `L${end}`
    case 'arc':
    case 'ellipse': {
      const [rx, ry, turn] =
        s.kind === 'arc'
          ? [s.radius, s.radius, 0]
          : [Math.hypot(...s.major), Math.hypot(...s.minor), (-Math.atan2(s.major[1], s.major[0]) * 180) / Math.PI]
      const sense =
        s.sweepRad * (s.kind === 'ellipse' && s.major[0] * s.minor[1] - s.major[1] * s.minor[0] < 0 ? -1 : 1)
      const flag = sense > 0 ? 0 : 1
      const radii = `${shown(rx * view.scale)} ${shown(ry * view.scale)} ${shown(turn)}`
      // From ends with few digits the middle of what turns by half and more is found badly, of a whole turn not at all.
      const parts = Math.max(1, Math.ceil(Math.abs(s.sweepRad) / longestTurn))
      return Array.from({ length: parts }, (_, i) => {
        const at = i + 1 === parts ? to : toScreen(view, pointAt(s, (i + 1) / parts))
        return `A${radii} 0 ${flag} ${shown(at[0])} ${shown(at[1])}`
      }).join('')
    }
    case 'cubic': {
      const [, b, c] = s.points.map((p) => toScreen(view, p).map(shown).join(' '))
      return `C${b} ${c} ${end}`
    }
  }
}
