import type { Surface } from '../edges/index.ts'
import type { Scope, Solid } from '../kernel/index.ts'
import { halfEdgeTwins, nextHalfEdge } from '../mesh/index.ts'
import { add, cross, dot, norm, scaled, subtract, unit, type Vec3 } from '../place/index.ts'
import { flatsRound } from '../plane/index.ts'
import { commonOf, type HalfSpace } from './halfSpaces.ts'

/** What lies above the plane of a triangle beside it by less than this is rounding, mm. */
const level = 1e-6
/** Flatter than this a triangle may look anywhere, mm. */
const sliverHeight = 2e-4

/** Whether a closed mesh goes in anywhere, by more than flats of a round may: a quick look, before its faces are known. */
export function goesIn(
  { positions, triangles }: { readonly positions: Float64Array; readonly triangles: Uint32Array },
  fineness: number,
): boolean {
  const twins = halfEdgeTwins({ positions, triangles })
  const at = (h: number): Vec3 => {
    const v = 3 * triangles[h]!
    return [positions[v]!, positions[v + 1]!, positions[v + 2]!]
  }
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [at(t), at(t + 1), at(t + 2)]
    const across = cross(subtract(b, a), subtract(c, a))
    const size = norm(across)
    if (size < sliverHeight * Math.max(norm(subtract(b, a)), norm(subtract(c, a)), norm(subtract(c, b)))) continue
    for (let h = t; h < t + 3; h++) {
      if (twins[h]! < 0) continue
      const far = at(nextHalfEdge(nextHalfEdge(twins[h]!)))
      if (dot(subtract(far, a), across) > fineness * size) return true
    }
  }
  return false
}

/** Whether a surface is one shell that bends outwards everywhere, but for flats of a round, which may lie askew by up to `fineness`. */
export function isConvex(surface: Surface, fineness: number): boolean {
  const { triangles } = surface.solid
  const seen = new Uint8Array(triangles.length / 3)
  const next = [0]
  seen[0] = 1
  for (const t of next)
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      if (surface.twin(h) < 0) return false
      const other = (surface.twin(h) / 3) | 0
      const far = isSliver(surface, t) ? 0 : farOver(surface, h)
      if (far > level && (far > fineness || !surface.isSmooth(h))) return false
      if (seen[other]) continue
      seen[other] = 1
      next.push(other)
    }
  return next.length === seen.length
}

/** How far above the plane of its triangle the one over a half-edge has its far corner, mm. */
function farOver(surface: Surface, h: number): number {
  const far = surface.at(surface.from(nextHalfEdge(nextHalfEdge(surface.twin(h)))))
  return dot(subtract(far, surface.at(surface.from(h))), surface.flat((h / 3) | 0))
}

/**
 * What lies deeper in a convex solid than each of its faces asks for, mm, or within it where that is below 0: the flats moved along
 * their normals, exactly. Undefined where nothing does.
 *
 * A flat face that is open (below 0) may run into rounds. They keep their walls, so the way out is as wide as the flat itself:
 *
 *     |   |         |   |
 *      \   '-. |  | .-'   /
 *        '--__|  |__--'
 */
export function deeperInConvex(scope: Scope, surface: Surface, size: (face: number) => number): Solid | undefined {
  const ways = surface.solid.faces.flatMap((_, face) => {
    const beside = size(face) < 0 && surface.flatFace(face) ? smoothBeside(surface, face) : new Set<number>()
    return beside.size > 0 ? [{ face, beside }] : []
  })
  if (ways.length === 0) return commonOf(scope, spacesOf(surface, size))
  const closed = new Map(ways.map(({ face, beside }) => [face, Math.max(...[...beside].map(size))]))
  const deep = commonOf(
    scope,
    spacesOf(surface, (face) => closed.get(face) ?? size(face)),
  )
  const out = ways.flatMap(({ face, beside }) => {
    const others = spacesOf(surface, size, (other) => !beside.has(other))
    return commonOf(scope, [...others, ...sidesOf(surface, face)]) ?? []
  })
  return deep || out.length > 0 ? scope.union([...(deep ? [deep] : []), ...out]) : undefined
}

