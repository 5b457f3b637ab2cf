import type { Fields, ValuesOf } from '../../fields/index.ts'
import { cross2, directionAt, minus, nearestOn, pointAt, type Segment, type Vec2 } from '../../plane/index.ts'
import type { BentRef, Equation, Ref } from '../constraints/define.ts'

export interface CurveDefinition<F extends Fields = Fields> {
  readonly kind: string
  readonly label: string
  /** how it is drawn, in a sentence */
  readonly meaning: string
  /** SVG path data in a 16 × 16 box */
  readonly icon: string
  /** how many points it has; the first and last one may be the same where it can be closed */
  readonly points: { readonly least: number; readonly most: number }
  /** what its size is called, where it has one */
  readonly size?: string
  readonly fields?: F
  /** what constraints see of it; `points` are places in the unknowns. Undefined where none can be put on it */
  ref?(points: readonly number[], size: number | undefined, closed: boolean): Ref
  /** what holds of its points by itself */
  own?(points: readonly number[]): Equation
  /** its true curves, one behind the other; empty where its points make none */
  segments(points: readonly Vec2[], size: number, values: ValuesOf<F>): Segment[]
}

export function defineCurve<const F extends Fields>(definition: CurveDefinition<F>): CurveDefinition {
  return definition as unknown as CurveDefinition
}

/** The segment that comes nearest to a point, and where on it. */
function nearestOf(segments: readonly Segment[], p: Vec2) {
  let best: { readonly index: number; readonly t: number; readonly distance: number } | undefined
  for (const [index, segment] of segments.entries()) {
    if (best && hullDistance(segment, p) >= best.distance) continue
    const near = nearestOn(segment, p)
    if (!best || near.distance < best.distance) best = { index, ...near }
  }
  return best
}

/** No more than how far a cubic is from a point: it lies in the box of its four points. 0 for others. */
function hullDistance(s: Segment, [x, y]: Vec2): number {
  if (s.kind !== 'cubic') return 0
  const [[ax, ay], [bx, by], [cx, cy], [dx, dy]] = s.points
  const beyond = (at: number, low: number, high: number) => Math.max(0, low - at, at - high)
  return Math.hypot(
    beyond(x, Math.min(ax, bx, cx, dx), Math.max(ax, bx, cx, dx)),
    beyond(y, Math.min(ay, by, cy, dy), Math.max(ay, by, cy, dy)),
  )
}

/** To its left is positive, so that it goes through zero without a bend, mm. */
function leftOfCurve(s: Segment, t: number, p: Vec2): number {
  return cross2(directionAt(s, t), minus(p, pointAt(s, t)))
}

/** What constraints see of a curve that is neither straight nor round. */
export function bentRef(
  points: readonly number[],
  size: number | undefined,
  ends: readonly [number, number] | undefined,
  segments: (points: readonly Vec2[], size: number) => readonly Segment[],
): BentRef {
  const of = (x: Float64Array) =>
    segments(
      points.map((p) => [x[p]!, x[p + 1]!]),
      size === undefined ? 0 : x[size]!,
    )
  return {
    kind: 'bent',
    vars: [...points.flatMap((p) => [p, p + 1]), ...(size === undefined ? [] : [size])],
    size,
    ends,
    apart(x, p) {
      const all = of(x)
      const best = nearestOf(all, p)
      return best ? leftOfCurve(all[best.index]!, best.t, p) : 0
    },
    apartNear(x, p) {
      // How far it is changes with the place of what is nearest to the second order only.
      const best = nearestOf(of(x), p)
      return (nearby, q) => {
        const segment = best && of(nearby)[best.index]
        return segment ? leftOfCurve(segment, best.t, q) : 0
      }
    },
    direction(x, end) {
      const all = of(x)
      return all.length === 0 ? [1, 0] : end === 0 ? directionAt(all[0]!, 0) : directionAt(all.at(-1)!, 1)
    },
  }
}
