import type { Scope, Solid } from '../kernel/index.ts'
import { halfEdgeTwins, nextHalfEdge } from '../mesh/index.ts'
import { cross, dot, norm, scaled, subtract, type Vec3 } from '../place/index.ts'
import { ProblemError, tried } from '../problems/index.ts'
import { redrawn } from '../walls/index.ts'
import type { Compensation } from './compensation.ts'
import { sidesOf } from './sides.ts'

/** Flats that meet at less than this are one stretch of the surface. */
const smooth = Math.cos((35 * Math.PI) / 180)
/** Flats that meet at less than this are one. */
const even = 1 - 1e-9
/** A surface that leans less from the level than this, as a sine, is not moved sideways. */
const level = 0.05
/** At a sharp corner a vertex goes at most so many times as far as its walls. */
const farthest = 4

export interface Compensated {
  readonly solid: Solid
  /** by how much, mm, the farthest wall moved less than it should, where there was no room to */
  readonly short: number
}

/**
 * The solid as it is to be printed: grown about the origin by what the material shrinks, and each wall moved sideways into the
 * material by what its kind prints too far out of it, where its layers run round a hole or round material; flat walls in parallel,
 * rounds to their new radius, edges to where their walls meet then. Level faces stay where they are. Where the surface would
 * fold up or run into itself, as in a groove that is finer than that, it moves by less.
 * @throws ProblemError compensation-tight where nothing is left to move
 */
export function compensated(scope: Scope, solid: Solid, compensation: Compensation): Compensated {
  const surface = surfaceOf(solid, 1 / (1 - compensation.shrinkage / 100))
  const moves = wallsOf(surface, compensation).map(moveOf)
  const shares = new Float64Array(moves.length).fill(1)
  for (let round = 0; round < mostRounds; round++) {
    const points = moves.map(([x, y], vertex): Vec3 => {
      const [px, py, pz] = surface.at(vertex)
      return [px - x * shares[vertex]!, py - y * shares[vertex]!, pz]
    })
    const drawn = redrawn(scope, { ...surface, points })
    const faults = 'faults' in drawn ? drawn.faults : []
    const made = 'faults' in drawn ? undefined : tried(() => scope.surface(drawn.points, drawn.triangles))
    if (made && !made.isEmpty()) {
      const short = moves.reduce((most, move, i) => Math.max(most, Math.hypot(...move) * (1 - shares[i]!)), 0)
      return { solid: made, short }
    }
    for (const vertex of widened(surface, faults, round >= halvings))
      shares[vertex]! = round < halvings ? shares[vertex]! / 2 : 0
  }
  const { holes, outsides } = compensation
  throw new ProblemError('compensation-tight', { holes, outsides })
}

/** So often what folds up moves half as far, and after that not at all, with more and more of what is round it. */
const halvings = 4
const mostRounds = 12

/** The vertices, and those beside them where it is asked for. */
function widened({ triangles }: Surface, vertices: Iterable<number>, wider: boolean): ReadonlySet<number> {
  const own = new Set(vertices)
  if (!wider) return own
  const all = new Set(own)
  for (let h = 0; h < triangles.length; h++)
    if (own.has(triangles[h]!)) for (const i of [0, 1, 2]) all.add(triangles[h - (h % 3) + i]!)
  return all
}

interface Surface {
  readonly corners: Float64Array
  readonly triangles: Uint32Array
  readonly twins: Int32Array
  at(vertex: number): Vec3
  twin(h: number): number
  flat(t: number): Vec3
  isOneFlat(h: number): boolean
  /** as a cosine */
  bend(h: number): number
}

function surfaceOf(solid: Solid, grown: number): Surface {
  const corners = Float64Array.from(solid.corners(), (x) => x * grown)
  const { triangles, positions } = solid.mesh()
  const twins = halfEdgeTwins({ positions, triangles })
  const at = (vertex: number): Vec3 => [corners[3 * vertex]!, corners[3 * vertex + 1]!, corners[3 * vertex + 2]!]
  const flats = flatsOf(triangles, twins, at)
  const bend = (h: number) => dot(flats[Math.floor(h / 3)]!, flats[Math.floor(twins[h]! / 3)]!)
  return {
    ...{ corners, triangles, twins, at, bend },
    twin: (h) => twins[h]!,
    flat: (t) => flats[t]!,
    isOneFlat: (h) => bend(h) > even,
  }
}

/** The outward unit normal of each triangle; a sliver has that of what lies beside its longest side. */
function flatsOf(triangles: Uint32Array, twins: Int32Array, at: (vertex: number) => Vec3): Vec3[] {
  const count = triangles.length / 3
  const own = Array.from({ length: count }, (_, t) => flatOf([0, 1, 2].map((i) => at(triangles[3 * t + i]!))))
  const beside = (t: number) => {
    const long = (h: number) => norm(subtract(at(triangles[nextHalfEdge(h)]!), at(triangles[h]!)))
    const h = [3 * t, 3 * t + 1, 3 * t + 2].reduce((best, each) => (long(each) > long(best) ? each : best))
    return Math.floor(twins[h]! / 3)
  }
  return own.map((flat, t) => {
    let other = t
    // Slivers may lie beside each other.
    for (let i = 0; i < mostBeside && !flat; i++) {
      other = beside(other)
      const found = own[other]
      if (found) return found
    }
    return flat ?? noWay
  })
}

