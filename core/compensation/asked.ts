import type { Surface } from '../edges/index.ts'
import type { Solid } from '../kernel/index.ts'
import { cylinderOf, Groups, TriangleTree } from '../mesh/index.ts'
import { add, type Box, dot, scaled, type Vec3 } from '../place/index.ts'
import { type Compensation, roundsBy } from './compensation.ts'
import { areaOf, placesOn } from './places.ts'
import { type Ligament, mostLines, thinnedOf } from './thin.ts'
import type { Kept, Wall, Walls } from './walls.ts'

export interface AskedOf {
  readonly surface: Surface
  /** the same surface, to be looked through */
  readonly solid: Solid
  /** whether a face keeps the gap that was asked for */
  keeps(face: number): boolean
  /** what leaves with it in one file */
  readonly others: readonly Solid[]
  readonly compensation: Compensation
}

/** Stands for a face that is not flat as a whole. */
const upright: Vec3 = [1, 0, 0]
/** Walls that meet at less than this are one: where they went by two measures, their edge would run far away. */
const hardlyBent = Math.cos((20 * Math.PI) / 180)
/** What leans less from the level than this is no wall, as a sine. */
const level = 1e-4
/** A bore that goes round at least this much of a turn prints as a round hole, degrees. */
const leastRound = 270
/** A hole whose axis leans more than this does not lie in its layers as a round, as a cosine. */
const leastUpright = Math.cos((45 * Math.PI) / 180)
/** A wall that faces another body nearer than this has a gap to it that was asked for, mm. */
const facing = 1
/** Walls that do not look away from each other, but for so much, have no thickness between them, as a cosine. */
const opposite = Math.cos((10 * Math.PI) / 180)
/** How far each wall of a surface is to move, and which of them stay, and why. */
export function askedOf(asked: AskedOf): Walls {
  const { surface, compensation } = asked
  const { of, all } = wallsOf(surface)
  const walls = all.map((triangles): Wall => {
    const faces = [...new Set(triangles.map((t) => surface.face(3 * t)))]
    const by = byOf(surface, triangles, faces, compensation)
    return faces.some((face) => asked.keeps(face)) ? { triangles, by, kept: 'gap' } : { triangles, by }
  })
  return keptNear(asked, { walls, of })
}

function wallsOf(surface: Surface): { readonly of: Int32Array; readonly all: readonly (readonly number[])[] } {
  const count = surface.solid.triangles.length / 3
  // A face that is not flat as a whole may be level in places: it is a wall all the same.
  const isLevel = (t: number) => {
    const [x, y] = surface.flatFace(surface.face(3 * t)) ?? upright
    return Math.hypot(x, y) < level
  }
  const groups = new Groups(count)
  for (let h = 0; h < 3 * count; h++) {
    const [t, other] = [(h / 3) | 0, (surface.twin(h) / 3) | 0]
    const isOne = surface.isSmooth(h) || dot(surface.flat(t), surface.flat(other)) > hardlyBent
    if (isOne && !isLevel(t) && !isLevel(other)) groups.join(t, other)
  }
  const all: number[][] = []
  const of = new Int32Array(count).fill(-1)
  const places = new Map<number, number>()
  for (let t = 0; t < count; t++) {
    if (isLevel(t)) continue
    const group = groups.of(t)
    const place = places.get(group) ?? all.push([]) - 1
    places.set(group, place)
    all[place]!.push(t)
    of[t] = place
  }
  return { of, all }
}

/** A wall that holds a whole round bore is that of a round hole, with whatever runs smoothly into it. */
function byOf(
  surface: Surface,
  triangles: readonly number[],
  faces: readonly number[],
  compensation: Compensation,
): number {
  if (compensation.rounds === compensation.walls) return compensation.walls
  const bores = faces.flatMap((face) => {
    const own = triangles.filter((t) => surface.face(3 * t) === face)
    return own.length < fewestOfRound ? [] : (boreOf(surface, own) ?? [])
  })
  return bores.length > 0 ? roundsBy(compensation, Math.max(...bores)) : compensation.walls
}

