import type { Face } from './arrangement.ts'
import { flattenedChain } from './flatten.ts'
import { insideRings, type Ring, type Vec2 } from './vectors.ts'

const known = new WeakMap<Face, readonly Ring[]>()

/** What bounds a region, as flats fine enough to tell what lies in it. */
function ringsOf(face: Face): readonly Ring[] {
  const rings =
    known.get(face) ??
    [face.outer, ...face.holes].map(({ segments }) =>
      flattenedChain(segments, true, Math.max(1e-6, Math.sqrt(face.area) / 500), false),
    )
  known.set(face, rings)
  return rings
}

/** Whether a point lies in a region, and in none of its holes. */
export function isWithin(face: Face, at: Vec2): boolean {
  return insideRings(ringsOf(face), at)
}

/** A point well inside a region: in the middle of the widest of some level cuts through it. */
export function innerPointOf(face: Face): Vec2 {
  const rings = ringsOf(face)
  const heights = rings[0]!.map(([, y]) => y)
  const [low, high] = heights.reduce(([a, b], y) => [Math.min(a, y), Math.max(b, y)], [Infinity, -Infinity])
  let best = { wide: -1, at: rings[0]![0]! as Vec2 }
  // Shares that no drawing is likely to have a corner at.
  for (const share of [0.5031, 0.2517, 0.7493, 0.1271, 0.8733, 0.3779, 0.6227, 0.0311, 0.9689]) {
    const y = low + (high - low) * share
    const xs = crossedAt(rings, y)
    for (let i = 1; i < xs.length; i += 2) {
      const wide = xs[i]! - xs[i - 1]!
      if (wide > best.wide) best = { wide, at: [(xs[i]! + xs[i - 1]!) / 2, y] }
    }
  }
  return best.at
}

function crossedAt(rings: readonly Ring[], y: number): number[] {
  return rings
    .flatMap((ring) =>
      ring.flatMap((a, i) => {
        const b = ring[(i + 1) % ring.length]!
        return a[1] > y === b[1] > y ? [] : [a[0] + ((b[0] - a[0]) * (y - a[1])) / (b[1] - a[1])]
      }),
    )
    .sort((a, b) => a - b)
}
