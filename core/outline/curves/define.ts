import type { Fields, ValuesOf } from '../../fields/index.ts'
import { cross2, directionAt, minus, nearestOn, pointAt, type Segment, type Vec2 } from '../../plane/index.ts'
import type { BentRef, Equation, Ref } from '../constraints/define.ts'

export interface CurveDefinition<F extends Fields = Fields> {
  readonly kind: string
  readonly label: string
  /** how it is drawn, in a sentence */
  readonly meaning: string
  /** SVG path data in a 16 × 16 box */
  readonly drawing: string
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
    ends,
    apart(x, p) {
      let best: { readonly segment: Segment; readonly t: number; readonly distance: number } | undefined
      for (const segment of of(x)) {
        const near = nearestOn(segment, p)
        if (!best || near.distance < best.distance) best = { segment, ...near }
      }
      if (!best) return 0
      // To its left is positive, so that it goes through zero without a bend.
      return cross2(directionAt(best.segment, best.t), minus(p, pointAt(best.segment, best.t)))
    },
    direction(x, end) {
      const all = of(x)
      return all.length === 0 ? [1, 0] : end === 0 ? directionAt(all[0]!, 0) : directionAt(all.at(-1)!, 1)
    },
  }
}
