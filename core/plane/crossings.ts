import {
  type ArcSegment,
  derivativeAt,
  type LineSegment,
  nearestOn,
  paramOfAngle,
  pointAt,
  type Segment,
  segmentReach,
} from './segments.ts'
import { cross2, distance2, dot2, minus, norm2, plus, times, unit2, type Vec2 } from './vectors.ts'

/** Where two segments meet: at `t` of the first one and `u` of the second. */
export interface Crossing {
  readonly t: number
  readonly u: number
  readonly at: Vec2
}

export interface Box2 {
  readonly min: Vec2
  readonly max: Vec2
}

export function boxOfSegment(s: Segment): Box2 {
  return {
    min: [-segmentReach(s, [-1, 0]), -segmentReach(s, [0, -1])],
    max: [segmentReach(s, [1, 0]), segmentReach(s, [0, 1])],
  }
}

export function boxesMeet(a: Box2, b: Box2, within: number): boolean {
  return (
    a.min[0] <= b.max[0] + within &&
    b.min[0] <= a.max[0] + within &&
    a.min[1] <= b.max[1] + within &&
    b.min[1] <= a.max[1] + within
  )
}

/**
 * All points that two segments have in common, those where they touch too, nearest-first along the first one. Stretches
 * that they share give their ends. `within`: what counts as touching, mm.
 */
export function crossings(a: Segment, b: Segment, within: number): Crossing[] {
  const found: Crossing[] = []
  const note = (t: number, u: number) => {
    if (!(t >= -1e-9 && t <= 1 + 1e-9 && u >= -1e-9 && u <= 1 + 1e-9)) return
    const [tt, uu] = [Math.min(1, Math.max(0, t)), Math.min(1, Math.max(0, u))]
    const at = pointAt(a, tt)
    if (distance2(at, pointAt(b, uu)) > within) return
    if (!found.some((known) => distance2(known.at, at) <= within)) found.push({ t: tt, u: uu, at })
  }
  // Ends that lie on the other one first, so that they are exact.
  for (const t of [0, 1]) {
    const { t: u, distance } = nearestOn(b, pointAt(a, t))
    if (distance <= within) note(t, u)
  }
  for (const u of [0, 1]) {
    const { t, distance } = nearestOn(a, pointAt(b, u))
    if (distance <= within) note(t, u)
  }
  if (a.kind === 'line' && b.kind === 'line') lineLine(a, b, note)
  else if (a.kind === 'line' && b.kind === 'arc') lineArc(a, b, note)
  else if (a.kind === 'arc' && b.kind === 'line') lineArc(b, a, (t, u) => note(u, t))
  else if (a.kind === 'arc' && b.kind === 'arc') arcArc(a, b, note)
  else curved(a, b, note)
  return found.sort((m, n) => m.t - n.t)
}

type Note = (t: number, u: number) => void

function lineLine(a: LineSegment, b: LineSegment, note: Note): void {
  const [d, e] = [minus(a.to, a.from), minus(b.to, b.from)]
  const turn = cross2(d, e)
  if (Math.abs(turn) <= 1e-12 * norm2(d) * norm2(e)) return
  const away = minus(b.from, a.from)
  note(cross2(away, e) / turn, cross2(away, d) / turn)
}

function lineArc(a: LineSegment, b: ArcSegment, note: Note): void {
  const d = minus(a.to, a.from)
  const long = norm2(d)
  if (long === 0) return
  const away = minus(a.from, b.centre)
  const along = -dot2(away, d) / long
  const beside = cross2(away, d) / long
  const under = b.radius ** 2 - beside ** 2
  // A touch is not lost to rounding.
  if (under < -1e-9 * b.radius ** 2) return
  const half = Math.sqrt(Math.max(0, under))
  for (const at of half === 0 ? [along] : [along - half, along + half]) {
    const p = plus(a.from, times(d, at / long))
    const u = paramAt(b, p)
    if (u !== undefined) note(at / long, u)
  }
}

function arcArc(a: ArcSegment, b: ArcSegment, note: Note): void {
  const away = minus(b.centre, a.centre)
  const far = norm2(away)
  if (far < 1e-12) return
  const along = (far ** 2 + a.radius ** 2 - b.radius ** 2) / (2 * far)
  const under = a.radius ** 2 - along ** 2
  if (under < -1e-9 * a.radius ** 2) return
  const half = Math.sqrt(Math.max(0, under))
  const d = unit2(away)
  for (const side of half === 0 ? [0] : [-half, half]) {
    const p: Vec2 = [a.centre[0] + d[0] * along - d[1] * side, a.centre[1] + d[1] * along + d[0] * side]
    const [t, u] = [paramAt(a, p), paramAt(b, p)]
    if (t !== undefined && u !== undefined) note(t, u)
  }
}

function paramAt({ centre, startRad, sweepRad }: ArcSegment, p: Vec2): number | undefined {
  return paramOfAngle(startRad, sweepRad, Math.atan2(p[1] - centre[1], p[0] - centre[0]))
}

/** Chords that cross, polished by Newton in both parameters. */
function curved(a: Segment, b: Segment, note: Note): void {
  const steps = (s: Segment) => (s.kind === 'line' ? 1 : 48)
  const [m, n] = [steps(a), steps(b)]
  const points = (s: Segment, count: number) => Array.from({ length: count + 1 }, (_, i) => pointAt(s, i / count))
  const [p, q] = [points(a, m), points(b, n)]
  for (let i = 0; i < m; i++)
    for (let k = 0; k < n; k++) {
      const [d, e] = [minus(p[i + 1]!, p[i]!), minus(q[k + 1]!, q[k]!)]
      const turn = cross2(d, e)
      if (turn === 0) continue
      const away = minus(q[k]!, p[i]!)
      const [t, u] = [cross2(away, e) / turn, cross2(away, d) / turn]
      // Chords lie a little beside their curves.
      if (t < -0.2 || t > 1.2 || u < -0.2 || u > 1.2) continue
      polish(a, b, (i + t) / m, (k + u) / n, note)
    }
}

function polish(a: Segment, b: Segment, t0: number, u0: number, note: Note): void {
  let [t, u] = [t0, u0]
  for (let round = 0; round < 20; round++) {
    const away = minus(pointAt(b, u), pointAt(a, t))
    const [d, e] = [derivativeAt(a, t), derivativeAt(b, u)]
    const turn = cross2(d, e)
    if (Math.abs(turn) < 1e-14) break
    const [dt, du] = [cross2(away, e) / turn, cross2(away, d) / turn]
    t += dt
    u += du
    if (t < -0.5 || t > 1.5 || u < -0.5 || u > 1.5) return
    if (Math.abs(dt) + Math.abs(du) < 1e-14) break
  }
  note(t, u)
}
