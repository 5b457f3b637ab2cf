import type { ClosedSurface, Surface } from '../edges/index.ts'
import { nextHalfEdge } from '../mesh/index.ts'
import { add, cross, dot, norm, scaled, subtract, type Vec3 } from '../place/index.ts'

/** What lies between faces and where they are moved to. */
export interface Shift {
  readonly body: ClosedSurface
  /** mm³, of what lies between alone */
  readonly volume: number
  /** the share of the way at which the faces fold up; more than 1 where they do not get there */
  readonly room: number
}

/**
 * Faces moved outwards by so much, mm, inwards below 0; what meets them goes on as it lies: each corner slides in the planes of the
 * other faces round it. The body begins `clear` on the other side of the faces.
 */
export function shiftOf(surface: Surface, isMoved: (face: number) => boolean, by: number, clear: number): Shift {
  const { faceOf, triangles } = surface.solid
  const own = [...faceOf].flatMap((face, t) => (isMoved(face) ? [t] : []))
  const round = new Map<number, number[]>()
  for (const t of own) for (let h = 3 * t; h < 3 * t + 3; h++) round.set(surface.from(h), [])
  triangles.forEach((vertex, h) => void round.get(vertex)?.push(h))
  const moves = new Map([...round].map(([vertex, corners]) => [vertex, moveOf(surface, corners, isMoved, by)] as const))
  const between = (back: number) => bodyOf(surface, own, moves, back, by > 0)
  return { body: between(clear), volume: volumeOf(between(0)), room: roomFor(surface, own, moves) }
}

/** From where the faces are, less a little, to where they go. */
function bodyOf(
  surface: Surface,
  own: readonly number[],
  moves: ReadonlyMap<number, Vec3>,
  back: number,
  outwards: boolean,
): ClosedSurface {
  const points: Vec3[] = []
  const triangles: [number, number, number][] = []
  const places = new Map<number, number>()
  const placeOf = (vertex: number) => {
    const known = places.get(vertex)
    if (known !== undefined) return known
    const [at, move] = [surface.at(vertex), moves.get(vertex)!]
    const size = norm(move)
    const place = points.push(add(at, move), size > 0 ? subtract(at, scaled(move, back / size)) : at) - 2
    places.set(vertex, place)
    return place
  }
  const face = (a: number, b: number, c: number) => triangles.push(outwards ? [a, b, c] : [a, c, b])
  const inside = new Set(own)
  for (const t of own) {
    const [a, b, c] = [0, 1, 2].map((i) => placeOf(surface.from(3 * t + i))) as [number, number, number]
    face(a, b, c)
    face(a + 1, c + 1, b + 1)
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      if (inside.has((surface.twin(h) / 3) | 0)) continue
      const [p, q] = [placeOf(surface.from(h)), placeOf(surface.from(nextHalfEdge(h)))]
      face(p, p + 1, q + 1)
      face(p, q + 1, q)
    }
  }
  return { points, triangles }
}

function volumeOf({ points, triangles }: ClosedSurface): number {
  return triangles.reduce((sum, [a, b, c]) => sum + dot(points[a]!, cross(points[b]!, points[c]!)) / 6, 0)
}

/** The least move for which each moved plane round a vertex goes its way, and all others stay. */
function moveOf(surface: Surface, corners: readonly number[], isMoved: (face: number) => boolean, by: number): Vec3 {
  const planes: { normal: Vec3; by: number }[] = []
  for (const h of corners) {
    const moved = isMoved(surface.face(h))
    // A round keeps its corners on the curve that they lie on, or its flats on that they touch from outside.
    const normal = moved && isOuter(surface, h) ? surface.normal(h) : surface.flat((h / 3) | 0)
    if (!planes.some((known) => dot(known.normal, normal) > 1 - 1e-9)) planes.push({ normal, by: moved ? by : 0 })
  }
  return leastMove(planes)
}

/** Whether a round face bends outwards at a corner, as a bar does. */
function isOuter(surface: Surface, h: number): boolean {
  if (surface.flatFace(surface.face(h))) return false
  const sector = surface.sector(h).filter((corner) => surface.face(corner) === surface.face(h))
  const n = surface.normal(h)
  const at = surface.at(surface.from(h))
  const sum = sector.reduce((all, corner) => {
    const other = surface.at(surface.from(corner % 3 === 2 ? corner - 2 : corner + 1))
    return all + dot(subtract(other, at), n)
  }, 0)
  return sum <= 0
}

/** v of least length with normal · v = by for all planes, by Gram and Schmidt: planes that add nothing new are left aside. */
function leastMove(planes: readonly { readonly normal: Vec3; readonly by: number }[]): Vec3 {
  let move: Vec3 = [0, 0, 0]
  const known: Vec3[] = []
  // The moved ones first: they are what is asked for.
  for (const { normal, by } of [...planes].sort((a, b) => Math.abs(b.by) - Math.abs(a.by))) {
    const own = known.reduce((rest, each) => subtract(rest, scaled(each, dot(rest, each))), normal)
    const size = norm(own)
    if (size < 0.02 || known.length === 3) continue
    const direction = scaled(own, 1 / size)
    move = add(move, scaled(direction, (by - dot(normal, move)) / size))
    known.push(direction)
  }
  return move
}

/** The share of the way at which a triangle first has no area, as seen from where it looks. */
function roomFor(surface: Surface, own: readonly number[], moves: ReadonlyMap<number, Vec3>): number {
  const { triangles } = surface.solid
  const still: Vec3 = [0, 0, 0]
  let room = Number.POSITIVE_INFINITY
  for (const t of own) {
    const corners = [0, 1, 2].map((i) => triangles[3 * t + i]!)
    const [a, b, c] = corners.map((vertex) => surface.at(vertex)) as [Vec3, Vec3, Vec3]
    const [p, q, r] = corners.map((vertex) => moves.get(vertex) ?? still) as [Vec3, Vec3, Vec3]
    const n = surface.flat(t)
    const [u, v, du, dv] = [subtract(b, a), subtract(c, a), subtract(q, p), subtract(r, p)]
    const constant = dot(cross(u, v), n)
    const linear = dot(add(cross(u, dv), cross(du, v)), n)
    const square = dot(cross(du, dv), n)
    const root = linear ** 2 - 4 * square * constant
    if (root < 0 || constant < 1e-9) continue
    const half = -(linear + Math.sign(linear || 1) * Math.sqrt(root)) / 2
    for (const share of [half / square, constant / half]) if (share > 1e-9) room = Math.min(room, share)
  }
  return room
}
