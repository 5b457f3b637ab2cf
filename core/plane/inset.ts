import { boxAround, boxesMeet } from './crossings.ts'
import { cross2, distance2, dot2, insideRings, minus, type Ring, ringArea, type Vec2 } from './vectors.ts'

/**
 * Rings with their flats moved to the left by a distance, corner by corner, so that every corner of the first ring has its
 * place in the last (a wavefront of the straight skeleton, Aichholzer and Aurenhammer 1996). Where a flat shrinks to
 * nothing, its two corners go on as one. Fronts that run into each other are not followed: `inset` then stops.
 */
export interface Inset {
  /** distances at which flats vanished, ascending, mm */
  readonly events: readonly number[]
  /** the corners at a distance, in the order of the rings; undefined past `most` */
  at(by: number): Ring[] | undefined
  /** as far as it goes */
  readonly most: number
}

interface Front {
  /** corners of the ring as it was that are at this place */
  readonly corners: readonly number[]
  readonly at: Vec2
  /** change of place with the distance */
  readonly way: Vec2
}

interface Stage {
  readonly from: number
  readonly fronts: readonly (readonly Front[])[]
}

/** `by` may be negative: rings then grow, and their left is their outside. */
export function inset(rings: readonly Ring[], by: number): Inset {
  const sign = by < 0 ? -1 : 1
  const target = Math.abs(by)
  const stages: Stage[] = [
    {
      from: 0,
      fronts: rings.map((ring) =>
        fronted(
          ring.map((at, i) => ({ corners: [i], at })),
          sign,
        ),
      ),
    },
  ]
  let most = target
  for (;;) {
    const stage = stages.at(-1)!
    const next = Math.min(...stage.fronts.map((ring) => nextEvent(ring)))
    const at = stage.from + next
    if (!(at < target - 1e-9)) break
    const fronts = stage.fronts.map((ring) => merged(ring, next, sign))
    if (fronts.some((ring) => ring.length < 3)) {
      most = at
      break
    }
    stages.push({ from: at, fronts })
    if (stages.length > 5000) {
      most = at
      break
    }
  }
  return {
    events: stages.slice(1).map(({ from }) => from),
    most,
    at(distance) {
      if (distance > most + 1e-9) return undefined
      const stage = stages.findLast(({ from }) => from <= distance + 1e-12)!
      return stage.fronts.map((ring, r) => {
        const out: Vec2[] = new Array(rings[r]!.length)
        for (const front of ring) {
          const place = moved(front, distance - stage.from)
          for (const corner of front.corners) out[corner] = place
        }
        return out
      })
    },
  }
}

/** Corners with the way that keeps both their flats at one distance: (n₁ + n₂) / (1 + n₁·n₂). */
function fronted(corners: readonly Pick<Front, 'corners' | 'at'>[], sign: number): Front[] {
  const count = corners.length
  return corners.map(({ corners: own, at }, i) => {
    const [before, after] = [corners[(i + count - 1) % count]!.at, corners[(i + 1) % count]!.at]
    const normal = (a: Vec2, b: Vec2): Vec2 => {
      const long = distance2(a, b) || 1
      return [(-sign * (b[1] - a[1])) / long, (sign * (b[0] - a[0])) / long]
    }
    const [m, n] = [normal(before, at), normal(at, after)]
    const sum = 1 + dot2(m, n)
    const way: Vec2 = sum < 1e-9 ? m : [(m[0] + n[0]) / sum, (m[1] + n[1]) / sum]
    return { corners: own, at, way }
  })
}

const moved = ({ at, way }: Front, by: number): Vec2 => [at[0] + way[0] * by, at[1] + way[1] * by]

/** How far until the first flat has no length. */
function nextEvent(ring: readonly Front[]): number {
  let next = Number.POSITIVE_INFINITY
  ring.forEach((front, i) => {
    const other = ring[(i + 1) % ring.length]!
    const along = minus(other.at, front.at)
    const long = Math.hypot(along[0], along[1])
    if (long === 0) return
    const closing = -dot2(minus(other.way, front.way), along) / long
    if (closing > 1e-12) next = Math.min(next, long / closing)
  })
  return next
}