/** So many slivers are looked past for something to go with. */
const mostBeside = 8

/** The walls that meet at each vertex. */
function wallsOf(surface: Surface, { holes, outsides }: Compensation): Wall[][] {
  const { corners, triangles } = surface
  const stretchOf = joined(surface, (h) => surface.bend(h) > smooth)
  const sides = sidesOf(surface, stretchOf)
  const by = { hole: holes, outside: outsides, level: 0 }
  const walls: Wall[][] = Array.from({ length: corners.length / 3 }, () => [])
  for (let h = 0; h < triangles.length; h++) {
    const t = Math.floor(h / 3)
    const [x, y] = surface.flat(t)
    const steep = Math.hypot(x, y)
    if (steep > level) addWall(walls[triangles[h]!]!, { x: x / steep, y: y / steep, by: by[sides[stretchOf[t]!]!] })
  }
  return walls
}

const noWay: Vec3 = [0, 0, 0]
/** Flatter than this a triangle has no normal of its own, mm. */
const sliver = 1e-5

function flatOf(corners: readonly Vec3[]): Vec3 | undefined {
  const [a, b, c] = corners as [Vec3, Vec3, Vec3]
  const [u, v] = [subtract(b, a), subtract(c, a)]
  const n = cross(u, v)
  const [size, longest] = [norm(n), Math.max(norm(u), norm(v), norm(subtract(c, b)))]
  return size > sliver * longest ? scaled(n, 1 / size) : undefined
}

/** A number for each triangle, the same for all that are joined over their half-edges. */
function joined({ triangles, twins }: Surface, isOver: (h: number) => boolean): Int32Array {
  const of = new Int32Array(triangles.length / 3).fill(-1)
  let next = 0
  for (let first = 0; first < of.length; first++) {
    if (of[first]! >= 0) continue
    const own = [first]
    of[first] = next
    for (const t of own)
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        const other = Math.floor(twins[h]! / 3)
        if (other < 0 || of[other]! >= 0 || !isOver(h)) continue
        of[other] = next
        own.push(other)
      }
    next++
  }
  return of
}

/** A wall at a vertex: which way it looks, seen from above, and how far it is to move the other way. */
interface Wall {
  readonly x: number
  readonly y: number
  readonly by: number
  /** what it moves by as each that it is: one in a plane with another may be round a hole and outside */
  readonly each: readonly number[]
}

function addWall(walls: Wall[], { x, y, by }: Omit<Wall, 'each'>): void {
  const at = walls.findIndex((wall) => wall.x * x + wall.y * y > even)
  const known = walls[at]
  if (!known) walls.push({ x, y, by, each: [by] })
  else if (!known.each.includes(by)) {
    const each = [...known.each, by]
    walls[at] = { x, y, by: each.reduce((sum, one) => sum + one, 0) / each.length, each }
  }
}

/** Walls that spread less about their mean direction than this move along it as one: the square of the tangent of 8°. */
const fan = Math.tan((8 * Math.PI) / 180) ** 2

/** The way that goes as far as each wall along its own direction; as nearly as can be where they are more than two. */
function moveOf(walls: readonly Wall[]): readonly [number, number] {
  if (walls.length === 0) return [0, 0]
  const sum = (of: (wall: Wall) => number) => walls.reduce((all, wall) => all + of(wall), 0)
  const [xx, xy, yy] = [sum(({ x }) => x * x), sum(({ x, y }) => x * y), sum(({ y }) => y * y)]
  // Along the directions that they look most and least.
  const mean = Math.atan2(2 * xy, xx - yy) / 2
  const axes = [mean, mean + Math.PI / 2].map((rad) => {
    const [x, y] = [Math.cos(rad), Math.sin(rad)]
    const along = sum((wall) => (wall.x * x + wall.y * y) ** 2)
    return { x, y, along, by: sum((wall) => (wall.x * x + wall.y * y) * wall.by) }
  })
  const used = axes.filter(({ along }) => along > fan * axes[0]!.along)
  const [dx, dy] = [
    used.reduce((all, { x, along, by }) => all + (x * by) / along, 0),
    used.reduce((all, { y, along, by }) => all + (y * by) / along, 0),
  ]
  const most = farthest * Math.max(...walls.map((wall) => Math.abs(wall.by)))
  const size = Math.hypot(dx, dy)
  return size > most ? [(dx / size) * most, (dy / size) * most] : [dx, dy]
}
