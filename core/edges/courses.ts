import { nextHalfEdge } from '../mesh/index.ts'
import { cross, dot, norm, scaled, subtract, type Vec3 } from '../place/index.ts'
import type { EdgePlace, Sense } from './ball.ts'
import { previous, type Surface } from './surface.ts'

/** Chosen edges one after the other, as far as they go on into each other. */
export interface Course {
  readonly sense: Sense
  /** places in the list of edges, in order */
  readonly edges: readonly number[]
  /** half-edges that run along it, the left face on their own side */
  readonly halfEdges: readonly number[]
  readonly closed: boolean
}

/** A sharp edge that leaves a vertex. */
export interface Spoke {
  /** the half-edge that leaves the vertex */
  readonly halfEdge: number
  readonly edge: number
  readonly sense: Sense
}

/** The sharp edges that leave the vertex that half-edge `h` does, counter-clockwise as seen from outside. */
export function spokesOf(surface: Surface, h: number): Spoke[] {
  const all: Spoke[] = []
  for (let corner = h; ; ) {
    if (!surface.isSmooth(corner)) {
      const edge = surface.solid.of[corner]!
      if (edge >= 0) all.push({ halfEdge: corner, edge, sense: senseAt(surface, corner) })
    }
    const twin = surface.twin(previous(corner))
    if (twin < 0 || twin === h || all.length > 1000) return all
    corner = twin
  }
}

/** Whether the surface turns outwards or inwards over a half-edge. */
export function senseAt(surface: Surface, h: number): Sense {
  const [left, right] = [surface.flat((h / 3) | 0), surface.flat((surface.twin(h) / 3) | 0)]
  return dot(cross(left, right), directionOf(surface, h)) >= 0 ? 1 : -1
}

/** Unit, along a half-edge. */
export function directionOf(surface: Surface, h: number): Vec3 {
  const along = subtract(surface.at(surface.from(nextHalfEdge(h))), surface.at(surface.from(h)))
  return scaled(along, 1 / (norm(along) || 1))
}

/** The chosen edges as courses: two are one where they meet at a vertex that no other sharp edge comes to. */
export function coursesOf(surface: Surface, chosen: readonly number[]): Course[] {
  const { chains, edges } = surface.solid
  const wanted = new Set(chosen)
  const done = new Set<number>()
  const courses: Course[] = []
  for (const edge of [...wanted].sort((a, b) => a - b)) {
    if (done.has(edge)) continue
    const first = alongOne(surface, chains[edge]!)
    const sense: Sense = edges[edge]!.bend >= 0 ? 1 : -1
    const own = { edges: [edge], halfEdges: first }
    done.add(edge)
    let closed = edges[edge]!.closed
    if (!closed) closed = extend(surface, own, wanted, done, sense)
    // What came round ends where it began; else it may go on at its other end.
    if (!closed) {
      const back = { edges: [...own.edges].reverse(), halfEdges: reversed(surface, own.halfEdges) }
      extend(surface, back, wanted, done, sense)
      own.edges = back.edges.reverse()
      own.halfEdges = reversed(surface, back.halfEdges)
    }
    courses.push({ sense, closed, edges: own.edges, halfEdges: own.halfEdges })
  }
  return courses
}

/** Half-edges of an edge, all running along it one way. */
function alongOne(surface: Surface, { halfEdges, vertices }: Surface['solid']['chains'][number]): number[] {
  return halfEdges.map((h, i) => (surface.from(h) === vertices[i] ? h : surface.twin(h)))
}

function reversed(surface: Surface, halfEdges: readonly number[]): number[] {
  return halfEdges.map((h) => surface.twin(h)).reverse()
}

/** Goes on from the end of a course as far as it leads; tells whether it came round to its start. */
function extend(
  surface: Surface,
  course: { edges: number[]; halfEdges: number[] },
  wanted: ReadonlySet<number>,
  done: Set<number>,
  sense: Sense,
): boolean {
  for (;;) {
    const last = course.halfEdges.at(-1)!
    const spokes = spokesOf(surface, surface.twin(last))
    if (spokes.length !== 2) return false
    const next = spokes.find(({ halfEdge }) => halfEdge !== surface.twin(last))
    if (!next || next.sense !== sense || !wanted.has(next.edge)) return false
    if (next.halfEdge === course.halfEdges[0]) return true
    if (done.has(next.edge)) return false
    done.add(next.edge)
    const along = alongOne(surface, surface.solid.chains[next.edge]!)
    course.edges.push(next.edge)
    course.halfEdges.push(...(along[0] === next.halfEdge ? along : reversed(surface, along)))
  }
}

/** A place at the beginning of half-edge number `i` of a course; one more than there are is its end. */
export function placeAt(surface: Surface, { halfEdges, closed }: Course, i: number): EdgePlace {
  const count = halfEdges.length
  const [before, after] = closed
    ? [halfEdges[(i - 1 + count) % count]!, halfEdges[i % count]!]
    : [halfEdges[Math.max(0, i - 1)]!, halfEdges[Math.min(count - 1, i)]!]
  const atEnd = !closed && i === count
  const direction = scaled(addOf(directionOf(surface, before), directionOf(surface, after)), 0.5)
  // On the left the vertex is left along the course, on the right against it.
  const left = atEnd ? nextHalfEdge(before) : after
  const right = !closed && i === 0 ? nextHalfEdge(surface.twin(after)) : surface.twin(before)
  return { left, right, direction }
}

function addOf(a: Vec3, b: Vec3): Vec3 {
  return [a[0] + b[0], a[1] + b[1], a[2] + b[2]]
}
