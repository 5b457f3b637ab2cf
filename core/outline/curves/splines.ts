import { distance2, minus, plus, type Segment, times, type Vec2 } from '../../plane/index.ts'
import type { Ref } from '../constraints/define.ts'
import { bentRef } from './define.ts'

type Make = (points: readonly Vec2[], closed: boolean) => Segment[]

/** A list of points that ends with its first one is closed. */
export function closedUp(points: readonly Vec2[]): { readonly points: readonly Vec2[]; readonly closed: boolean } {
  const closed = points.length > 3 && points[0] === points.at(-1)
  return { points: closed ? points.slice(0, -1) : points, closed }
}

export function splineRef(points: readonly number[], closed: boolean, make: Make): Ref {
  const own = closed ? points.slice(0, -1) : points
  return bentRef(own, undefined, closed ? undefined : [own[0]!, own.at(-1)!], (at) => make(at, closed))
}

const cubic = (a: Vec2, b: Vec2, c: Vec2, d: Vec2): Segment => ({ kind: 'cubic', points: [a, b, c, d] })

/**
 * The cubic spline through points whose direction and curvature go on without a break, natural at open ends (de Boor 1978,
 * ch. IV). Parameters grow with the root of the distance, which keeps it from swinging out between uneven points.
 */
export function through(points: readonly Vec2[], closed: boolean): Segment[] {
  const at = points.filter((p, i) => i === 0 || distance2(p, points[i - 1]!) > 1e-9)
  const n = at.length
  if (n < 2) return []
  const count = closed ? n : n - 1
  const h = Array.from({ length: count }, (_, i) => Math.sqrt(distance2(at[i]!, at[(i + 1) % n]!)) || 1e-9)
  const slopes = closed ? periodicSlopes(at, h) : naturalSlopes(at, h)
  return h.map((step, i) => {
    const [a, d] = [at[i]!, at[(i + 1) % n]!]
    return cubic(a, plus(a, times(slopes[i]!, step / 3)), minus(d, times(slopes[(i + 1) % n]!, step / 3)), d)
  })
}

/** The change per parameter at each point: a tridiagonal system, both coordinates at once. */
function naturalSlopes(at: readonly Vec2[], h: readonly number[]): Vec2[] {
  const n = at.length
  const slope = (i: number) => times(minus(at[i + 1]!, at[i]!), 1 / h[i]!)
  const rows = at.map((_, i): Row => {
    if (i === 0) return { low: 0, mid: 2, high: 1, right: times(slope(0), 3) }
    if (i === n - 1) return { low: 1, mid: 2, high: 0, right: times(slope(n - 2), 3) }
    const [a, b] = [h[i - 1]!, h[i]!]
    return { low: b, mid: 2 * (a + b), high: a, right: plus(times(slope(i - 1), 3 * b), times(slope(i), 3 * a)) }
  })
  return solvedRows(rows)
}

interface Row {
  readonly low: number
  readonly mid: number
  readonly high: number
  readonly right: Vec2
}

function solvedRows(rows: readonly Row[]): Vec2[] {
  const high: number[] = []
  const right: Vec2[] = []
  rows.forEach((row, i) => {
    const mid = row.mid - (i > 0 ? row.low * high[i - 1]! : 0)
    high.push(row.high / mid)
    right.push(times(i > 0 ? minus(row.right, times(right[i - 1]!, row.low)) : row.right, 1 / mid))
  })
  for (let i = rows.length - 2; i >= 0; i--) right[i] = minus(right[i]!, times(right[i + 1]!, high[i]!))
  return right
}

