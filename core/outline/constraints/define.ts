import { minus, norm2, plus, times, unit2, type Vec2 } from '../../plane/index.ts'
import type { Measured } from './measured.ts'

/**
 * What a constraint holds together, as places in the list of unknowns `x`: a point is the place of its first coordinate.
 * A spline's `at` gives its points and directions from x.
 */
export type Ref = PointRef | LineRef | RoundRef | BentRef
export interface PointRef {
  readonly kind: 'point'
  readonly p: number
}
export interface LineRef {
  readonly kind: 'line'
  readonly a: number
  readonly b: number
}
/** A circle or arc: its radius is an unknown, or the distance of `s` from the centre `c`. */
export interface RoundRef {
  readonly kind: 'round'
  readonly c: number
  readonly r: number | undefined
  readonly s: number | undefined
  readonly e: number | undefined
}
/**
 * An ellipse or a spline. `apart` is how far a point lies off it, with a sign. `apartNear` gives the same for all that lies
 * close to x, to first order: the place on the curve that is nearest is not looked for again.
 */
export interface BentRef {
  readonly kind: 'bent'
  readonly vars: readonly number[]
  /** of an ellipse: the place of its second semi-axis, mm, and its middle and the end of the first one */
  readonly size?: number | undefined
  readonly axis?: readonly [middle: number, end: number] | undefined
  /** its two ends; undefined where it is closed */
  readonly ends: readonly [number, number] | undefined
  apart(x: Float64Array, p: Vec2): number
  apartNear(x: Float64Array, p: Vec2): (x: Float64Array, p: Vec2) => number
  /** unit direction at its first (0) or last (1) end */
  direction(x: Float64Array, end: 0 | 1): Vec2
}
export type RefKind = 'point' | 'line' | 'round' | 'bent'

/** What a constraint asks of the unknowns: so many numbers that come to zero. All are lengths in mm, or nearly. */
export interface Equation {
  /** places in x that it reads */
  readonly vars: readonly number[]
  readonly count: number
  /** whether its slopes are the same everywhere */
  readonly linear?: boolean
  /** writes its residuals into `out` from `from` on */
  residual(x: Float64Array, out: Float64Array, from: number): void
  /** the same to first order for what lies close to x: for slopes, where residuals take long */
  residualNear?(x: Float64Array): Equation['residual']
}

export interface ConstraintContext {
  /** where everything is as the solving begins: which of several ways is meant is taken from there */
  readonly start: Float64Array
  /** whether two points are one, by being shared or coincident */
  same(p: number, q: number): boolean
  /** whether a point is held on a round by a constraint of its own */
  liesOn(p: number, round: RoundRef): boolean
  /** mm, or degrees for an angle; what a dimension asks for */
  readonly value: number
}

export interface ConstraintDefinition {
  readonly kind: string
  readonly label: string
  /** what it does, in a sentence */
  readonly meaning: string
  /** its sign beside the drawing: SVG path data in a 12 × 12 box */
  readonly sign: string
  /** the combinations of things that it can be put on */
  readonly takes: readonly (readonly RefKind[])[]
  /** of many things at once, the one that the others are held to is of this kind; otherwise it may be of any */
  readonly shared?: RefKind
  /** how many things at once are told apart into groups, by their places among `refs`; undefined where they cannot be */
  spread?(refs: readonly Ref[], x: Float64Array): readonly (readonly number[])[] | undefined
  /** for a dimension: what kind of value it has */
  readonly value?: 'length' | 'angle'
  /** smallest value of a dimension that can be asked for; more than nothing where `above` */
  readonly above?: number
  /** undefined where these things cannot be held together so; `refs` are of a combination that it takes */
  equation(refs: readonly Ref[], context: ConstraintContext): Equation | undefined
  /** what a dimension measures, and where; undefined where it is on nothing that it can measure */
  measured?(refs: readonly Ref[], x: Float64Array, context: Omit<ConstraintContext, 'value'>): Measured | undefined
}

export const at = (x: Float64Array, p: number): Vec2 => [x[p]!, x[p + 1]!]
export const both = (...points: readonly number[]): number[] => points.flatMap((p) => [p, p + 1])

export function radiusOf(x: Float64Array, { c, r, s }: RoundRef): number {
  return r !== undefined ? x[r]! : Math.hypot(x[s!]! - x[c]!, x[s! + 1]! - x[c + 1]!)
}
export function roundVars({ c, r, s }: RoundRef): number[] {
  return r !== undefined ? [c, c + 1, r] : both(c, s!)
}
export const lineVars = ({ a, b }: LineRef): number[] => both(a, b)
export function along(x: Float64Array, { a, b }: LineRef): Vec2 {
  return [x[b]! - x[a]!, x[b + 1]! - x[a + 1]!]
}

/** How far a point lies to the left of a line, mm. */
export function beside(x: Float64Array, { a, b }: LineRef, p: number): number {
  const [dx, dy] = [x[b]! - x[a]!, x[b + 1]! - x[a + 1]!]
  const long = Math.hypot(dx, dy)
  const away = [x[p]! - x[a]!, x[p + 1]! - x[a + 1]!] as const
  return long < 1e-12 ? Math.hypot(away[0], away[1]) : (dx * away[1] - dy * away[0]) / long
}

export const isPoint = (ref: Ref): ref is PointRef => ref.kind === 'point'
export const isLine = (ref: Ref): ref is LineRef => ref.kind === 'line'
export const isRound = (ref: Ref): ref is RoundRef => ref.kind === 'round'

/** The place on a round that is nearest to another one; any of it to its middle. */
export function onRound(x: Float64Array, round: RoundRef, near: Vec2): Vec2 {
  const centre = at(x, round.c)
  const way = minus(near, centre)
  return plus(centre, times(norm2(way) < 1e-12 ? [1, 0] : unit2(way), radiusOf(x, round)))
}

/** The foot of the perpendicular from a place to a line. */
export function footOn(x: Float64Array, line: LineRef, from: Vec2): Vec2 {
  const [start, way] = [at(x, line.a), along(x, line)]
  const long = norm2(way)
  if (long < 1e-12) return start
  const d = times(way, 1 / long)
  const away = minus(from, start)
  return plus(start, times(d, away[0] * d[0] + away[1] * d[1]))
}

/** The two points that a line or a pair of points has. */
export function pairOf(refs: readonly Ref[]): readonly [number, number] {
  const [first, second] = refs as readonly [Ref, Ref]
  if (first.kind === 'line') return [first.a, first.b]
  return [(first as PointRef).p, (second as PointRef).p]
}

/** An equation of one number. */
export function single(vars: readonly number[], value: (x: Float64Array) => number, linear = false): Equation {
  return {
    vars,
    count: 1,
    linear,
    residual(x, out, from) {
      out[from] = value(x)
    },
  }
}

/** An equation of two numbers. */
export function double(vars: readonly number[], value: (x: Float64Array) => Vec2, linear = false): Equation {
  return {
    vars,
    count: 2,
    linear,
    residual(x, out, from) {
      const [a, b] = value(x)
      out[from] = a
      out[from + 1] = b
    },
  }
}