/** The ring at its event: flats without length are gone. */
function merged(ring: readonly Front[], by: number, sign: number): Front[] {
  const places: { corners: number[]; at: Vec2 }[] = []
  for (const front of ring) {
    const at = moved(front, by)
    const last = places.at(-1)
    if (last && distance2(last.at, at) < 1e-7) last.corners.push(...front.corners)
    else places.push({ corners: [...front.corners], at })
  }
  const [first, last] = [places[0], places.at(-1)]
  if (places.length > 1 && first && last && distance2(first.at, last.at) < 1e-7) {
    first.corners.push(...last.corners)
    places.pop()
  }
  return fronted(places, sign)
}

/** Whether rings still lie as they should: none turned over, none crossing another or itself, none gone through another. */
export function liesWell(rings: readonly Ring[], before: readonly Ring[]): boolean {
  if (rings.some((ring, i) => ringArea(ring) * ringArea(before[i]!) <= 0)) return false
  const [now, then] = [nesting(rings), nesting(before)]
  if (now.size !== then.size || [...now].some((pair) => !then.has(pair))) return false
  const flats = rings
    .flatMap((ring) => ring.map((p, i) => [p, ring[(i + 1) % ring.length]!] as const))
    .filter(([a, b]) => distance2(a, b) > 1e-7)
  // Sorted from left to right, so that only those side by side are compared.
  const sorted = flats
    .map(([a, b]) => ({ a, b, low: Math.min(a[0], b[0]), high: Math.max(a[0], b[0]) }))
    .sort((m, n) => m.low - n.low)
  for (let i = 0; i < sorted.length; i++)
    for (let k = i + 1; k < sorted.length && sorted[k]!.low <= sorted[i]!.high; k++)
      if (crossing(sorted[i]!, sorted[k]!)) return false
  return true
}

/** Rings by what they bound together: each outer one with the holes that lie right in it. */
export function bodiesOf(rings: readonly Ring[]): (readonly Ring[])[] {
  const within = nesting(rings)
  const areas = rings.map((ring) => ringArea(ring))
  const bodies = new Map(areas.flatMap((area, i) => (area > 0 ? [[i, [rings[i]!]]] : [])))
  for (const [hole, area] of areas.entries()) {
    if (area > 0) continue
    const round = [...bodies.keys()].filter((outer) => within.has(`${hole} ${outer}`))
    const nearest = round.sort((a, b) => areas[a]! - areas[b]!)[0]
    // A hole that cannot be told to lie in one of them keeps all of them together.
    if (nearest === undefined) return [rings]
    bodies.get(nearest)!.push(rings[hole]!)
  }
  return [...bodies.values()]
}

const known = new WeakMap<readonly Ring[], ReadonlySet<string>>()

/** So many corners of a ring tell where it lies. */
const enough = 25

/** Which rings lie within which others. Most of a few corners decide: some of them may touch the other ring. */
function nesting(rings: readonly Ring[]): ReadonlySet<string> {
  const made = known.get(rings)
  if (made) return made
  const boxes = rings.map((ring) => boxAround(ring.map((p) => ({ min: p, max: p })))!)
  const few = rings.map((ring) => ring.filter((_, i) => i % Math.ceil(ring.length / enough) === 0))
  const pairs = new Set<string>()
  rings.forEach((_, i) => {
    rings.forEach((other, k) => {
      if (i === k || !boxesMeet(boxes[i]!, boxes[k]!, 0)) return
      if (areMostIn(few[i]!, [other])) pairs.add(`${i} ${k}`)
    })
  })
  known.set(rings, pairs)
  return pairs
}

function areMostIn(places: readonly Vec2[], rings: readonly Ring[]): boolean {
  let [inside, left] = [0, places.length]
  for (const p of places) {
    if (insideRings(rings, p)) inside++
    left--
    // Those that are left change nothing any more.
    if (2 * inside > places.length || 2 * (inside + left) <= places.length) break
  }
  return 2 * inside > places.length
}

interface Flat {
  readonly a: Vec2
  readonly b: Vec2
}

/** Whether two flats cross within both of them; ends that touch do not count. */
function crossing({ a, b }: Flat, { a: c, b: d }: Flat): boolean {
  const side = (p: Vec2, q: Vec2, r: Vec2) => cross2(minus(q, p), minus(r, p))
  const scale = distance2(a, b) * distance2(c, d) * 1e-9
  const [s, t, u, v] = [side(a, b, c), side(a, b, d), side(c, d, a), side(c, d, b)]
  return s * t < 0 && u * v < 0 && Math.min(Math.abs(s), Math.abs(t), Math.abs(u), Math.abs(v)) > scale
}
