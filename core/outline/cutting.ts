import type { Outline, OutlineCurve } from '../document/index.ts'
import {
  arcBetween,
  crossings,
  distance2,
  line,
  minus,
  nearestOn,
  plus,
  pointAt,
  type Segment,
  startOf,
  times,
  unit2,
  type Vec2,
} from '../plane/index.ts'
import { extendedBent, splitBent, trimmedBent } from './cuttingBent.ts'
import { Sketch, withoutParts } from './sketch.ts'
import type { SolvedOutline } from './solved.ts'

/** What cannot be cut, in words. */
export interface CannotCut {
  readonly detail: string
}
export type Cut = Outline | CannotCut
export const isCut = (result: Cut): result is Outline => !('detail' in result)

interface Mark {
  readonly t: number
  readonly at: Vec2
  /** what is crossed there; undefined at an end of the curve itself */
  readonly other: string | undefined
}

/** Where a curve meets all others, along its way. */
function marksOn(solved: SolvedOutline, id: string, segment: Segment): Mark[] {
  const marks: Mark[] = []
  for (const [other, segments] of solved.drawnCurves) {
    if (other === id) continue
    for (const s of segments) for (const { t, at } of crossings(segment, s, 1e-7)) marks.push({ t, at, other })
  }
  return marks.sort((a, b) => a.t - b.t)
}

type Sole = { readonly curve: OutlineCurve; readonly segment: Segment }

/** A line, arc or circle; `bent` what else can be cut, as several segments. */
function soleSegment(solved: SolvedOutline, id: string): Sole | { readonly bent: OutlineCurve } | CannotCut {
  const curve = solved.outline.curves.find((each) => each.id === id)
  const [segment, ...more] = solved.drawnCurves.get(id) ?? []
  if (!curve || !segment) return { detail: 'There is nothing to cut here.' }
  if (curve.kind === 'letters') return { detail: 'Letters are not cut; leave out a region of this drawing instead.' }
  if (more.length > 0 || (segment.kind !== 'line' && segment.kind !== 'arc')) return { bent: curve }
  return { curve, segment }
}

/** Takes out the stretch of a curve between the crossings to both sides of a place. */
export function trimmed(solved: SolvedOutline, id: string, at: Vec2): Cut {
  const sole = soleSegment(solved, id)
  if ('detail' in sole) return sole
  if ('bent' in sole) return trimmedBent(solved, sole.bent, at)
  const { curve, segment } = sole
  const here = nearestOn(segment, at).t
  const marks = marksOn(solved, id, segment)
  if (curve.kind === 'circle') return trimmedCircle(solved, curve, marks, here)
  const inner = marks.filter(({ t }) => t > 1e-9 && t < 1 - 1e-9)
  const before = inner.findLast(({ t }) => t <= here)
  const after = inner.find(({ t }) => t > here)
  if (!before && !after) return withoutParts(solved.outline, new Set([id]))
  const sketch = new Sketch(solved.outline, curve.helper)
  const [first, last] = curve.kind === 'line' ? curve.points : curve.points.slice(1)
  const ended = (mark: Mark) => sketch.point({ at: mark.at, hold: { kind: 'on', of: mark.other! } })
  const piece = (from: string, to: string) => (curve.kind === 'line' ? [from, to] : [curve.points[0]!, from, to])
  const pieces = [...(before ? [piece(first!, ended(before))] : []), ...(after ? [piece(ended(after), last!)] : [])]
  return replaced(sketch, curve, pieces)
}

function trimmedCircle(solved: SolvedOutline, curve: OutlineCurve, marks: readonly Mark[], here: number): Cut {
  const places = marks.filter((mark, i) => i === 0 || distance2(mark.at, marks[i - 1]!.at) > 1e-6)
  if (places.length < 2)
    return places.length === 0
      ? withoutParts(solved.outline, new Set([curve.id]))
      : { detail: 'This circle is crossed only once; it takes two crossings to cut it.' }
  const after = places.find(({ t }) => t > here) ?? places[0]!
  const before = places.findLast(({ t }) => t <= here) ?? places.at(-1)!
  const sketch = new Sketch(solved.outline, curve.helper)
  const end = (mark: Mark) => sketch.point({ at: mark.at, hold: { kind: 'on', of: mark.other! } })
  const points = [curve.points[0]!, end(after), end(before)]
  // The circle becomes an arc under its own id, so that what was put on it still holds.
  return withCurve(sketch.outline, curve.id, ({ size: _, ...rest }) => ({ ...rest, kind: 'arc', points }))
}

