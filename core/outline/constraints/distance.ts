import {
  beside,
  both,
  type ConstraintDefinition,
  isLine,
  isPoint,
  isRound,
  type LineRef,
  lineVars,
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
    const gap = gapOf(refs, x)
    if (gap) return Math.abs(gap.at(x))
    const off = fromLine(refs)
    if (off) return Math.abs(beside(x, off.line, off.p))
    const [a, b] = pairOf(refs)
    return Math.hypot(x[b]! - x[a]!, x[b + 1]! - x[a + 1]!)
  },
}

interface Gap {
  readonly vars: readonly number[]
  at(x: Float64Array): number
}

/**
 * From a round to something else; which side of the round it is measured on is taken from where things are as the solving
 * begins:
 *
 *      outside   middle to middle, less the radii
 *      inside    the larger radius, less the smaller one and the way from middle to middle
 */
function gapOf(refs: readonly Ref[], start: Float64Array): Gap | undefined {
  const [one, round] = refs
  if (!one || !round || !isRound(round)) return undefined
  if (isLine(one)) {
    const side = beside(start, one, round.c) < 0 ? -1 : 1
    return {
      vars: [...lineVars(one), ...roundVars(round)],
      at: (x) => side * beside(x, one, round.c) - radiusOf(x, round),
    }
  }
  if (isPoint(one)) {
    const away = (x: Float64Array) => apart(x, one.p, round.c)
    const inside = away(start) < radiusOf(start, round)
    return {
      vars: [...both(one.p), ...roundVars(round)],
      at: (x) => (inside ? -1 : 1) * (away(x) - radiusOf(x, round)),
    }
  }
  return isRound(one) ? betweenRounds(one, round, start) : undefined
}

function betweenRounds(one: RoundRef, other: RoundRef, start: Float64Array): Gap {
  const vars = [...roundVars(one), ...roundVars(other)]
  const away = (x: Float64Array) => apart(x, one.c, other.c)
  const [r, s] = [radiusOf(start, one), radiusOf(start, other)]
  if (away(start) > Math.max(r, s)) return { vars, at: (x) => away(x) - radiusOf(x, one) - radiusOf(x, other) }
  const [outer, inner] = r > s ? [one, other] : [other, one]
  return { vars, at: (x) => radiusOf(x, outer) - radiusOf(x, inner) - away(x) }
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
