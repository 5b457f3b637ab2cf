import { nextHalfEdge } from '../mesh/index.ts'
import { type Box, boxOf, dot, meet, norm, scaled, subtract, type Vec3 } from '../place/index.ts'
import type { Contact, Station } from './ball.ts'
import type { Course } from './courses.ts'
import type { Surface } from './surface.ts'

/**
 * Whether balls along a course lie on the faces beside it wherever those are. `within`: none of its two ends; of one that is short
 * beside them there is only `middle`, which may be cut off by the faces at its ends.
 */
export function liesOnFaces(
  surface: Surface,
  course: Course,
  within: readonly Station[],
  middle: Station | undefined,
): boolean {
  const ends = endVertices(surface, course)
  let lies = within.length === 0
  for (const station of middle ? [middle] : within)
    for (const side of ['left', 'right'] as const) {
      const contact = station[side]
      if (contact.past < 0) lies = true
      else if (!leadsTo(surface, contact.past, ends) && !goesOnBehind(surface, contact, station)) return false
    }
  return lies
}

/** Whether the way along which balls touch a face runs backwards somewhere: the edge bends more tightly there than they are large. */
export function foldsUp(stations: readonly Station[]): boolean {
  return stations.some((station, i) => {
    const before = stations[i - 1]
    if (!before) return false
    const on = subtract(station.edge, before.edge)
    return (['left', 'right'] as const).some((side) => {
      const way = subtract(station[side].at, before[side].at)
      return dot(way, on) < -1e-9 * (norm(way) + norm(on))
    })
  })
}

function endVertices(surface: Surface, { halfEdges, closed }: Course): readonly number[] {
  return closed ? [] : [surface.from(halfEdges[0]!), surface.from(nextHalfEdge(halfEdges.at(-1)!))]
}

/** Whether the edge that a half-edge is of leaves one of the vertices: the face is cut off there at a slant. */
function leadsTo(surface: Surface, h: number, vertices: readonly number[]): boolean {
  const edge = surface.solid.of[h]!
  const chain = surface.solid.chains[edge]
  if (!chain) return false
  return vertices.some((vertex) => chain.vertices[0] === vertex || chain.vertices.at(-1) === vertex)
}

/** Whether a face that ends before a contact goes on behind it, as beyond a hole. */
function goesOnBehind(surface: Surface, { at, face }: Contact, { edge, along }: Station): boolean {
  const away = subtract(at, edge)
  const far = norm(away)
  if (far === 0) return false
  const outward = scaled(away, 1 / far)
  return surface.trianglesOf(face).some((t) => {
    const sides = [0, 1, 2].map((i) => {
      const p = subtract(surface.at(surface.from(3 * t + i)), edge)
      return [dot(p, along), dot(p, outward)] as const
    })
    return sides.some(([a, p], i) => {
      const [b, q] = sides[(i + 1) % 3]!
      if (a >= 0 === b >= 0) return false
      return p + ((q - p) * a) / (a - b) > far * (1 + 1e-6)
    })
  })
}

/** The strip of a face that a round takes, from its edge to where the ball touches. */
interface Taken {
  readonly course: number
  readonly face: number
  readonly side: 'left' | 'right'
  readonly box: Box
  /** ten numbers a stretch: where its edge begins, how that runs, the unit way from there into the face, and how far it is taken, mm */
  readonly stretches: Float64Array
}

/** Courses that lose a contact within their length to another one's round. */
export function eatenBy(
  rolled: readonly { readonly stations: readonly Station[]; readonly inner: readonly Station[] }[],
  within: number,
): Set<number> {
  const strips: Taken[] = rolled.flatMap(({ stations }, course) =>
    (['left', 'right'] as const).map((side) => {
      const box = boxOf(stations.flatMap(({ edge, [side]: { at } }) => [edge, at]))!
      return { course, side, box, face: stations[0]![side].face, stretches: stretchesOf(stations, side) }
    }),
  )
  const byFace = new Map<number, Taken[]>()
  for (const strip of strips) byFace.set(strip.face, [...(byFace.get(strip.face) ?? []), strip])
  const eaten = new Set<number>()
  for (const strip of strips)
    for (const other of byFace.get(strip.face) ?? []) {
      if (other.course === strip.course || !meet(strip.box, other.box)) continue
      const { inner } = rolled[strip.course]!
      const taken = inner.filter((station) => isTaken(station[strip.side].at, other, within))
      // At its ends one round may run out into another; that is how they meet.
      if (taken.length > inner.length / 2) eaten.add(strip.course)
    }
  return eaten
}

function stretchesOf(stations: readonly Station[], side: 'left' | 'right'): Float64Array {
  const out = new Float64Array(10 * Math.max(0, stations.length - 1))
  for (let i = 0; i + 1 < stations.length; i++) {
    const [a, b] = [stations[i]!, stations[i + 1]!]
    const reach = subtract(a[side].at, a.edge)
    const far = norm(reach)
    out.set([...a.edge, ...subtract(b.edge, a.edge), ...scaled(reach, 1 / (far || 1)), far], 10 * i)
  }
  return out
}

/** By its coordinates, without making vectors: each contact of a face is asked for against each stretch of its other rims. */
function isTaken([x, y, z]: Vec3, { stretches: all }: Taken, within: number): boolean {
  for (let at = 0; at < all.length; at += 10) {
    const lx = all[at + 3]!
    const ly = all[at + 4]!
    const lz = all[at + 5]!
    const size = lx * lx + ly * ly + lz * lz
    if (size === 0) continue
    const px = x - all[at]!
    const py = y - all[at + 1]!
    const pz = z - all[at + 2]!
    const share = (px * lx + py * ly + pz * lz) / size
    if (share < 0 || share > 1) continue
    const rx = all[at + 6]!
    const ry = all[at + 7]!
    const rz = all[at + 8]!
    const far = all[at + 9]!
    const fx = px - lx * share
    const fy = py - ly * share
    const fz = pz - lz * share
    const inwards = fx * rx + fy * ry + fz * rz
    if (inwards <= within || inwards >= far - within) continue
    if (norm([fy * rz - fz * ry, fz * rx - fx * rz, fx * ry - fy * rx]) < far) return true
  }
  return false
}

/** Sizes are tried so often, from one to the next half as far. */
const trials = 14

/** The largest share of a size that fits, rounded down. */
export function largestShare(fits: (share: number) => boolean): number {
  let [low, high] = [0, 1]
  for (let i = 0; i < trials; i++) {
    const middle = (low + high) / 2
    if (fits(middle)) low = middle
    else high = middle
  }
  return low
}
