import { cross2, dot2, minus, norm2, unit2, type Vec2 } from '../../plane/index.ts'
import {
  along,
  at,
  type BentRef,
  beside,
  both,
  type ConstraintContext,
  type ConstraintDefinition,
  type Equation,
  isLine,
  isRound,
  type LineRef,
  lineVars,
  type Ref,
  type RoundRef,
  radiusOf,
  roundVars,
  single,
} from './define.ts'

/** Two curves touch, or run into each other without a corner. */
export const tangent: ConstraintDefinition = {
  kind: 'tangent',
  label: 'tangent',
  meaning: 'Two curves touch; where they share an end, they run into each other without a corner.',
  sign: 'M1 10 H11 M6 10 A3.5 3.5 0 1 1 6.01 10',
  takes: [
    ['line', 'round'],
    ['round', 'round'],
    ['line', 'bent'],
    ['round', 'bent'],
    ['bent', 'bent'],
  ],
  equation(refs, context) {
    const [one, two] = refs as readonly [Ref, Ref]
    const shared = sharedEnd(one, two, context)
    if (shared) return smooth(one, two, shared)
    if (isLine(one) && isRound(two)) return touching(one, two, context)
    if (isRound(one) && isRound(two)) return rounds(one, two, context)
    return undefined
  },
}

interface Shared {
  readonly p: number
  readonly q: number
  readonly ends: readonly [0 | 1, 0 | 1]
}

function endsOf(ref: Ref): readonly [number, number] | undefined {
  switch (ref.kind) {
    case 'line':
      return [ref.a, ref.b]
    case 'round':
      return ref.s === undefined || ref.e === undefined ? undefined : [ref.s, ref.e]
    case 'bent':
      return ref.ends
    default:
      return undefined
  }
}

/** Where they meet, if that is a point of the drawing. */
function sharedEnd(one: Ref, two: Ref, { same, liesOn }: ConstraintContext): Shared | undefined {
  const [a, b] = [endsOf(one), endsOf(two)]
  for (const i of [0, 1] as const)
    for (const k of [0, 1] as const) if (a && b && same(a[i], b[k])) return { p: a[i], q: b[k], ends: [i, k] }
  // An end of one that is held on the other, which is round, is where they touch: asked so, it is found exactly.
  for (const i of [0, 1] as const) {
    if (a && isRound(two) && liesOn(a[i], two)) return { p: a[i], q: a[i], ends: [i, 0] }
    if (b && isRound(one) && liesOn(b[i], one)) return { p: b[i], q: b[i], ends: [0, i] }
  }
  return undefined
}

/** The directions of both curves where they meet lie in one line. */
function smooth(one: Ref, two: Ref, { p, q, ends }: Shared): Equation {
  const size = (x: Float64Array) => Math.sqrt(lengthScale(one, x) * lengthScale(two, x))
  return single(
    [...varsOf(one, p), ...varsOf(two, q)],
    (x) => cross2(directionOf(one, p, ends[0], x), directionOf(two, q, ends[1], x)) * size(x),
  )
}

function varsOf(ref: Ref, end: number): number[] {
  switch (ref.kind) {
    case 'line':
      return lineVars(ref)
    case 'round':
      return both(ref.c, end)
    case 'bent':
      return [...ref.vars]
    default:
      return []
  }
}

function directionOf(ref: Ref, end: number, which: 0 | 1, x: Float64Array): Vec2 {
  switch (ref.kind) {
    case 'line':
      return unit2(along(x, ref))
    case 'round': {
      const [dx, dy] = unit2(minus(at(x, end), at(x, ref.c)))
      return [-dy, dx]
    }
    default:
      return (ref as BentRef).direction(x, which)
  }
}

/** What a small turn of the direction comes to, mm. */
function lengthScale(ref: Ref, x: Float64Array): number {
  if (ref.kind === 'line') return Math.max(1e-3, norm2(along(x, ref)))
  return ref.kind === 'round' ? Math.max(1e-3, radiusOf(x, ref)) : 1
}

/** The side of the line that the middle lies on is kept. */
function touching(one: LineRef, two: RoundRef, { start }: ConstraintContext): Equation {
  const side = beside(start, one, two.c) < 0 ? -1 : 1
  return single([...lineVars(one), ...roundVars(two)], (x) => side * beside(x, one, two.c) - radiusOf(x, two))
}

/** Beside each other or one within the other, whichever is nearer. */
function rounds(one: RoundRef, two: RoundRef, { start }: ConstraintContext): Equation {
  const apart = (x: Float64Array) => {
    const away = minus(at(x, two.c), at(x, one.c))
    return Math.sqrt(dot2(away, away))
  }
  const [r, s, far] = [radiusOf(start, one), radiusOf(start, two), apart(start)]
  const outside = Math.abs(far - (r + s)) <= Math.abs(far - Math.abs(r - s))
  const larger = r >= s ? 1 : -1
  return single([...roundVars(one), ...roundVars(two)], (x) => {
    const [a, b] = [radiusOf(x, one), radiusOf(x, two)]
    return apart(x) - (outside ? a + b : larger * (a - b))
  })
}
