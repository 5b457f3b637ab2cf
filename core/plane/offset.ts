import type { Chain, DrawnCurve } from './arrangement.ts'
import { crossings } from './crossings.ts'
import { flattenedChain } from './flatten.ts'
import { arranged, outlineOf } from './regions.ts'
import {
  arcBetween,
  curvatureAt,
  derivativeAt,
  directionAt,
  endOf,
  lengthOf,
  line,
  nearestOn,
  normalAt,
  pointAt,
  reversed,
  type Segment,
  segmentReach,
  startOf,
  stretch,
} from './segments.ts'
import { cross2, distance2, dot2, minus, plus, type Ring, times, type Vec2 } from './vectors.ts'

/** How the gap at an outer corner is closed. */
export type Join = 'round' | 'sharp'

/** Parts that a cubic or an ellipse is offset in; each is fitted by a cubic with the true ends and directions. */
const fittedParts = 8

/** The parallel curve at `by` mm to the left of a segment; empty where it shrinks to nothing. */
export function parallel(s: Segment, by: number): Segment[] {
  switch (s.kind) {
    case 'line': {
      const away = times(normalAt(s, 0), by)
      return [line(plus(s.from, away), plus(s.to, away))]
    }
    case 'arc': {
      // To the left of a run to the left lies its middle.
      const radius = s.radius - Math.sign(s.sweepRad) * by
      if (Math.abs(radius) < 1e-9) return []
      // Past its middle it comes out on the other side, running backwards; the winding sorts that out.
      return radius > 0 ? [{ ...s, radius }] : [{ ...s, radius: -radius, startRad: s.startRad + Math.PI }]
    }
    default:
      return Array.from({ length: fittedParts }, (_, i) =>
        fitted(stretch(s, i / fittedParts, (i + 1) / fittedParts), by),
      )
  }
}

/** Hermite fit of an offset: its ends lie on the true offset, its handles are scaled by 1 − κ·by (Tiller and Hanson 1984). */
function fitted(s: Segment, by: number): Segment {
  const [p, q] = [plus(pointAt(s, 0), times(normalAt(s, 0), by)), plus(pointAt(s, 1), times(normalAt(s, 1), by))]
  const [a, b] = [
    times(derivativeAt(s, 0), (1 - curvatureAt(s, 0) * by) / 3),
    times(derivativeAt(s, 1), (1 - curvatureAt(s, 1) * by) / 3),
  ]
  return { kind: 'cubic', points: [p, plus(p, a), minus(q, b), q] }
}

/**
 * How far loops reach along a direction when their sides are moved out by `by` mm and go on to where they meet, however
 * sharp a corner is; −Infinity for none.
 */
export function spreadReach(loops: readonly Chain[], by: number, d: Vec2): number {
  return Math.max(
    ...loops.flatMap((loop) => rawParallel(loop, -by, 'mitred').map((s) => segmentReach(s, d))),
    Number.NEGATIVE_INFINITY,
  )
}

/** Both ends of a line may be cut off at corners; of each half something is left, so that its direction is. */
const shortestRest = 0.49
/** Corners sharper than about 20° are rounded rather than mitred: their points would reach nearly six times the offset, and more. */
const sharpest = Math.cos((160 * Math.PI) / 180)

/**
 * How much shorter two lines are at the corner between them where their parallels overlap, mm, for each corner; 0 where the
 * parallels do not simply end where they meet.
 */
function shortened(segments: readonly Segment[], closed: boolean, by: number): number[] {
  const count = segments.length
  return segments.map((s, i) => {
    const next = segments[(i + 1) % count]!
    if (s.kind !== 'line' || next.kind !== 'line' || (i === count - 1 && !closed) || count < 3) return 0
    const [d, e] = [directionAt(s, 1), directionAt(next, 0)]
    const turn = cross2(d, e)
    if (turn * by <= 0) return 0
    // by · tan of half the turn
    const less = Math.abs(by * turn) / (1 + dot2(d, e))
    return less < shortestRest * Math.min(lengthOf(s), lengthOf(next)) ? less : 0
  })
}

/**
 * The raw parallel of a chain at `by` mm to its left, with its corners closed: by an arc or a point where it opens, through
 * the corner itself where it overlaps (what that adds winds the wrong way and is dropped later; `bare` leaves it out).
 */
