import { add, cross, dot, norm, scaled, subtract, unit, type Vec3 } from '../place/index.ts'
import type { TriangleMesh } from './define.ts'
import { halfEdgeTwins } from './halfEdges.ts'
import { nearestOnTriangle, type Triangle } from './near.ts'

/** What a triangle is a flat of: a plane, or the true round that flats stand for. */
export type TrueWall =
  | { readonly kind: 'flat'; readonly normal: Vec3; readonly offset: number }
  | {
      readonly kind: 'round'
      /** a point of its axis, and the unit direction of that */
      readonly centre: Vec3
      readonly axis: Vec3
      /** mm */
      readonly radius: number
      /** the material is inside, as of a pin; else outside, as round a bore */
      readonly convex: boolean
      /** how far its flats lie off it at most, mm */
      readonly sagitta: number
    }

/** Neighbours that turn by less are flats of one round, as a cosine: 32 flats all round turn by 11.25°. */
const oneRound = Math.cos((30 * Math.PI) / 180)
/** Normals that differ by less are of one flat; those of one round lie as exactly in a plane across its axis. */
const same = 1e-4
/** So many flats tell a round, of so many triangles at most. */
const [enoughFlats, mostTriangles] = [12, 600]
/** All flats of a round are as far from its axis, to so many mm: single precision at the size of a bed. */
const asFar = 1e-4

/**
 * The wall that a triangle of a closed mesh belongs to; undefined where that is neither flat nor round. Flats of what is added have
 * their corners on the true round, flats round a bore touch it (as the kernel makes them, see `segmentsFor`): so the radius is told by
 * how far the flats are from the axis, and by how they turn.
 */
export function wallAt(mesh: TriangleMesh, triangle: number): TrueWall | undefined {
  const flats: { readonly normal: Vec3; readonly offset: number }[] = []
  let axis: Vec3 | undefined
  const twins = twinsOf(mesh)
  const seen = new Set([triangle])
  for (const t of seen) {
    const own = planeOf(mesh, t)
    if (!own) continue
    if (axis && Math.abs(dot(own.normal, axis)) > same) return undefined
    const first = flats[0]
    if (!flats.some(({ normal }) => norm(subtract(normal, own.normal)) < same)) {
      if (first && !axis) axis = unit(cross(first.normal, own.normal))
      flats.push(own)
    }
    if (flats.length >= enoughFlats || seen.size >= mostTriangles) break
    for (let k = 0; k < 3; k++) {
      const twin = twins[3 * t + k]!
      if (twin < 0) continue
      const next = planeOf(mesh, Math.floor(twin / 3))
      if (!next || dot(next.normal, own.normal) > oneRound) seen.add(Math.floor(twin / 3))
    }
  }
  const [first] = flats
  if (!first) return undefined
  if (!axis) return { kind: 'flat', ...first }
  return flats.length < 3 ? undefined : roundOf(flats, axis)
}

/** Of the triangles at a place of a mesh, one of which is known, the one that looks most in a direction. */
export function lookingAt(mesh: TriangleMesh, triangle: number, place: Vec3, way: Vec3): number {
  const twins = twinsOf(mesh)
  const seen = new Set([triangle])
  let [best, most] = [triangle, -2]
  for (const t of seen) {
    if (norm(subtract(nearestOnTriangle(place, cornersAt(mesh, t)), place)) > atPlace) continue
    const looks = dot(planeOf(mesh, t)?.normal ?? [0, 0, 0], way)
    if (looks > most) [best, most] = [t, looks]
    for (let k = 0; k < 3; k++) if (twins[3 * t + k]! >= 0) seen.add(Math.floor(twins[3 * t + k]! / 3))
  }
  return best
}
/** A triangle is at a place that is no farther from it, mm: single precision. */
const atPlace = 1e-4

/** The round that has all of these flats; undefined where none has. */
function roundOf(
  flats: readonly { readonly normal: Vec3; readonly offset: number }[],
  axis: Vec3,
): TrueWall | undefined {
  const u = flats[0]!.normal
  const v = cross(axis, u)
  // n · c + a = d for each of them: c is the middle, a how far they are from it; negative round a bore.
  const rows = flats.map(({ normal, offset }) => [dot(normal, u), dot(normal, v), 1, offset] as const)
  const solved = leastSquares(rows)
  if (!solved) return undefined
  const [x, y, away] = solved
  if (rows.some(([p, q, , d]) => Math.abs(p * x + q * y + away - d) > asFar)) return undefined
  const angles = rows.map(([p, q]) => Math.atan2(q, p)).sort((a, b) => a - b)
  const turn = Math.min(...angles.slice(1).map((angle, i) => angle - angles[i]!))
  const far = Math.abs(away)
  const convex = away > 0
  const corner = far / Math.cos(turn / 2)
  const centre = [0, 1, 2].map((k) => x * u[k]! + y * v[k]!) as unknown as Vec3
  return { kind: 'round', centre, axis, radius: convex ? corner : far, convex, sagitta: corner - far }
}