/** The faces that a flat one runs on into over its edges, and the rounds that these meet at its corners. */
function smoothBeside(surface: Surface, face: number): Set<number> {
  const beside = new Set<number>()
  const [smooth, sharp] = [new Set<number>(), new Set<number>()]
  for (const t of surface.trianglesOf(face))
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      const other = surface.face(surface.twin(h))
      if (other === face) continue
      const ends = surface.isSmooth(h) ? smooth : sharp
      ends.add(surface.from(h)).add(surface.from(nextHalfEdge(h)))
      if (ends === smooth) beside.add(other)
    }
  const { triangles } = surface.solid
  for (let h = 0; h < triangles.length; h++) {
    const other = surface.face(h)
    if (smooth.has(triangles[h]!) && !sharp.has(triangles[h]!) && !surface.flatFace(other)) beside.add(other)
  }
  return beside
}

/** Upright on a flat face along its border with what it runs on into: what lies within. */
function sidesOf(surface: Surface, face: number): HalfSpace[] {
  const n = surface.flatFace(face)!
  const sides: HalfSpace[] = []
  for (const t of surface.trianglesOf(face))
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      if (surface.face(surface.twin(h)) === face || !surface.isSmooth(h)) continue
      const from = surface.at(surface.from(h))
      const along = subtract(surface.at(surface.from(nextHalfEdge(h))), from)
      if (norm(along) < level) continue
      const normal = unit(cross(along, n))
      sides.push({ normal, offset: dot(normal, from) })
    }
  return sides
}

/**
 * A convex solid with all that lies within `size` mm of it: round about its edges, with flats that are nowhere farther from that than
 * `fineness` inside. Faces may ask for less, also for less than 0: there the flats are moved, and edges beside them stay sharp.
 */
export function roundConvex(scope: Scope, surface: Surface, size: (face: number) => number, fineness: number): Solid {
  const there = surface.solid.faces.flatMap((_, face) => (surface.trianglesOf(face).length > 0 ? [size(face)] : []))
  const [least, most] = [Math.min(...there), Math.max(...there)]
  if (most <= 0) return deeperInConvex(scope, surface, (face) => -size(face)) ?? scope.union([])
  const whole = scope.hull(pointsRound(surface, most, fineness))
  if (least === most) return whole
  const mitred = deeperInConvex(scope, surface, (face) => -size(face))
  return mitred ? scope.intersection([whole, mitred]) : scope.union([])
}

function spacesOf(surface: Surface, size: (face: number) => number, counts = (_: number) => true): HalfSpace[] {
  const known = new Map<string, HalfSpace>()
  const count = surface.solid.triangles.length / 3
  for (let t = 0; t < count; t++) {
    if (!counts(surface.face(3 * t)) || isSliver(surface, t)) continue
    const normal = surface.flat(t)
    // All that is beside it lies within, flats that lie askew as well.
    const over = Math.max(0, ...[3 * t, 3 * t + 1, 3 * t + 2].map((h) => farOver(surface, h)))
    const offset = dot(normal, surface.at(surface.from(3 * t))) + (over > level ? over : 0) - size(surface.face(3 * t))
    const key = [...normal, offset].map((x) => Math.round(x * 1e7)).join(' ')
    if (!known.has(key)) known.set(key, { normal, offset })
  }
  return [...known.values()]
}

function isSliver(surface: Surface, t: number): boolean {
  const [a, b, c] = [0, 1, 2].map((i) => surface.at(surface.from(3 * t + i))) as [Vec3, Vec3, Vec3]
  const longest = Math.max(norm(subtract(b, a)), norm(subtract(c, a)), norm(subtract(c, b)))
  return norm(cross(subtract(b, a), subtract(c, a))) < sliverHeight * longest
}