/** Round a closed one (Sherman and Morrison): two tridiagonal systems, the corner entries put back. */
function periodicSlopes(at: readonly Vec2[], h: readonly number[]): Vec2[] {
  const n = at.length
  const before = (i: number) => (i + n - 1) % n
  const slope = (i: number) => times(minus(at[(i + 1) % n]!, at[i]!), 1 / h[i]!)
  const rows = at.map((_, i): Row => {
    const [a, b] = [h[before(i)]!, h[i]!]
    return { low: b, mid: 2 * (a + b), high: a, right: plus(times(slope(before(i)), 3 * b), times(slope(i), 3 * a)) }
  })
  const [low, high] = [rows[0]!.low, rows[n - 1]!.high]
  const gamma = -rows[0]!.mid
  const inner = rows.map((row, i) =>
    i === 0
      ? { ...row, mid: row.mid - gamma, low: 0 }
      : i === n - 1
        ? { ...row, mid: row.mid - (high * low) / gamma, high: 0 }
        : row,
  )
  const y = solvedRows(inner)
  const z = solvedRows(
    inner.map((row, i) => ({ ...row, right: [i === 0 ? gamma : i === n - 1 ? high : 0, 0] as Vec2 })),
  )
  const factor = (k: 0 | 1) => (y[0]![k] + (low * y[n - 1]![k]) / gamma) / (1 + z[0]![0] + (low * z[n - 1]![0]) / gamma)
  const [fx, fy] = [factor(0), factor(1)]
  return y.map((value, i) => [value[0] - fx * z[i]![0], value[1] - fy * z[i]![0]])
}

/**
 * The uniform cubic B-spline that points pull (de Boor 1978, ch. IX), as Bézier pieces; an open one begins and ends in its
 * first and last point, along the way to their neighbours.
 */
export function near(points: readonly Vec2[], closed: boolean): Segment[] {
  const n = points.length
  if (n < 2) return []
  if (!closed && n < 4) {
    const [a, b, c] = points as readonly [Vec2, Vec2, Vec2 | undefined]
    const third = (p: Vec2, q: Vec2) => plus(times(p, 1 / 3), times(q, 2 / 3))
    return c
      ? [cubic(a, third(a, b), third(c, b), c)]
      : [cubic(a, plus(times(a, 2 / 3), times(b, 1 / 3)), third(a, b), b)]
  }
  // An open one has its end points three times; then every piece is made of four neighbours.
  const knots = closed ? undefined : clampedKnots(n)
  if (!knots) {
    return points.map((_, i) => {
      const [p, q, r, s] = [0, 1, 2, 3].map((k) => points[(i + k) % n]!) as [Vec2, Vec2, Vec2, Vec2]
      const mix = (...parts: readonly (readonly [Vec2, number])[]): Vec2 =>
        parts.reduce<Vec2>((sum, [point, share]) => plus(sum, times(point, share / 6)), [0, 0])
      return cubic(mix([p, 1], [q, 4], [r, 1]), mix([q, 4], [r, 2]), mix([q, 2], [r, 4]), mix([q, 1], [r, 4], [s, 1]))
    })
  }
  return Array.from({ length: n - 3 }, (_, i) => {
    // Blossoming: the Bézier points of the piece between knots i + 3 and i + 4.
    const [a, b] = [knots[i + 3]!, knots[i + 4]!]
    const blossom = (...args: readonly [number, number, number]) => blossomed(points, knots, i, args)
    return cubic(blossom(a, a, a), blossom(a, a, b), blossom(a, b, b), blossom(b, b, b))
  })
}

function clampedKnots(n: number): number[] {
  return [0, 0, 0, ...Array.from({ length: n - 2 }, (_, i) => i), n - 3, n - 3, n - 3]
}

/** The polar form of piece `i` (Ramshaw 1987): de Boor's scheme with a parameter of its own at each level. */
function blossomed(
  points: readonly Vec2[],
  knots: readonly number[],
  i: number,
  args: readonly [number, number, number],
): Vec2 {
  let row = points.slice(i, i + 4)
  for (let level = 1; level <= 3; level++) {
    const u = args[level - 1]!
    row = row.slice(1).map((p, k) => {
      const [low, high] = [knots[i + k + level]!, knots[i + k + 4]!]
      const share = (u - low) / (high - low)
      return plus(times(row[k]!, 1 - share), times(p, share))
    })
  }
  return row[0]!
}
