import { nextHalfEdge } from '../mesh/index.ts'
import { add, dot, norm, scaled, subtract, type Vec3 } from '../place/index.ts'
import { previous, type Surface } from './surface.ts'

/** A place on the surface, and the one that lies `offset` under it along its smooth normal. */
export interface Footing {
  readonly on: Vec3
  /** outward; a unit at corners, a little less between them */
  readonly normal: Vec3
  readonly under: Vec3
}

/** A way over the surface in which all that lies under it is in one plane. */
export interface Walk {
  readonly steps: readonly Footing[]
  /** the half-edge with a sharp edge that it ended at; −1 where it went as far as it should */
  readonly end: number
}

/** Which plane the way keeps to, and how deep under the surface; negative: above it. */
export interface Keeping {
  readonly through: Vec3
  /** unit; the way turns left of it as seen from outside, or right */
  readonly along: Vec3
  readonly turn: 'left' | 'right'
  readonly offset: number
}

/** No way is longer, in triangles. */
const mostSteps = 20_000

/** The place at a corner, and that under it. */
export function footing(on: Vec3, normal: Vec3, offset: number): Footing {
  return { on, normal, under: subtract(on, scaled(normal, offset)) }
}

function between(a: Footing, b: Footing, share: number): Footing {
  const mixed = (p: Vec3, q: Vec3) => add(p, scaled(subtract(q, p), share))
  return { on: mixed(a.on, b.on), normal: mixed(a.normal, b.normal), under: mixed(a.under, b.under) }
}

/**
 * The half-edge over which the way leaves the triangles round a vertex, which half-edge `h` leaves; −1 where it would leave them
 * over an edge at once.
 */
export function wayOut(surface: Surface, h: number, keeping: Keeping): number {
  for (const corner of surface.sector(h)) {
    const across = nextHalfEdge(corner)
    const from = side(surface, across, keeping)
    const to = side(surface, nextHalfEdge(across), keeping)
    if (keeping.turn === 'left' ? from >= 0 && to < 0 : from < 0 && to >= 0) return across
  }
  return -1
}

/** How far before the plane the place under a corner lies. */
function side(surface: Surface, corner: number, { through, along, offset }: Keeping): number {
  const [at, n] = [surface.at(surface.from(corner)), surface.normal(corner)]
  let far = 0
  for (let i = 0; i < 3; i++) far += (at[i]! - n[i]! * offset - through[i]!) * along[i]!
  return far
}

function at(surface: Surface, corner: number, { offset }: Keeping): Footing {
  return footing(surface.at(surface.from(corner)), surface.normal(corner), offset)
}

/** The way on from `start` out over half-edge `across` of its triangle, until it is `reach` long. */
export function walkOver(surface: Surface, start: Footing, across: number, keeping: Keeping, reach: number): Walk {
  const steps = [start]
  let gone = 0
  let h = across
  while (steps.length < mostSteps) {
    const [p, q] = [at(surface, h, keeping), at(surface, nextHalfEdge(h), keeping)]
    const before = dot(subtract(p.under, keeping.through), keeping.along)
    const behind = dot(subtract(q.under, keeping.through), keeping.along)
    const next = between(p, q, before / (before - behind))
    const last = steps.at(-1)!
    // Where the surface bends more tightly than that, what lies under it runs back.
    if (dot(subtract(next.under, last.under), subtract(next.on, last.on)) < 0) break
    gone += norm(subtract(next.under, last.under))
    steps.push(next)
    if (!surface.isSmooth(h)) return { steps, end: h }
    if (gone > reach) break
    const entry = surface.twin(h)
    const third = side(surface, previous(entry), keeping)
    // The entry runs from q to p; on to the side of the third corner that it does not share.
    h = third >= 0 === before >= 0 ? previous(entry) : nextHalfEdge(entry)
  }
  return { steps, end: -1 }
}
