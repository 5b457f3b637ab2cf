import type { Surface } from '../edges/index.ts'
import type { Scope } from '../kernel/index.ts'
import { goalsOf, type Moved, movable, redrawn } from '../walls/index.ts'
import { areaOf } from './places.ts'
import type { Walls } from './walls.ts'

/** A surface whose walls have moved as wholes, but for some. */
export interface Sideways extends Pick<Moved, 'points' | 'triangles' | 'sources'> {
  /** the walls that stay where they were, as something folds up or runs into something else where they move, by their places */
  readonly held: ReadonlySet<number>
}

/** How much farther than other corners the edge of a knife may go, which is gone where its sides come nearer to each other. */
const knife = 8
/** So often walls are held where something folds up; each time there are fewer that move. */
const mostRounds = 12

/**
 * The surface with each plane of its walls moved sideways as far as its wall is to go (`by`, mm), and each corner where its planes meet
 * then: flat walls stay flat, upright ones upright, rounds become rounds of another radius.
 */
export function movedSideways(
  scope: Scope,
  surface: Surface,
  { walls, of }: Walls,
  by: (wall: number) => number,
): Sideways {
  const held = new Set<number>()
  const own = movable(surface)
  const wallsAt = wallsRound(surface, of)
  const areas = walls.map(({ triangles }) => triangles.reduce((sum, t) => sum + areaOf(surface, t), 0))
  const farthest = Math.max(...walls.map((_, wall) => Math.abs(by(wall))))
  for (let round = 0; round < mostRounds; round++) {
    // Each plane goes as far along its normal as its wall goes sideways.
    const { points, stuck } = goalsOf(
      surface,
      (h) => {
        const wall = of[(h / 3) | 0]!
        if (wall < 0 || held.has(wall)) return 0
        const [x, y] = surface.normal(h)
        return by(wall) * Math.hypot(x, y)
      },
      { most: knife * farthest, exact: true },
    )
    const drawn = redrawn(scope, { ...own, points })
    const faults = [...stuck, ...('faults' in drawn ? drawn.faults : [])]
    if (faults.length === 0 && !('faults' in drawn)) return { ...drawn, held }
    const before = held.size
    for (const vertex of faults) {
      const moving = [...wallsAt(vertex)].filter((wall) => by(wall) !== 0 && !held.has(wall))
      // The smallest one first: the others may go on by themselves then.
      const smallest = moving.reduce((best, wall) => (best < 0 || areas[wall]! < areas[best]! ? wall : best), -1)
      for (const wall of round < mostRounds / 2 ? [smallest] : moving) if (wall >= 0) held.add(wall)
    }
    if (held.size === before || round === mostRounds - 2) break
  }
  return asItIs(surface, walls)
}

/** All of it held. */
function asItIs(surface: Surface, walls: Walls['walls']): Sideways {
  const { triangles } = surface.solid
  const count = triangles.length / 3
  return {
    points: Array.from({ length: surface.solid.positions.length / 3 }, (_, vertex) => surface.at(vertex)),
    triangles: Array.from({ length: count }, (_, t) => [
      triangles[3 * t]!,
      triangles[3 * t + 1]!,
      triangles[3 * t + 2]!,
    ]),
    sources: Array.from({ length: count }, (_, t) => t),
    held: new Set(walls.keys()),
  }
}

/** The walls round each vertex. */
function wallsRound(surface: Surface, of: Int32Array): (vertex: number) => ReadonlySet<number> {
  const all = new Map<number, Set<number>>()
  surface.solid.triangles.forEach((vertex, h) => {
    const wall = of[(h / 3) | 0]!
    if (wall < 0) return
    const own = all.get(vertex)
    if (own) own.add(wall)
    else all.set(vertex, new Set([wall]))
  })
  return (vertex) => all.get(vertex) ?? new Set()
}