function rawParallel({ segments, closed }: Chain, by: number, join: Join | 'mitred', bare = false): Segment[] {
  const out: Segment[] = []
  const count = segments.length
  const shorter = bare ? [] : shortened(segments, closed, by)
  segments.forEach((s, i) => {
    const [before, after] = [shorter[(i + count - 1) % count] ?? 0, shorter[i] ?? 0]
    if (before > 0 || after > 0) {
      const [moved] = parallel(s, by)
      const long = lengthOf(s)
      out.push(stretch(moved!, before / long, 1 - after / long))
    } else out.push(...parallel(s, by))
    if (after > 0) return
    const next = segments[(i + 1) % count]!
    if (i === count - 1 && !closed) return
    const corner = endOf(s)
    const [d, e] = [directionAt(s, 1), directionAt(next, 0)]
    const from = plus(corner, times(normalAt(s, 1), by))
    const to = plus(corner, times(normalAt(next, 0), by))
    if (distance2(from, to) < 1e-9) return
    const opens = cross2(d, e) * by < 0
    if (!opens && bare) return
    if (!opens) {
      out.push(line(from, corner), line(corner, to))
      return
    }
    if (join === 'round' || dot2(d, e) < (join === 'sharp' ? sharpest : -1 + 1e-9)) {
      out.push(arcBetween(corner, from, to, by < 0))
      return
    }
    const meet = plus(from, times(d, cross2(minus(to, from), e) / cross2(d, e)))
    out.push(line(from, meet), line(meet, to))
  })
  return out
}

/**
 * Closed loops at `by` mm outside of loops that have material on their left (negative: inside). Loops that grow together
 * are joined, what shrinks to nothing is gone.
 */
export function offsetLoops(loops: readonly Chain[], by: number, join: Join): Chain[] {
  if (by === 0) return [...loops]
  const raw = loops.map((loop) => rawParallel(loop, -by, join))
  const size = sizeOf(loops.flatMap(({ segments }) => segments))
  const rings = loops.map(({ segments }) => flattenedChain(segments, true, size / 20_000, false))
  // A loop that shrank past its own middle may wind either way; how far off a point lies is decisive.
  const reached = (at: Vec2, wound: boolean) => {
    const inside = rings.reduce((sum, ring) => sum + winding(ring, at), 0) > 0
    const far = Math.min(...loops.flatMap(({ segments }) => segments.map((s) => nearestOn(s, at).distance)))
    return by > 0 ? wound || inside || far < by : wound && inside && far > -by
  }
  return woundLoops(
    raw.filter((segments) => segments.length > 0),
    loops,
    reached,
  )
}

/** An open chain at `by` mm to its left (negative: to its right); where its parallels overlap at a corner they end there. */
export function offsetOpen(chain: Chain, by: number, join: Join): Chain {
  const segments: Segment[] = []
  for (const s of rawParallel({ ...chain, closed: false }, by, join, true)) {
    const before = segments.at(-1)
    const [met] = before ? crossings(before, s, 1e-9) : []
    if (before && met && distance2(endOf(before), startOf(s)) > 1e-9) {
      segments[segments.length - 1] = stretch(before, 0, met.t)
      segments.push(stretch(s, met.u, 1))
    } else segments.push(s)
  }
  return { segments: joinedUp(segments), curves: segments.map(() => chain.curves[0] ?? ''), closed: false }
}

/** Straight pieces over what is still open between neighbours. */
function joinedUp(segments: readonly Segment[]): Segment[] {
  return segments.flatMap((s, i): Segment[] => {
    const next = segments[i + 1]
    return next && distance2(endOf(s), startOf(next)) > 1e-7 ? [s, line(endOf(s), startOf(next))] : [s]
  })
}

/** The outline of a chain made `left` and `right` mm wide to its two sides; its ends are cut square or rounded. */
export function widened(chain: Chain, left: number, right: number, caps: 'square' | 'round', join: Join): Chain[] {
  if (chain.closed) {
    const outer = rawParallel(chain, -right, join)
    const inner = rawParallel(chain, left, join).map(reversed).reverse()
    const clockwise = areaOf(outer) < 0
    return woundLoops(clockwise ? [outer.map(reversed).reverse(), inner.map(reversed).reverse()] : [outer, inner], [
      chain,
    ])
  }
  const there = rawParallel(chain, -right, join)
  const back = rawParallel(chain, left, join).map(reversed).reverse()
  const cap = (from: Segment, to: Segment, end: Vec2): Segment[] => {
    const [a, b] = [endOf(from), startOf(to)]
    if (distance2(a, b) < 1e-9) return []
    const evenly = Math.abs(left - right) < 1e-9
    return caps === 'round' && evenly ? [arcBetween(end, a, b, true)] : [line(a, b)]
  }
  const last = chain.segments.at(-1)!
  const ring = [
    ...there,
    ...cap(there.at(-1)!, back[0]!, endOf(last)),
    ...back,
    ...cap(back.at(-1)!, there[0]!, startOf(chain.segments[0]!)),
  ]
  return woundLoops([ring], [chain])
}