function withCurve(outline: Outline, id: string, change: (curve: OutlineCurve) => OutlineCurve): Outline {
  return { ...outline, curves: outline.curves.map((curve) => (curve.id === id ? change(curve) : curve)) }
}

/** The curve as its first piece, further pieces as curves of their own; points that nothing has any more are gone. */
function replaced(sketch: Sketch, curve: OutlineCurve, [first, ...more]: readonly (readonly string[])[]): Outline {
  for (const points of more) sketch.curve(curve.kind, points, { helper: curve.helper })
  const changed = withCurve(sketch.outline, curve.id, (own) => ({ ...own, points: first! }))
  const used = new Set(changed.curves.flatMap(({ points }) => points))
  const dropped = curve.points.filter((p) => !used.has(p))
  return withoutParts(changed, new Set(dropped))
}

/** Lengthens a line, arc or open spline at the end nearer to a place, as far as the next curve in its way. */
export function extended(solved: SolvedOutline, id: string, at: Vec2): Cut {
  const sole = soleSegment(solved, id)
  if ('detail' in sole) return sole
  if ('bent' in sole) return extendedBent(solved, sole.bent, at)
  const { curve, segment } = sole
  if (curve.kind === 'circle') return { detail: 'A circle has no end to lengthen.' }
  const ends = curve.kind === 'line' ? curve.points : curve.points.slice(1)
  const atEnd = nearestOn(segment, at).t >= 0.5
  const point = ends[atEnd ? 1 : 0]!
  if (solved.outline.curves.filter(({ points }) => points.includes(point)).length > 1)
    return { detail: 'This end is joined to another curve already.' }
  const way = lengthened(segment, atEnd)
  const from = pointAt(segment, atEnd ? 1 : 0)
  const [next] = marksOn(solved, id, way)
    .filter((mark) => distance2(mark.at, from) > 1e-6)
    .sort((a, b) => a.t - b.t)
  if (!next) return { detail: 'Nothing lies in the way of this end.' }
  const moved: Outline = {
    ...solved.outline,
    points: solved.outline.points.map((each) => (each.id === point ? { ...each, at: [next.at[0], next.at[1]] } : each)),
  }
  const sketch = new Sketch(moved)
  sketch.hold('on', [point, next.other!])
  return sketch.outline
}

/** The way on from an end: a long line, or the rest of the circle. */
function lengthened(segment: Segment, atEnd: boolean): Segment {
  if (segment.kind === 'line') {
    const [from, to] = atEnd ? [segment.from, segment.to] : [segment.to, segment.from]
    return line(to, plus(to, times(unit2(minus(to, from)), 1e5)))
  }
  const arc = segment as Extract<Segment, { kind: 'arc' }>
  const [end, start] = [pointAt(arc, 1), startOf(arc)]
  return atEnd
    ? arcBetween(arc.centre, end, start, arc.sweepRad > 0)
    : arcBetween(arc.centre, start, end, arc.sweepRad < 0)
}

/** Makes two curves of one at a place on it. */
export function split(solved: SolvedOutline, id: string, at: Vec2): Cut {
  const sole = soleSegment(solved, id)
  if ('detail' in sole) return sole
  if ('bent' in sole) return splitBent(solved, sole.bent, at)
  const { curve, segment } = sole
  const { t } = nearestOn(segment, at)
  if (curve.kind !== 'circle' && (t < 1e-6 || t > 1 - 1e-6)) return { detail: 'It ends here already.' }
  const sketch = new Sketch(solved.outline, curve.helper)
  const middle = sketch.point({ at: pointAt(segment, t) })
  if (curve.kind === 'circle') {
    const far = sketch.point({ at: pointAt(segment, (t + 0.5) % 1) })
    const centre = curve.points[0]!
    sketch.curve('arc', [centre, far, middle])
    return withCurve(sketch.outline, id, ({ size: _, ...rest }) => ({
      ...rest,
      kind: 'arc',
      points: [centre, middle, far],
    }))
  }
  const [first, last] = curve.kind === 'line' ? curve.points : curve.points.slice(1)
  const piece = (from: string, to: string) => (curve.kind === 'line' ? [from, to] : [curve.points[0]!, from, to])
  return replaced(sketch, curve, [piece(first!, middle), piece(middle, last!)])
}
