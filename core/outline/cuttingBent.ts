import type { Outline, OutlineCurve } from '../document/index.ts'
import {
  asCubics,
  type CubicSegment,
  crossings,
  distance2,
  nearestOn,
  type Segment,
  stretch,
  type Vec2,
} from '../plane/index.ts'
import { Sketch, withoutParts } from './sketch.ts'
import type { SolvedOutline } from './solved.ts'
import { isClosed } from './system.ts'

/** A place on a curve of several segments: the whole number says which one, the rest where on it. */
interface Mark {
  readonly s: number
  readonly at: Vec2
  readonly other: string
}

/**
 * Takes out the stretch of an ellipse or spline between the crossings to both sides of a place. What is left is drawn as
 * cubics, each a curve near its four points, that run into one another without a corner; their form is that of before.
 */
export function trimmedBent(
  solved: SolvedOutline,
  curve: OutlineCurve,
  at: Vec2,
): Outline | { readonly detail: string } {
  const segments = solved.drawnCurves.get(curve.id)!
  const here = placeOn(segments, at)
  const marks = marksOn(solved, curve.id, segments)
  if (marks.length === 0) return withoutParts(solved.outline, new Set([curve.id]))
  const before = marks.findLast(({ s }) => s <= here)
  const after = marks.find(({ s }) => s > here)
  if (!isRound(curve)) {
    const kept = [
      ...(before ? [{ from: 0, to: before.s, last: before }] : []),
      ...(after ? [{ from: after.s, to: segments.length, first: after }] : []),
    ]
    return redrawn(solved.outline, curve, segments, kept)
  }
  if (marks.length < 2) return { detail: 'This curve is crossed only once; it takes two crossings to cut it.' }
  const [first, last] = [after ?? marks[0]!, before ?? marks.at(-1)!]
  return redrawn(solved.outline, curve, segments, [{ from: first.s, to: last.s, first, last }])
}

/** Makes two curves of an open spline at a place on it, and an open one of a closed one. */
export function splitBent(solved: SolvedOutline, curve: OutlineCurve, at: Vec2): Outline {
  const segments = solved.drawnCurves.get(curve.id)!
  const here = placeOn(segments, at)
  if (isRound(curve)) return redrawn(solved.outline, curve, segments, [{ from: here, to: here }])
  return redrawn(solved.outline, curve, segments, [
    { from: 0, to: here },
    { from: here, to: segments.length },
  ])
}

function isRound(curve: OutlineCurve): boolean {
  return curve.kind === 'ellipse' || isClosed(curve)
}

function placeOn(segments: readonly Segment[], at: Vec2): number {
  let best = { s: 0, distance: Number.POSITIVE_INFINITY }
  segments.forEach((segment, i) => {
    const { t, distance } = nearestOn(segment, at)
    if (distance < best.distance) best = { s: i + t, distance }
  })
  return best.s
}

function marksOn(solved: SolvedOutline, id: string, segments: readonly Segment[]): Mark[] {
  const marks: Mark[] = []
  for (const [other, others] of solved.drawnCurves) {
    if (other === id) continue
    segments.forEach((segment, i) => {
      for (const s of others) for (const { t, at } of crossings(segment, s, 1e-7)) marks.push({ s: i + t, at, other })
    })
  }
  const inner = marks.filter(({ s }) => s > 1e-9 && s < segments.length - 1e-9).sort((a, b) => a.s - b.s)
  return inner.filter((mark, i) => i === 0 || distance2(mark.at, inner[i - 1]!.at) > 1e-6)
}

interface Kept {
  readonly from: number
  /** not after `from` for what goes round past the beginning */
  readonly to: number
  readonly first?: Mark
  readonly last?: Mark
}

function redrawn(outline: Outline, curve: OutlineCurve, segments: readonly Segment[], kept: readonly Kept[]): Outline {
  const sketch = new Sketch(outline, curve.helper)
  for (const each of kept) drawStretch(sketch, curve, segments, each)
  return withoutParts(sketch.outline, new Set([curve.id]))
}

function drawStretch(
  sketch: Sketch,
  curve: OutlineCurve,
  segments: readonly Segment[],
  { from, to, first, last }: Kept,
): void {
  const pieces = (
    to > from ? between(segments, from, to) : [...between(segments, from, segments.length), ...between(segments, 0, to)]
  ).flatMap((s): CubicSegment[] => (s.kind === 'cubic' ? [s] : s.kind === 'line' ? [] : asCubics(s)))
  const cut = (at: Vec2, mark: Mark | undefined) =>
    sketch.point(mark ? { at, hold: { kind: 'on', of: mark.other } } : { at })
  // Its own ends are what other curves are joined to.
  const whole = !isRound(curve)
  let start = whole && from === 0 ? curve.points[0]! : cut(pieces[0]!.points[0], first)
  let before: string | undefined
  pieces.forEach(({ points: [, b, c, d] }, i) => {
    const atEnd = i === pieces.length - 1
    const end = atEnd && whole && to === segments.length ? curve.points.at(-1)! : cut(d, atEnd ? last : undefined)
    const id = sketch.curve('near', [start, sketch.point({ at: b }), sketch.point({ at: c }), end])
    if (before !== undefined) sketch.hold('tangent', [before, id])
    before = id
    start = end
  })
}

/** The stretches from one place to another, segment by segment. */
function between(segments: readonly Segment[], from: number, to: number): Segment[] {
  return segments.flatMap((segment, i): Segment[] => {
    const [t0, t1] = [Math.max(0, from - i), Math.min(1, to - i)]
    return t1 - t0 > 1e-9 ? [stretch(segment, t0, t1)] : []
  })
}