/** a, b, c of all a p + b q + c r = s, by Cramer's rule for the normal equations; undefined where they are not told. */
function leastSquares(rows: readonly (readonly [number, number, number, number])[]): Vec3 | undefined {
  const sum = (i: number, k: number) => rows.reduce((all, row) => all + row[i]! * row[k]!, 0)
  const columns = [0, 1, 2].map((k) => [sum(0, k), sum(1, k), sum(2, k)] as const) as [Vec3, Vec3, Vec3]
  const right: Vec3 = [sum(0, 3), sum(1, 3), sum(2, 3)]
  const whole = dot(columns[0], cross(columns[1], columns[2]))
  if (!(Math.abs(whole) > 1e-12)) return undefined
  const part = (k: number) => {
    const [a, b, c] = columns.with(k, right) as [Vec3, Vec3, Vec3]
    return dot(a, cross(b, c)) / whole
  }
  return [part(0), part(1), part(2)]
}

function cornersAt({ positions, triangles }: TriangleMesh, t: number): Triangle {
  const at = (k: number): Vec3 => {
    const v = 3 * triangles[3 * t + k]!
    return [positions[v]!, positions[v + 1]!, positions[v + 2]!]
  }
  return [at(0), at(1), at(2)]
}

function planeOf(mesh: TriangleMesh, t: number): { normal: Vec3; offset: number } | undefined {
  const [a, b, c] = cornersAt(mesh, t)
  const across = cross(subtract(b, a), subtract(c, a))
  const size = norm(across)
  // Slivers tell no direction.
  if (size < 1e-4) return undefined
  const normal = scaled(across, 1 / size)
  return { normal, offset: dot(normal, a) }
}

const known = new WeakMap<TriangleMesh, Int32Array>()
function twinsOf(mesh: TriangleMesh): Int32Array {
  let twins = known.get(mesh)
  if (!twins) {
    twins = halfEdgeTwins(mesh)
    known.set(mesh, twins)
  }
  return twins
}

/**
 * How far two walls are apart that face each other, mm; undefined where no formula tells: rounds that are not parallel, two flats, two
 * bores.
 */
export function betweenWalls(a: TrueWall, b: TrueWall): number | undefined {
  if (a.kind === 'flat') return b.kind === 'round' ? betweenWalls(b, a) : undefined
  if (b.kind === 'flat') {
    if (!a.convex || Math.abs(dot(a.axis, b.normal)) > same) return undefined
    return Math.abs(dot(a.centre, b.normal) - b.offset) - a.radius
  }
  if (norm(cross(a.axis, b.axis)) > same) return undefined
  const apart = subtract(a.centre, b.centre)
  const axes = norm(subtract(apart, scaled(a.axis, dot(apart, a.axis))))
  if (a.convex && b.convex) return axes - a.radius - b.radius
  if (a.convex === b.convex) return undefined
  const [pin, bore] = a.convex ? [a, b] : [b, a]
  return bore.radius - pin.radius - axes
}

/** A place on a flat of a wall, moved onto the true wall, across which the flat lies by no more than its sagitta. */
export function ontoWall(place: Vec3, wall: TrueWall | undefined): Vec3 {
  if (wall?.kind !== 'round') return place
  const out = fromAxis(place, wall)
  const far = norm(out)
  return Math.abs(wall.radius - far) > wall.sagitta + atPlace
    ? place
    : add(place, scaled(out, (wall.radius - far) / far))
}

/** How far a place is from a true wall whose flats are so far from it, mm. */
export function fromWall(place: Vec3, wall: TrueWall | undefined, flats: number): number {
  if (wall?.kind !== 'round') return flats
  const away = Math.abs(norm(fromAxis(place, wall)) - wall.radius)
  // Beside the ends of a round, what is nearest is its rim.
  return Math.abs(away - flats) > wall.sagitta + atPlace ? flats : away
}

/** From the axis of a round straight out to a place. */
function fromAxis(place: Vec3, { centre, axis }: TrueWall & { readonly kind: 'round' }): Vec3 {
  const from = subtract(place, centre)
  return subtract(from, scaled(axis, dot(from, axis)))
}