const fewestOfRound = 6

/** The diameter of the round bore that triangles stand for, mm; undefined where they stand for something else. */
function boreOf(surface: Surface, triangles: readonly number[]): number | undefined {
  const at = (t: number, i: number) => surface.at(surface.from(3 * t + i))
  const cylinder = cylinderOf({
    facets: triangles.map((t) => ({ normal: surface.flat(t), at: at(t, 0), area: areaOf(surface, t) })),
    corners: () => triangles.flatMap((t) => [at(t, 0), at(t, 1), at(t, 2)]),
  })
  if (!cylinder || cylinder.round > 0 || Math.abs(cylinder.frame.v[2]) < leastUpright) return undefined
  const turn = cylinder.size[0] / -cylinder.round
  return turn >= (leastRound * Math.PI) / 180 ? -2 * cylinder.round : undefined
}

/** With those kept that face another body, and those that would leave less than their lines. */
function keptNear(asked: AskedOf, { walls, of }: Walls): Walls {
  const { surface, solid, others, compensation } = asked
  const body = bodiesOf(surface)
  const moving = walls.flatMap((wall, place) => (wall.by !== 0 && !wall.kept ? [place] : []))
  if (moving.length === 0) return { walls, of }
  const kept = new Map<number, Kept>()
  const tree = new TriangleTree({ positions: surface.corners, triangles: Uint32Array.from(surface.solid.triangles) })
  const near = others
    .filter((other) => nearBoxes(solid.bounds()!, other.bounds(), facing))
    .map((other) => new TriangleTree({ positions: other.corners(), triangles: other.mesh().triangles }))
  const thin: Ligament[] = []
  for (const { at, way, wall, t, area } of placesOn(surface, walls, moving)) {
    const facesBody =
      near.some((other) => other.first(at, add(at, scaled(way, facing)), 0)) ||
      (body.count > 1 && facesOwn(at, way, body.of(t)))
    if (facesBody) {
      kept.set(wall, 'gap')
      continue
    }
    const most = (mostLines + 1) * compensation.lineWidth
    const hit = tree.first(at, add(at, scaled(way, -most)), atOnce)
    if (!hit || hit.far < film) continue
    // Where both meet in an edge there is always little between them.
    if (-dot(surface.flat(t), surface.flat(hit.triangle)) < opposite) continue
    thin.push({ walls: [wall, of[hit.triangle]!], thick: hit.far, area })
  }
  for (const wall of thinnedOf(walls, thin, compensation.lineWidth, (t) => areaOf(surface, t)))
    if (!kept.has(wall)) kept.set(wall, 'thin')
  return { of, walls: walls.map((wall, place) => (kept.has(place) ? { ...wall, kept: kept.get(place)! } : wall)) }

  function facesOwn(at: Vec3, way: Vec3, own: number): boolean {
    const hit = tree.first(at, add(at, scaled(way, facing)), atOnce)
    return hit !== undefined && body.of(hit.triangle) !== own
  }
}

/** What is thinner than this is no wall that could lose anything, mm. */
const film = 0.05
/** What begins nearer than this is the surface itself, mm. */
const atOnce = 1e-3

function nearBoxes(one: Box, other: Box | undefined, by: number): boolean {
  return (
    other !== undefined && [0, 1, 2].every((i) => one.min[i]! - by < other.max[i]! && other.min[i]! - by < one.max[i]!)
  )
}

function bodiesOf(surface: Surface) {
  const count = surface.solid.triangles.length / 3
  const groups = new Groups(count)
  for (let h = 0; h < 3 * count; h++) groups.join((h / 3) | 0, (surface.twin(h) / 3) | 0)
  const of = (t: number) => groups.of(t)
  return { of, count: new Set(Array.from({ length: count }, (_, t) => of(t))).size }
}
