import Flatbush from 'flatbush'
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

const knownBoxes = new WeakMap<Segment, Box2>()

export function boxOfSegment(s: Segment): Box2 {
  const known = knownBoxes.get(s)
  if (known) return known
  const box: Box2 = {
    min: [-segmentReach(s, [-1, 0]), -segmentReach(s, [0, -1])],
    max: [segmentReach(s, [1, 0]), segmentReach(s, [0, 1])],
  }
  knownBoxes.set(s, box)
  return box
}

/** The box round all of these; undefined round none. */
export function boxAround(boxes: readonly Box2[]): Box2 | undefined {
  return boxes.reduce<Box2 | undefined>(
    (whole, { min, max }) =>
      whole
        ? {
            min: [Math.min(whole.min[0], min[0]), Math.min(whole.min[1], min[1])],
            max: [Math.max(whole.max[0], max[0]), Math.max(whole.max[1], max[1])],
          }
        : { min, max },
    undefined,
  )
}

export function boxesMeet(a: Box2, b: Box2, within: number): boolean {
  return (
    a.min[0] <= b.max[0] + within &&
    b.min[0] <= a.max[0] + within &&
    a.min[1] <= b.max[1] + within &&
    b.min[1] <= a.max[1] + within
  )
}

/** Which boxes meet, as pairs of their places in the list, the smaller one first; in order. */
export function meetingPairs(boxes: readonly Box2[], within: number): (readonly [number, number])[] {
  if (boxes.length < 2) return []
  const index = new Flatbush(boxes.length)
  for (const { min, max } of boxes) index.add(min[0], min[1], max[0], max[1])
  index.finish()
  return boxes.flatMap((box, i) =>
    index
      .search(box.min[0] - within, box.min[1] - within, box.max[0] + within, box.max[1] + within)
      .filter((k) => k > i && boxesMeet(box, boxes[k]!, within))
      .sort((a, b) => a - b)
      .map((k) => [i, k] as const),
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
  // Ends that lie on the other one first, so that they are exact; those that meet an end before all others.
  const [ends, others] = [[pointAt(a, 0), pointAt(a, 1)] as const, [pointAt(b, 0), pointAt(b, 1)] as const]
  ends.forEach((p, t) => {
    others.forEach((q, u) => {
      if (distance2(p, q) <= within) note(t, u)
    })
  })
  const [boxA, boxB] = [boxOfSegment(a), boxOfSegment(b)]
  const onTo = (s: Segment, box: Box2, p: Vec2) => {
    if (!boxesMeet(box, { min: p, max: p }, within) || found.some((known) => distance2(known.at, p) <= within)) return
    const near = nearestOn(s, p)
    return near.distance <= within ? near.t : undefined
  }
  ends.forEach((p, t) => {
    const u = onTo(b, boxB, p)
    if (u !== undefined) note(t, u)
  })
  others.forEach((p, u) => {
    const t = onTo(a, boxA, p)
    if (t !== undefined) note(t, u)
  })
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

/** A curve as chords, how far it lies beside each of them, and the boxes round runs of them. */
interface Chords {
  readonly points: readonly Vec2[]
  readonly beside: readonly number[]
  readonly boxes: readonly Box2[]
}
/** Chords of a curve, and of them in a run. */
const [chordCount, runLength] = [48, 6]
const knownChords = new WeakMap<Segment, Chords>()

function chordsOf(s: Segment): Chords {
  const known = knownChords.get(s)
  if (known) return known
  const count = s.kind === 'line' ? 1 : chordCount
  const points = Array.from({ length: count + 1 }, (_, i) => pointAt(s, i / count))
  const beside = Array.from({ length: count }, (_, i) =>
    s.kind === 'line'
      ? 0
      : 1.5 * distance2(pointAt(s, (i + 0.5) / count), times(plus(points[i]!, points[i + 1]!), 0.5)),
  )
  const boxes: Box2[] = []
  for (let i = 0; i < count; i += runLength) {
    const run = points.slice(i, i + runLength + 1)
    const [xs, ys] = [run.map((p) => p[0]), run.map((p) => p[1])]
    // The curve lies beside its chords, and chords that nearly meet count as well.
    const room = 0.25 * Math.max(...run.slice(1).map((p, k) => distance2(p, run[k]!)))
    boxes.push({
      min: [Math.min(...xs) - room, Math.min(...ys) - room],
      max: [Math.max(...xs) + room, Math.max(...ys) + room],
    })
  }
  const chords = { points, beside, boxes }
  knownChords.set(s, chords)
  return chords
}

/** Chords that cross, or may with the curves beside them, polished by Newton in both parameters. */
function curved(a: Segment, b: Segment, note: Note): void {
  const [p, q] = [chordsOf(a), chordsOf(b)]
  p.boxes.forEach((box, i) => {
    q.boxes.forEach((other, k) => {
      if (boxesMeet(box, other, 0)) chordsCross(a, b, p, q, i * runLength, k * runLength, note)
    })
  })
}

/** As above, of two runs of chords. */
function chordsCross(a: Segment, b: Segment, p: Chords, q: Chords, i0: number, k0: number, note: Note): void {
  const [m, n] = [p.points.length - 1, q.points.length - 1]
  for (let i = i0; i < Math.min(m, i0 + runLength); i++)
    for (let k = k0; k < Math.min(n, k0 + runLength); k++) {
      const [d, e] = [minus(p.points[i + 1]!, p.points[i]!), minus(q.points[k + 1]!, q.points[k]!)]
      const turn = cross2(d, e)
      if (turn === 0) continue
      const away = minus(q.points[k]!, p.points[i]!)
      const [t, u] = [cross2(away, e) / turn, cross2(away, d) / turn]
      const [beyondT, beyondU] = [Math.abs(t - 0.5) - 0.7, Math.abs(u - 0.5) - 0.7]
      if (beyondT > 0 || beyondU > 0) {
        // Where the curves lie beside their chords they may cross beyond the ends of these.
        const room = p.beside[i]! + q.beside[k]!
        if (beyondT * Math.abs(turn) > room * norm2(e) || beyondU * Math.abs(turn) > room * norm2(d)) continue
        if (!boxesMeet(boxOfChord(p, i), boxOfChord(q, k), room)) continue
      }
      polish(a, b, (i + nearChord(t)) / m, (k + nearChord(u)) / n, note)
    }
}
const nearChord = (t: number) => Math.min(1.2, Math.max(-0.2, t))
function boxOfChord({ points }: Chords, i: number): Box2 {
  const [[ax, ay], [bx, by]] = [points[i]!, points[i + 1]!]
  return { min: [Math.min(ax, bx), Math.min(ay, by)], max: [Math.max(ax, bx), Math.max(ay, by)] }
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
