import { distance2, leftOf, minus, plus, times, type Vec2 } from '../../plane/index.ts'
import {
  along,
  at,
  beside,
  both,
  type ConstraintDefinition,
  footOn,
  isLine,
  isPoint,
  isRound,
  type LineRef,
  lineVars,
  onRound,
  pairOf,
  type Ref,
  type RoundRef,
  radiusOf,
  roundVars,
  single,
} from './define.ts'

/** The length of a line, and how far points, parallel lines and rounds are apart; to rounds it is measured where they are nearest. */
export const distance: ConstraintDefinition = {
  kind: 'distance',
  label: 'distance',
  meaning:
    'How long a line is, or how far two points, a point and a line, two parallel lines, or a round and any of these are apart, where they are nearest.',
  sign: 'M1 2 V10 M11 2 V10 M1 6 H11 M3 4.5 L1 6 L3 7.5 M9 4.5 L11 6 L9 7.5',
  takes: [
    ['line'],
    ['point', 'point'],
    ['point', 'line'],
    ['line', 'line'],
    ['point', 'round'],
    ['line', 'round'],
    ['round', 'round'],
  ],
  value: 'length',
  above: 0,
  equation(refs, { value, start }) {
    const gap = gapOf(refs, start)
    if (gap) return single(gap.vars, (x) => gap.at(x) - value)
    const off = fromLine(refs)
    if (off) {
      const side = beside(start, off.line, off.p) < 0 ? -1 : 1
      return single([...both(off.p), ...lineVars(off.line)], (x) => side * beside(x, off.line, off.p) - value)
    }
    const [a, b] = pairOf(refs)
    return single(both(a, b), (x) => Math.hypot(x[b]! - x[a]!, x[b + 1]! - x[a + 1]!) - value)
  },
  measured(refs, x) {
    const [from, to] = nearestPlaces(refs, x)
    return { kind: 'length', from, to }
  },
}

/** Where two things are nearest to each other, as far as this is measured between them. */
function nearestPlaces(refs: readonly Ref[], x: Float64Array): readonly [Vec2, Vec2] {
  const [one, round] = refs
  if (one && round && isRound(round)) {
    if (isPoint(one)) return [at(x, one.p), onRound(x, round, at(x, one.p))]
    const middle = at(x, round.c)
    if (isLine(one)) {
      const foot = footOn(x, one, middle)
      // Of a line through the middle either side is as near, square to it.
      const beyond = distance2(foot, middle) < 1e-9 ? plus(middle, leftOf(along(x, one))) : foot
      return [foot, onRound(x, round, beyond)]
    }
    if (isRound(one)) return nearestOnRounds(x, one, round)
  }
  const off = fromLine(refs)
  if (off) return [at(x, off.p), footOn(x, off.line, at(x, off.p))]
  const [a, b] = pairOf(refs)
  return [at(x, a), at(x, b)]
}

function nearestOnRounds(x: Float64Array, one: RoundRef, other: RoundRef): readonly [Vec2, Vec2] {
  const [c, d] = [at(x, one.c), at(x, other.c)]
  const [r, s] = [radiusOf(x, one), radiusOf(x, other)]
  const away = distance2(c, d)
  const way: Vec2 = away < 1e-12 ? [1, 0] : times(minus(d, c), 1 / away)
  // One within the other: on that side of both to which the inner one lies.
  const [out, back] = away > Math.max(r, s) ? [1, -1] : r > s ? [1, 1] : [-1, -1]
  return [plus(c, times(way, out * r)), plus(d, times(way, back * s))]
}

interface Gap {
  readonly vars: readonly number[]
  at(x: Float64Array): number
}

/**
 * From a round to something else; which side of the round it is measured on is taken from where things are as the solving
 * begins, so that nothing jumps to another side:
 *
 *      outside   middle to middle, less the radii; how far they reach into each other where they cross
 *      inside    the larger radius, less the smaller one and the way from middle to middle
 */
function gapOf(refs: readonly Ref[], start: Float64Array): Gap | undefined {
  const [one, round] = refs
  if (!one || !round || !isRound(round)) return undefined
  if (isLine(one)) {
    const side = beside(start, one, round.c) < 0 ? -1 : 1
    return {
      vars: [...lineVars(one), ...roundVars(round)],
      at: positive((x) => side * beside(x, one, round.c) - radiusOf(x, round), start),
    }
  }
  if (isPoint(one)) {
    return {
      vars: [...both(one.p), ...roundVars(round)],
      at: positive((x) => apart(x, one.p, round.c) - radiusOf(x, round), start),
    }
  }
  return isRound(one) ? betweenRounds(one, round, start) : undefined
}

function betweenRounds(one: RoundRef, other: RoundRef, start: Float64Array): Gap {
  const vars = [...roundVars(one), ...roundVars(other)]
  const away = (x: Float64Array) => apart(x, one.c, other.c)
  const [r, s] = [radiusOf(start, one), radiusOf(start, other)]
  if (away(start) > Math.max(r, s))
    return { vars, at: positive((x) => away(x) - radiusOf(x, one) - radiusOf(x, other), start) }
  const [outer, inner] = r > s ? [one, other] : [other, one]
  return { vars, at: positive((x) => radiusOf(x, outer) - radiusOf(x, inner) - away(x), start) }
}

/** With the sign that makes it positive as the solving begins. */
function positive(gap: Gap['at'], start: Float64Array): Gap['at'] {
  return gap(start) < 0 ? (x) => -gap(x) : gap
}

function apart(x: Float64Array, p: number, q: number): number {
  return Math.hypot(x[q]! - x[p]!, x[q + 1]! - x[p + 1]!)
}

/** The point and the line where something is measured from a line; of two lines, the first end of the second one. */
function fromLine(refs: readonly Ref[]): { readonly p: number; readonly line: LineRef } | undefined {
  const [one, two] = refs
  if (!two || !one) return undefined
  if (isLine(one) && isLine(two)) return { p: two.a, line: one }
  return isPoint(one) && isLine(two) ? { p: one.p, line: two } : undefined
}
