import { ProblemError } from '../problems/index.ts'
import { flatsForTurn, flatsInUse, flatsRound } from './flats.ts'
import { curvatureAt, directionAt, endOf, pointAt, type Segment, startOf, stretch } from './segments.ts'
import { cross2, distance2, minus, plus, times, type Vec2 } from './vectors.ts'

/** A path is refused rather than broken into more flats than this. */
export const mostFlats = 20_000

/**
 * Points along a segment, its start included and its end left out, so that no flat is farther than `fineness` mm from it.
 * `outside`: whether the flats keep to the right of the curve, where they touch it, or may be chords. Seen along the way:
 *
 *     bending left:   chords lie to the left  (material on the left: within it)
 *                     tangents lie to the right
 *     bending right:  the reverse
 *
 * `grow` true asks for flats that never lie to the left of the curve, false for flats that never lie to its right. A
 * stretch of tangents begins and ends along the curve's own directions.
 * @throws ProblemError too-many-triangles
 */
export function flattened(s: Segment, fineness: number, grow: boolean): Vec2[] {
  if (s.kind === 'line') return [s.from]
  return bends(s).flatMap((bend) => {
    const left = curvatureAt(bend, 0.5) >= 0
    const count = flatsFor(bend, fineness)
    if (left !== grow)
      return Array.from({ length: count }, (_, i) => (i === 0 ? startOf(bend) : pointAt(bend, i / count)))
    // Where the tangents at neighbouring points meet.
    const out: Vec2[] = [startOf(bend)]
    for (let i = 0; i < count; i++) {
      const apex = tangentsMeet(bend, i / count, (i + 1) / count)
      if (apex) out.push(apex)
    }
    return out
  })
}

/** The stretches that bend to one side. */
function bends(s: Segment): Segment[] {
  if (s.kind !== 'cubic') return [s]
  const [a, b, c, d] = s.points
  // cross(C', C'') is a quadratic in t (Stone and DeRose 1989).
  const [p, q, r] = [minus(b, a), minus(plus(a, c), times(b, 2)), minus(plus(minus(d, a), times(b, 3)), times(c, 3))]
  const [x, y, z] = [cross2(q, r), cross2(p, r), cross2(p, q)]
  const under = y * y - 4 * x * z
  const roots =
    Math.abs(x) < 1e-12
      ? Math.abs(y) < 1e-12
        ? []
        : [-z / y]
      : under < 0
        ? []
        : [-1, 1].map((sign) => (-y + sign * Math.sqrt(under)) / (2 * x))
  const marks = [0, ...roots.filter((t) => t > 1e-6 && t < 1 - 1e-6).sort((m, n) => m - n), 1]
  return marks.slice(1).map((t, i) => stretch(s, marks[i]!, t))
}

function flatsFor(s: Segment, fineness: number): number {
  if (s.kind === 'line') return 1
  if (s.kind === 'arc') {
    if (s.radius <= 0) return 1
    const turn = Math.abs(s.sweepRad)
    const round = flatsRound(s.radius, fineness)
    // A whole circle is a multiple of four, so that its extreme points are corners.
    return bounded(isWhole(turn) ? round : Math.max(2, flatsInUse((round * turn) / (2 * Math.PI))))
  }
  // Bound of the second derivative M: chord error M h² / 8.
  const second = s.kind === 'ellipse' ? distance2([0, 0], s.major) * s.sweepRad ** 2 : cubicSecond(s.points)
  const turn = s.kind === 'ellipse' ? Math.abs(s.sweepRad) : cubicTurn(s.points)
  const least = Math.max(2, Math.sqrt(second / (8 * fineness)), flatsForTurn(turn, fineness))
  const whole = s.kind === 'ellipse' && isWhole(turn)
  return bounded(whole ? 4 * flatsInUse(least / 4) : flatsInUse(least))
}

function isWhole(turnRad: number): boolean {
  return Math.abs(turnRad - 2 * Math.PI) < 1e-9
}

/** How far a cubic turns, radians: no farther than the line through its controls. */
export function cubicTurn(points: readonly [Vec2, Vec2, Vec2, Vec2]): number {
  const legs = points.slice(1).flatMap((p, i): Vec2[] => {
    const leg = minus(p, points[i]!)
    return distance2(leg, [0, 0]) < 1e-9 ? [] : [leg]
  })
  return legs.slice(1).reduce((sum, leg, i) => {
    const before = legs[i]!
    return sum + Math.abs(Math.atan2(cross2(before, leg), before[0] * leg[0] + before[1] * leg[1]))
  }, 0)
}

function cubicSecond([a, b, c, d]: readonly [Vec2, Vec2, Vec2, Vec2]): number {
  return 6 * Math.max(distance2(plus(a, c), times(b, 2)), distance2(plus(b, d), times(c, 2)))
}

function bounded(count: number): number {
  if (!(count <= mostFlats)) throw new ProblemError('too-many-triangles', { count })
  return count
}

function tangentsMeet(s: Segment, t0: number, t1: number): Vec2 | undefined {
  const [a, b] = [pointAt(s, t0), pointAt(s, t1)]
  const [d, e] = [directionAt(s, t0), directionAt(s, t1)]
  const turn = cross2(d, e)
  if (Math.abs(turn) < 1e-9) return undefined
  return plus(a, times(d, cross2(minus(b, a), e) / turn))
}

/** The points of a chain of segments, each end joined to the next start; an open one has its end point too. */
export function flattenedChain(segments: readonly Segment[], closed: boolean, fineness: number, grow: boolean): Vec2[] {
  const points = segments.flatMap((s) => flattened(s, fineness, grow))
  if (!closed && segments.length > 0) points.push(endOf(segments.at(-1)!))
  // Points that fall together bound nothing.
  return points.filter((p, i) => {
    const before = i > 0 ? points[i - 1]! : closed ? points.at(-1)! : undefined
    return !before || points.length === 1 || distance2(p, before) > 1e-9
  })
}
