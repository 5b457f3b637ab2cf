import { Surface } from '../edges/index.ts'
import type { MeshRun, Scope, Solid, SolidMesh } from '../kernel/index.ts'
import { type MeshFigures, meshFigures, TriangleTree } from '../mesh/index.ts'
import type { NamedSolid } from '../naming/index.ts'
import { add, scaled, type Vec3 } from '../place/index.ts'
import { tried } from '../problems/index.ts'
import { askedOf } from './asked.ts'
import { carved } from './carved.ts'
import type { Compensation } from './compensation.ts'
import { footed } from './foot.ts'
import { areaOf, placesOn } from './places.ts'
import { movedSideways, type Sideways } from './sideways.ts'
import type { Kept, Walls } from './walls.ts'

/** A piece as it stands on the bed, and what is known of it. */
export interface PieceOnBed {
  readonly solid: Solid
  readonly named: NamedSolid
  /** whether a face keeps the gap that was asked for it, whatever the printer does */
  keeps(face: number): boolean
  /** what leaves with it in one file */
  readonly others: readonly Solid[]
}

/** Walls that stay as they are drawn, and why. */
export interface Stayed {
  readonly why: Kept | 'foot'
  /** mm², and a place on the largest of them */
  readonly area: number
  readonly at: Vec3
  /** corners of the triangles of these walls, as they are drawn; x, y, z, mm */
  readonly triangles: Float32Array
}

export interface Compensated {
  readonly solid: Solid
  readonly stayed: readonly Stayed[]
}

/** So many places are asked whether they got there, but for one of each triangle. */
const mostAsked = 4000
/** What two ways to one place may differ by, mm. */
const rounding = 1e-4
/** Bodies of less than this are no more than what a line lays by the way, mm³. */
const leastSpeck = 0.05
/** A wall may lie so far off from where it was to go, mm. */
const near = 0.005

/**
 * The solid as it is to be printed: each of its walls moved sideways into the material by what it prints too far out of it, as a whole, so
 * that flat ones stay flat and upright ones upright; its first layer narrower; and all of it grown about the origin by what the material
 * shrinks. What has no room stays as it is drawn, and is told.
 */
export function compensated(scope: Scope, standing: PieceOnBed, compensation: Compensation): Compensated {
  const { solid, named, keeps, others } = standing
  const grown = 1 / (1 - compensation.shrinkage / 100)
  const surface = new Surface(named, solid.corners())
  const asked = askedOf({ surface, solid, keeps, others, compensation })
  const by = (wall: number) => (asked.walls[wall]!.kept ? 0 : asked.walls[wall]!.by / grown)
  const isMoved = asked.walls.some((_, wall) => by(wall) !== 0)
  const made = isMoved ? movedSolid(scope, solid, surface, asked, by) : solid
  const missed = isMoved ? missedIn(surface, asked, by, made) : []
  const large = grown === 1 ? made : scope.scaled(made, [grown, grown, grown])
  const foot = footed(scope, large, compensation)
  return { solid: foot.solid, stayed: stayedOf(surface, asked, missed, foot) }
}

function movedSolid(scope: Scope, solid: Solid, surface: Surface, asked: Walls, by: (wall: number) => number): Solid {
  const moved = movedSideways(scope, surface, asked, by)
  const { held, sources } = moved
  const made = held.size === asked.walls.length ? solid : tried(() => inItsRuns(scope, solid.mesh(), moved))
  if (!made || made.isEmpty()) return solid
  if (held.size === 0) return made
  const wall = (t: number) => {
    const own = asked.of[sources[t]!]!
    return held.has(own) && by(own) !== 0 ? own : -1
  }
  const rest = tried(() => carved(scope, made, { ...moved, flat: (t) => surface.flat(sources[t]!), wall, by }))
  const clean = rest && scope.withoutSpecks(rest, leastSpeck)
  return clean && isSound(clean, scope.withoutSpecks(solid, leastSpeck)) ? clean : made
}

/** Whether a solid is seen from outside all over, and in as many bodies as it was before. */
function isSound(now: Solid, before: Solid): boolean {
  const [own, was] = [now, before].map((solid) => meshFigures(solid.mesh())) as [MeshFigures, MeshFigures]
  return own.closed && own.oriented && own.solids === was.solids
}

