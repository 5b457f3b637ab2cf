import type { Surface } from '../edges/index.ts'
import { nextHalfEdge, oneRound } from '../mesh/index.ts'
import { add, dot, norm, scaled, subtract, type Vec3 } from '../place/index.ts'
import type { Fills } from './construction.ts'

/** What of a surface a ball left along inner edges, and where its centre went. */
export interface Filled {
  readonly faces: ReadonlySet<number>
  readonly ways: readonly Way[]
}

interface Way {
  /** one after the other; the last one is the first again where it comes round */
  readonly stops: readonly Vec3[]
  /** mm, of the ball */
  readonly radius: number
  /** a face that it left there */
  readonly face: number
}

/** Corners of its flats lie off a ball by less, as a share of its radius: these touch it from outside. */
const offRound = 0.25
/** Centres that are one lie nearer to each other, mm. */
const offBall = 1e-3

/**
 * Where the centre of a ball went that rolled along inner edges, as the flat faces tell that what it left runs smoothly into: it
 * stood square over each place where that begins. Undefined where not all that it left was reached from there.
 */
export function filledIn(surface: Surface, { radius, made }: Fills, fineness: number): Filled | undefined {
  const faces = new Set<number>()
  surface.solid.faces.forEach(({ key }, face) => {
    if (made(key) && !surface.flatFace(face)) faces.add(face)
  })
  const ways = [...faces].flatMap((face) => waysOf(surface, face, radius, faces, fineness))
  const isReached = (p: Vec3) =>
    ways.some(({ stops }) =>
      stops.some((to, i) => i > 0 && Math.abs(farFrom(p, stops[i - 1]!, to) - radius) < offRound * radius),
    )
  for (const face of faces)
    for (const t of surface.trianglesOf(face))
      for (let h = 3 * t; h < 3 * t + 3; h++) if (!isReached(surface.at(surface.from(h)))) return undefined
  return faces.size > 0 ? { faces, ways } : undefined
}

/** Along the borders of a round face with flat ones, one each: both of its sides tell the same. */
function waysOf(surface: Surface, face: number, radius: number, filled: ReadonlySet<number>, fineness: number): Way[] {
  const next = new Map<number, { readonly to: number; readonly centres: readonly [Vec3, Vec3] }>()
  for (const t of surface.trianglesOf(face))
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      const beside = surface.face(surface.twin(h))
      const n = filled.has(beside) ? undefined : surface.flatFace(beside)
      if (!n || dot(n, surface.flat(t)) < oneRound) continue
      const [from, to] = [surface.from(h), surface.from(nextHalfEdge(h))]
      const over = (vertex: number) => add(surface.at(vertex), scaled(n, radius))
      next.set(from, { to, centres: [over(from), over(to)] })
    }
  const arriving = new Set([...next.values()].map(({ to }) => to))
  const firsts = [...[...next.keys()].filter((vertex) => !arriving.has(vertex)), ...next.keys()]
  const ways: Way[] = []
  for (const first of firsts) {
    const stops: Vec3[] = []
    for (let vertex = first; ; ) {
      const step = next.get(vertex)
      if (!step) break
      next.delete(vertex)
      const [from, to] = step.centres
      // At a corner another flat face goes on.
      if (stops.length > 0 && norm(subtract(from, stops.at(-1)!)) > offBall) break
      if (stops.length === 0) stops.push(from)
      if (norm(subtract(to, stops.at(-1)!)) > offBall) stops.push(to)
      vertex = step.to
    }
    if (stops.length > 1) ways.push({ stops: thinnedOut(stops, fineness / 4), radius, face })
  }
  return withoutDoubles(ways)
}

/** Without stops that lie off the line between others by less than `off` mm (Douglas and Peucker, 1973). */
function thinnedOut(stops: readonly Vec3[], off: number): readonly Vec3[] {
  const [first, last] = [stops[0]!, stops.at(-1)!]
  if (stops.length < 3) return stops
  if (norm(subtract(first, last)) < offBall) {
    const half = stops.length >> 1
    return [...thinnedOut(stops.slice(0, half + 1), off), ...thinnedOut(stops.slice(half), off).slice(1)]
  }
  let [far, at] = [off, 0]
  stops.forEach((p, i) => {
    const own = farFrom(p, first, last)
    if (own > far) [far, at] = [own, i]
  })
  if (at === 0) return [first, last]
  return [...thinnedOut(stops.slice(0, at + 1), off), ...thinnedOut(stops.slice(at), off).slice(1)]
}

/** Of ways that lie on each other, as those over both sides of a fill do, the one with most stops. */
function withoutDoubles(ways: readonly Way[]): Way[] {
  const kept: Way[] = []
  for (const way of [...ways].sort((a, b) => b.stops.length - a.stops.length)) {
    const lies = (p: Vec3) =>
      kept.some(({ stops }) => stops.some((to, i) => i > 0 && farFrom(p, stops[i - 1]!, to) < offBall))
    if (!way.stops.every(lies)) kept.push(way)
  }
  return kept
}

/** How far a point lies from a stretch, mm. */
function farFrom(p: Vec3, from: Vec3, to: Vec3): number {
  const along = subtract(to, from)
  const share = Math.min(1, Math.max(0, dot(subtract(p, from), along) / dot(along, along)))
  return norm(subtract(p, add(from, scaled(along, share))))
}