/** The points whose hull is all within `by` mm of a convex solid. */
function pointsRound(surface: Surface, by: number, fineness: number): Vec3[] {
  const { triangles } = surface.solid
  const step = (2 * Math.PI) / flatsRound(by, fineness)
  const done = new Set<number>()
  const points: Vec3[] = []
  for (let h = 0; h < triangles.length; h++) {
    const vertex = surface.from(h)
    if (done.has(vertex)) continue
    done.add(vertex)
    const at = surface.at(vertex)
    for (const way of roundAt(waysFrom(surface, h, by), step)) points.push(add(at, way))
  }
  return points
}

/**
 * Where the flats round a vertex go: one way for all that run on smoothly into each other, so that these stay flats of one round, in
 * order round the vertex.
 */
function waysFrom(surface: Surface, h: number, by: number): Vec3[] {
  const ways: Vec3[] = []
  const done = new Set<number>()
  for (let corner = h; ; ) {
    if (!done.has(corner)) {
      const sector = surface.sector(corner)
      for (const each of sector) done.add(each)
      ways.push(wayOf(surface, corner, sector, by))
    }
    corner = surface.twin(nextHalfEdge(nextHalfEdge(corner)))
    if (corner === h) break
  }
  return ways
}

/** The way on which all flats of a smooth stretch at a corner have gone `by` mm at least, each as little farther as can be. */
function wayOf(surface: Surface, corner: number, sector: readonly number[], by: number): Vec3 {
  const flats: Vec3[] = []
  for (const each of sector) {
    const flat = surface.flat((each / 3) | 0)
    if (!flats.some((known) => dot(known, flat) > 1 - 1e-12)) flats.push(flat)
  }
  const [one, two] = flats as [Vec3, Vec3]
  const along = flats.length === 1 ? one : flats.length === 2 ? unit(add(one, two)) : surface.normal(corner)
  return scaled(along, by / Math.min(...flats.map((flat) => Math.max(0.5, dot(flat, along)))))
}

/**
 * These ways, and between them as many that flats through their ends touch the ball from outside, and are nowhere farther from it than
 * those of a circle in steps of `step` rad. So each of these ends lies in the middle of a step, and a little beyond the ball.
 */
function roundAt(ways: readonly Vec3[], step: number): Vec3[] {
  const [first, ...others] = ways
  const all = [...ways]
  if (!first) return all
  for (const [i, way] of ways.entries()) all.push(...between(way, ways[(i + 1) % ways.length]!, step))
  for (let i = 0; i + 1 < others.length; i++) all.push(...within(first, others[i]!, others[i + 1]!, step))
  return all
}

/** Between two ways, along the great circle. */
function between(a: Vec3, b: Vec3, step: number): Vec3[] {
  const angle = angleOf(a, b)
  const count = Math.ceil(angle / step - 1e-9)
  const out = 1 / Math.cos(angle / count / 2)
  return Array.from({ length: count }, (_, i) => scaled(slerp(a, b, angle, (i + 0.5) / count), out))
}

/** Within the triangle of three ways: rows from the first one to the arc between the others. */
function within(a: Vec3, b: Vec3, c: Vec3, step: number): Vec3[] {
  const [ab, ac] = [angleOf(a, b), angleOf(a, c)]
  const rows = Math.ceil(Math.max(ab, ac) / step - 1e-9)
  const out = 1 / Math.cos(Math.max(ab, ac) / rows / 2)
  return Array.from({ length: rows }, (_, i) => (i + 0.5) / rows).flatMap((share) =>
    between(slerp(a, b, ab, share), slerp(a, c, ac, share), step).map((way) => scaled(way, out)),
  )
}

function angleOf(a: Vec3, b: Vec3): number {
  return Math.atan2(norm(cross(a, b)), dot(a, b))
}

function slerp(a: Vec3, b: Vec3, angle: number, share: number): Vec3 {
  if (angle < 1e-9) return a
  const sine = Math.sin(angle)
  return add(scaled(a, Math.sin((1 - share) * angle) / sine), scaled(b, Math.sin(share * angle) / sine))
}
