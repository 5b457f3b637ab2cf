import type { Wall } from './walls.ts'

/** Walls of more lines than these are filled between them: one line more or less is nothing to them. */
export const mostLines = 4
/** How much of a line a wall may lack, as a share: what is drawn as two lines may be so only to its digits. */
const wholeLine = 0.02

/** Whether what a wall of `thick` mm gives up costs it a line, or there is none left. */
export function isTooThin(thick: number, givenUp: number, lineWidth: number): boolean {
  if (!(givenUp > 0)) return false
  const lines = Math.floor(thick / lineWidth + wholeLine)
  if (lines > mostLines) return false
  return thick - givenUp < Math.max(1, lines) * lineWidth - wholeLine * lineWidth
}

/** Two walls and what is between them at a place, mm, which stands for so much of the first one, mm². */
export interface Ligament {
  readonly walls: readonly [number, number]
  readonly thick: number
  readonly area: number
}

/**
 * The walls that stay because they would take a line from what lies between them over more than a speck: the smaller one of two, and the
 * other one as well where that is not enough.
 */
export function thinnedOf(
  walls: readonly Wall[],
  all: readonly Ligament[],
  lineWidth: number,
  areaOfTriangle: (t: number) => number,
): ReadonlySet<number> {
  const stays = new Set<number>()
  const by = (wall: number) => (wall < 0 || walls[wall]!.kept || stays.has(wall) ? 0 : walls[wall]!.by)
  const areas = walls.map(({ triangles }) => triangles.reduce((sum, t) => sum + areaOfTriangle(t), 0))
  const tooThin = () => {
    const found = new Map<string, { readonly pair: readonly [number, number]; area: number }>()
    for (const { walls: pair, thick, area } of all) {
      if (!isTooThin(thick, by(pair[0]) + by(pair[1]), lineWidth)) continue
      const key = pair.join(' ')
      const known = found.get(key) ?? { pair, area: 0 }
      known.area += area
      found.set(key, known)
    }
    return [...found.values()].filter(({ area }) => area > leastThin)
  }
  for (let found = tooThin(); found.length > 0; found = tooThin())
    for (const { pair } of found) {
      const [small] = pair.filter((wall) => by(wall) > 0).sort((a, b) => areas[a]! - areas[b]!)
      if (small !== undefined) stays.add(small)
    }
  return stays
}

/** Less of a wall may be too thin, mm². */
const leastThin = 2