function areaOf(segments: readonly Segment[]): number {
  const ring = flattenedChain(segments, true, sizeOf(segments) / 2000, false)
  return ring.reduce((sum, p, i) => sum + cross2(p, ring[(i + 1) % ring.length]!) / 2, 0)
}

function sizeOf(segments: readonly Segment[]): number {
  const ends = segments.flatMap((s) => [startOf(s), endOf(s), pointAt(s, 0.5)])
  const range = (i: 0 | 1) => Math.max(...ends.map((p) => p[i])) - Math.min(...ends.map((p) => p[i]))
  return Math.max(1e-3, range(0), range(1))
}

/**
 * The loops round everything that raw loops wind about once or more, counter-clockwise. `isFilled` has the last word on a
 * point that they wind about or do not.
 */
function woundLoops(
  raw: readonly (readonly Segment[])[],
  from: readonly Chain[],
  isFilled: (at: Vec2, wound: boolean) => boolean = (_, wound) => wound,
): Chain[] {
  const curves: DrawnCurve[] = raw.map((segments, i) => ({
    id: from[Math.min(i, from.length - 1)]?.curves[0] ?? `${i}`,
    segments: closedUp(segments),
  }))
  const arrangement = arranged(curves)
  const size = sizeOf(raw.flat())
  const rings = curves.map(({ segments }) => flattenedChain(segments, true, size / 20_000, false))
  const filled = arrangement.faces.filter(({ outer, holes }) => {
    const bounds = [outer, ...holes].map((chain) => flattenedChain(chain.segments, true, size / 20_000, false))
    const at = pointInside(bounds)
    return at !== undefined && isFilled(at, rings.reduce((sum, ring) => sum + winding(ring, at), 0) > 0)
  })
  return [...outlineOf(arrangement, filled)]
}

/** The loops round everything that these wind about, counter-clockwise more often than clockwise. */
export function united(loops: readonly Chain[]): Chain[] {
  return woundLoops(
    loops.map(({ segments }) => segments),
    loops,
  )
}

/** Where a parallel vanished, its neighbours are joined straight. */
function closedUp(segments: readonly Segment[]): Segment[] {
  return segments.flatMap((s, i): Segment[] => {
    const next = segments[(i + 1) % segments.length]!
    const [a, b] = [endOf(s), startOf(next)]
    return distance2(a, b) < 1e-7 ? [s] : [s, line(a, b)]
  })
}

/** A point well inside rings: the middle of the widest stretch within them at one of a few heights. */
export function pointInside(rings: readonly Ring[]): Vec2 | undefined {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]
  for (const ring of rings)
    for (const [, y] of ring) {
      low = Math.min(low, y)
      high = Math.max(high, y)
    }
  if (!(low <= high)) return undefined
  let best: { at: Vec2; width: number } | undefined
  for (const share of [0.5, 0.31, 0.69, 0.17, 0.83, 0.07, 0.93]) {
    const y = low + (high - low) * share + (high - low) * 1.234e-7
    const xs: number[] = []
    for (const ring of rings)
      for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
        const [p, q] = [ring[j]!, ring[i]!]
        if (p[1] > y !== q[1] > y) xs.push(p[0] + ((q[0] - p[0]) * (y - p[1])) / (q[1] - p[1]))
      }
    xs.sort((a, b) => a - b)
    for (let i = 0; i + 1 < xs.length; i += 2) {
      const width = xs[i + 1]! - xs[i]!
      if (!best || width > best.width) best = { at: [(xs[i]! + xs[i + 1]!) / 2, y], width }
    }
  }
  return best && best.width > 1e-7 ? best.at : undefined
}

/** How often a ring winds about a point, counter-clockwise. */
export function winding(ring: Ring, [x, y]: Vec2): number {
  let turns = 0
  for (let i = 0; i < ring.length; i++) {
    const [a, b] = [ring[i]!, ring[(i + 1) % ring.length]!]
    const left = (b[0] - a[0]) * (y - a[1]) - (x - a[0]) * (b[1] - a[1])
    if (a[1] <= y && b[1] > y && left > 0) turns++
    else if (a[1] > y && b[1] <= y && left < 0) turns--
  }
  return turns
}
