import { flatsForTurn, flatsInUse, type Ring, type Vec2 } from '../plane/index.ts'
import { roundest } from './root.ts'
import type { Teeth } from './teeth.ts'

/** Teeth along a line, for one that gears of the same module and pressure angle run along; all in mm. */
export interface Rack {
  /** `count` of its teeth, and their sizes as those of a gear are given */
  readonly teeth: Omit<Teeth, 'relief'>
  /** from the roots to the back */
  readonly back: number
}

/** The rounds of a tooth beside its middle: their middles, the pitch line at y = 0, and radii; a sharp corner has none. */
function roundsOf({ module, addendum, dedendum, thinner, pressure, ...teeth }: Rack['teeth']) {
  const lean = (pressure * Math.PI) / 180
  const [sine, cosine] = [Math.sin(lean), Math.cos(lean)]
  /** Half of a tooth at a height over the pitch line. */
  const at = (y: number) => (Math.PI * module) / 4 - thinner / 2 - y * Math.tan(lean)
  const root = Math.min(teeth.fillet, roundest({ ...teeth, module, addendum, dedendum, thinner, pressure }))
  const tip = Math.min(teeth.round ?? 0, (at(addendum) * cosine) / (1 - sine))
  const [low, high] = [root - dedendum, addendum - tip]
  return {
    lean,
    root: { x: at(low) + root / cosine, y: low, radius: root },
    tip: { x: at(high) - tip / cosine, y: high, radius: tip },
  }
}

/** How far a rack reaches from its middle along a direction in its section. */
export function rackReach({ teeth, back }: Rack, [x, y]: Vec2): number {
  const { tip } = roundsOf(teeth)
  const half = (teeth.count * Math.PI * teeth.module) / 2
  const across = Math.abs(x)
  return Math.max(
    across * (half - (Math.PI * teeth.module) / 2 + tip.x) + y * tip.y + tip.radius * Math.hypot(x, y),
    across * half - y * (y > 0 ? teeth.dedendum : teeth.dedendum + back),
  )
}

/**
 * The outline of a rack, counter-clockwise: its pitch line on the x axis, its teeth to the back, half a space at both ends. Flanks are
 * straight (ISO 53); roots and tips are rounded, their flats within `fineness` mm of it.
 */
export function rackRing({ teeth, back }: Rack, fineness: number): Ring {
  const { count, module, dedendum } = teeth
  const { lean, root, tip } = roundsOf(teeth)
  const pitch = Math.PI * module
  // From a root to the right of a tooth's middle up to its tip; the rounds meet the flank where they lean as it does.
  const points: [number, number][] = []
  const round = ({ x: cx, y: cy, radius }: typeof tip, from: number, to: number) => {
    const turn = Math.abs(to - from)
    const parts =
      radius > 0
        ? flatsInUse(Math.max(turn * Math.sqrt(radius / (8 * fineness)) * 1.03, flatsForTurn(turn, fineness)))
        : 0
    for (let i = 0; i <= parts; i++) {
      const angle = from + ((to - from) * i) / Math.max(1, parts)
      points.push([cx + radius * Math.cos(angle), cy + radius * Math.sin(angle)])
    }
  }
  round(root, -Math.PI / 2, -Math.PI + lean)
  round(tip, lean, Math.PI / 2)
  const right = points
  const left = right.toReversed().map(([x, y]): [number, number] => [-x, y])
  const all: [number, number][] = []
  for (let i = count - 1; i >= 0; i--) {
    const middle = (i - (count - 1) / 2) * pitch
    for (const [x, y] of [...right, ...left]) all.push([middle + x, y])
  }
  const end = (count * pitch) / 2
  const ring: (readonly [number, number])[] = [
    [-end, -dedendum],
    [-end, -dedendum - back],
    [end, -dedendum - back],
    [end, -dedendum],
    ...all,
  ]
  return ring.filter(([x, y], i) => {
    const [px, py] = ring[(i + ring.length - 1) % ring.length]!
    return Math.hypot(x - px, y - py) > 1e-9
  })
}