/** The moved surface as a solid, whose triangles still come from where those that they were came from. */
function inItsRuns(scope: Scope, { runs }: SolidMesh, moved: Sideways): Solid {
  const runOf = (t: number) => runs.findIndex(({ from, to }) => t >= from && t < to)
  const byRun = runs.map((): number[] => [])
  moved.sources.forEach((source, t) => void byRun[runOf(source)]!.push(t))
  const triangles = Uint32Array.from(byRun.flat().flatMap((t) => moved.triangles[t]!))
  let from = 0
  const used = runs.flatMap((run, i): Omit<MeshRun, 'to'>[] => {
    const count = byRun[i]!.length
    from += count
    return count > 0 ? [{ ...run, from: from - count }] : []
  })
  return scope.inRuns(Float64Array.from(moved.points.flat()), triangles, used)
}

/** The walls that did not get to where they were to go, with the share of each. */
function missedIn(surface: Surface, { walls, of }: Walls, by: (wall: number) => number, made: Solid) {
  const moving = walls.flatMap((_, wall) => (by(wall) !== 0 ? [wall] : []))
  const tree = new TriangleTree({ positions: made.corners(), triangles: made.mesh().triangles })
  const drawn = new TriangleTree({ positions: surface.corners, triangles: Uint32Array.from(surface.solid.triangles) })
  /** Whether another wall takes a place with it on its own way. */
  const isTaken = (goal: Vec3, wall: number, t: number) => {
    const { triangle, distance } = drawn.nearest(goal)!
    const other = of[triangle]!
    const [x, y] = surface.flat(t)
    return (
      other >= 0 && other !== wall && by(other) !== 0 && distance < Math.abs(by(wall)) * Math.hypot(x, y) - rounding
    )
  }
  const counts = new Map<number, { all: number; off: number; at: Vec3 }>()
  for (const { at, way, wall, t } of placesOn(surface, walls, moving, mostAsked)) {
    const count = counts.get(wall) ?? { all: 0, off: 0, at }
    counts.set(wall, count)
    count.all++
    const goal = add(at, scaled(way, -by(wall)))
    if (tree.nearest(goal, near) || isTaken(goal, wall, t)) continue
    count.off++
    count.at = at
  }
  return [...counts].flatMap(([wall, { all, off, at }]) => (off > 0 ? [{ wall, share: off / all, at }] : []))
}

function stayedOf(
  surface: Surface,
  { walls }: Walls,
  missed: ReturnType<typeof missedIn>,
  { narrow, low }: { readonly narrow: number; readonly low: Vec3 },
): Stayed[] {
  const areaOfWall = (wall: number) => walls[wall]!.triangles.reduce((sum, t) => sum + areaOf(surface, t), 0)
  const cornersOf = (wall: number) =>
    walls[wall]!.triangles.flatMap((t) => [0, 1, 2].flatMap((k) => surface.at(surface.from(3 * t + k))))
  const all: (Omit<Stayed, 'triangles'> & { readonly wall?: number })[] = [
    ...walls.flatMap(({ kept, triangles }, wall) =>
      kept ? [{ why: kept, wall, area: areaOfWall(wall), at: surface.at(surface.from(3 * triangles[0]!)) }] : [],
    ),
    ...missed.map(({ wall, share, at }) => ({ why: 'folds' as const, wall, area: share * areaOfWall(wall), at })),
    ...(narrow > 0 ? [{ why: 'foot' as const, area: narrow, at: low }] : []),
  ]
  const whys = [...new Set(all.map(({ why }) => why))]
  return whys.map((why) => {
    const own = all.filter((one) => one.why === why)
    const largest = own.reduce((best, one) => (one.area > best.area ? one : best))
    const corners = own.flatMap(({ wall }) => (wall === undefined ? [] : cornersOf(wall)))
    return {
      ...{ why, area: own.reduce((sum, { area }) => sum + area, 0), at: largest.at },
      triangles: Float32Array.from(corners),
    }
  })
}
