import type { Outline, OutlineCurve } from '../document/index.ts'
import {
  asCubics,
  type CubicSegment,
  crossings,
  distance2,
  endOf,
  nearestOn,
  reversed,
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

/**
 * Lengthens an open spline at the end nearer to a place, as far as the next curve in its way: its last cubic goes on as it
 * bends. A spline of one cubic stays one; others get one more that runs out of them without a corner.
 */
export function extendedBent(
  solved: SolvedOutline,
  curve: OutlineCurve,
  at: Vec2,
): Outline | { readonly detail: string } {
  if (isRound(curve)) return { detail: 'A closed curve has no end to lengthen.' }
  const segments = solved.drawnCurves.get(curve.id)!
  const atEnd = placeOn(segments, at) >= segments.length / 2
  const last = atEnd ? segments.at(-1)! : reversed(segments[0]!)
  const end = curve.points.at(atEnd ? -1 : 0)!
  if (last.kind !== 'cubic') return { detail: 'There is nothing to lengthen here.' }
  if (solved.outline.curves.filter(({ points }) => points.includes(end)).length > 1)
    return { detail: 'This end is joined to another curve already.' }
  const next = nextInWay(solved, curve.id, last)
  if (!next) return { detail: 'Nothing lies in the way of this end.' }
  const { t, other } = next
  if (segments.length === 1 && curve.kind === 'near' && curve.points.length === 4) {
    const { points } = longer(last, 0, t)
    const places = new Map((atEnd ? curve.points : [...curve.points].reverse()).map((id, i) => [id, points[i]!]))
    const moved = solved.outline.points.map((each) => ({ ...each, at: places.get(each.id) ?? each.at }))
    const sketch = new Sketch({ ...solved.outline, points: moved })
    sketch.hold('on', [end, other])
    return sketch.outline
  }
  const [, b, c, d] = longer(last, 1, t).points
  const sketch = new Sketch(solved.outline, curve.helper)
  const far = sketch.point({ at: d, hold: { kind: 'on', of: other } })
  const more = sketch.curve('near', [end, sketch.point({ at: b }), sketch.point({ at: c }), far])
  sketch.hold('tangent', [curve.id, more])
  return sketch.outline
}

/** The cubic from one parameter to another, past its ends as well: it goes on as the polynomial that it is. */
function longer(cubic: CubicSegment, from: number, to: number): CubicSegment {
  return stretch(cubic, from, to) as CubicSegment
}

/** Where the way on from a cubic's end first meets another curve; its parameters go on from 1. */
function nextInWay(
  solved: SolvedOutline,
  id: string,
  last: CubicSegment,
): { readonly t: number; readonly other: string } | undefined {
  const end = endOf(last)
  // In stretches, so that chords stay short near the end, where the way on is still like the curve.
  for (let from = 1; from < 12; from = 1 + (from - 1) * 1.6 + 0.25) {
    const to = 1 + (from - 1) * 1.6 + 0.25
    const way = longer(last, from, to)
    const found = [...solved.drawnCurves]
      .filter(([other]) => other !== id)
      .flatMap(([other, others]) =>
        others.flatMap((s) => crossings(way, s, 1e-7).map((crossing) => ({ ...crossing, other }))),
      )
      .filter((crossing) => distance2(crossing.at, end) > 1e-6)
      .sort((a, b) => a.t - b.t)
    if (found[0]) return { t: from + found[0].t * (to - from), other: found[0].other }
  }
  return undefined
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
