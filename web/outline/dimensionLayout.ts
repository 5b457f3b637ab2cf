import type { OutlineConstraint } from '@makrel/core/document'
import { refsOf, type SolvedOutline } from '@makrel/core/outline'
import { dot2, leftOf, minus, norm2, plus, times, unit2, type Vec2 } from '@makrel/core/plane'
import { type PlaneView, toScreen } from './view.ts'

/** A dimension on the screen: thin lines, arrowheads, and where its number stands. */
export interface DimensionLayout {
  readonly lines: readonly (readonly [Vec2, Vec2])[]
  readonly arrows: readonly { readonly tip: Vec2; readonly towards: Vec2 }[]
  /** SVG path data of an arc */
  readonly arc?: string
  readonly text: Vec2
  /** the middle of what it measures, mm, from which its label's place is counted */
  readonly middle: Vec2
}

/** Distance of a dimension line from what it measures where its number was not moved, pixels. */
const standOff = 34

/** How a dimension is drawn; undefined where it is on nothing that can be measured. */
export function dimensionLayout(
  solved: SolvedOutline,
  constraint: OutlineConstraint,
  view: PlaneView,
): DimensionLayout | undefined {
  const { x } = solved.solution
  const refs = constraint.of.map(refsOf(solved.system))
  if (refs.some((ref) => ref === undefined)) return undefined
  const at = (p: number): Vec2 => [x[p]!, x[p + 1]!]
  const [one, two] = refs as [NonNullable<(typeof refs)[0]>, (typeof refs)[0]]
  switch (constraint.kind) {
    case 'radius':
    case 'diameter': {
      if (one.kind !== 'round') return undefined
      const r = one.r === undefined ? norm2(minus(at(one.s!), at(one.c))) : x[one.r]!
      return roundLayout(at(one.c), r, constraint, view)
    }
    case 'angle':
      return one.kind === 'line' && two?.kind === 'line'
        ? angleLayout([at(one.a), at(one.b)], [at(two.a), at(two.b)], constraint, view)
        : undefined
    default: {
      const ends = endsOf(one, two, at)
      return ends && linearLayout(ends, constraint, view, centreOf(solved))
    }
  }
}

type AnyRef = NonNullable<ReturnType<ReturnType<typeof refsOf>>>

function endsOf(one: AnyRef, two: AnyRef | undefined, at: (p: number) => Vec2): readonly [Vec2, Vec2] | undefined {
  if (one.kind === 'line' && !two) return [at(one.a), at(one.b)]
  if (one.kind === 'point' && two?.kind === 'point') return [at(one.p), at(two.p)]
  const line = one.kind === 'line' ? one : two?.kind === 'line' ? two : undefined
  const point = one.kind === 'point' ? one.p : two?.kind === 'line' && one.kind === 'line' ? two.a : undefined
  if (!line || point === undefined) return undefined
  const d = unit2(minus(at(line.b), at(line.a)))
  const p = at(point)
  return [p, plus(at(line.a), times(d, dot2(minus(p, at(line.a)), d)))]
}

function centreOf({ points, outline }: SolvedOutline): Vec2 {
  const all = outline.points.map(({ id }) => points.get(id)!)
  return all.length === 0
    ? [0, 0]
    : [all.reduce((s, p) => s + p[0], 0) / all.length, all.reduce((s, p) => s + p[1], 0) / all.length]
}

function linearLayout(
  [a, b]: readonly [Vec2, Vec2],
  { kind, label }: OutlineConstraint,
  view: PlaneView,
  centre: Vec2,
): DimensionLayout {
  const middle = times(plus(a, b), 0.5)
  const way: Vec2 = kind === 'distance-x' ? [1, 0] : kind === 'distance-y' ? [0, 1] : unit2(minus(b, a))
  const out = leftOf(way)
  // Away from the rest of the drawing, unless it was put somewhere.
  const side = dot2(minus(middle, centre), out) < 0 ? -1 : 1
  const off = label ? dot2(label, out) : (side * standOff) / view.scale
  const level = dot2(middle, out) + off
  const onLine = (p: Vec2) => plus(times(way, dot2(p, way)), times(out, level))
  const [p, q] = [onLine(a), onLine(b)]
  const text = label ? plus(times(way, dot2(plus(middle, label), way)), times(out, level)) : times(plus(p, q), 0.5)
  const screen = (v: Vec2) => toScreen(view, v)
  const past = (from: Vec2, to: Vec2): Vec2 => {
    const d = minus(to, from)
    const long = norm2(d)
    return long < 1e-9 ? to : plus(to, times(d, 5 / view.scale / long))
  }
  const long = norm2(minus(q, p)) * view.scale
  return {
    lines: [
      [screen(a), screen(past(a, p))],
      [screen(b), screen(past(b, q))],
      [screen(p), screen(q)],
      ...(label ? [[screen(times(plus(p, q), 0.5)), screen(text)] as const] : []),
    ],
    arrows:
      long > 24
        ? [
            { tip: screen(p), towards: screen(q) },
            { tip: screen(q), towards: screen(p) },
          ]
        : [],
    text: screen(text),
    middle,
  }
}

function roundLayout(centre: Vec2, r: number, { kind, label }: OutlineConstraint, view: PlaneView): DimensionLayout {
  const way = label && norm2(label) > 1e-9 ? unit2(label) : unit2([1, 1])
  const rim = plus(centre, times(way, r))
  const far = label && norm2(label) > r ? plus(centre, label) : plus(rim, times(way, 26 / view.scale))
  const from = kind === 'diameter' ? minus(centre, times(way, r)) : centre
  const screen = (v: Vec2) => toScreen(view, v)
  return {
    lines: [[screen(from), screen(far)]],
    arrows: [
      { tip: screen(rim), towards: screen(centre) },
      ...(kind === 'diameter' ? [{ tip: screen(from), towards: screen(centre) }] : []),
    ],
    text: screen(plus(far, times(way, 12 / view.scale))),
    middle: centre,
  }
}

function angleLayout(
  [a, b]: readonly [Vec2, Vec2],
  [c, d]: readonly [Vec2, Vec2],
  { label }: OutlineConstraint,
  view: PlaneView,
): DimensionLayout | undefined {
  const [u, v] = [minus(b, a), minus(d, c)]
  const turn = u[0] * v[1] - u[1] * v[0]
  if (Math.abs(turn) < 1e-9) return undefined
  const t = ((c[0] - a[0]) * v[1] - (c[1] - a[1]) * v[0]) / turn
  const corner = plus(a, times(u, t))
  // Along the legs, away from where they meet.
  const leg = (p: Vec2, q: Vec2) => unit2(minus(norm2(minus(q, corner)) > norm2(minus(p, corner)) ? q : p, corner))
  const [m, n] = [leg(a, b), leg(c, d)]
  const r = label ? Math.max(norm2(label), 8 / view.scale) : 40 / view.scale
  const middle = unit2(plus(m, n))
  const [p, q] = [plus(corner, times(m, r)), plus(corner, times(n, r))]
  const screen = (w: Vec2) => toScreen(view, w)
  const [ps, qs] = [screen(p), screen(q)]
  const flag = m[0] * n[1] - m[1] * n[0] > 0 ? 0 : 1
  return {
    lines: [],
    arrows: [],
    arc: `M${ps[0]} ${ps[1]}A${r * view.scale} ${r * view.scale} 0 0 ${flag} ${qs[0]} ${qs[1]}`,
    text: screen(plus(corner, times(middle, r))),
    middle: corner,
  }
}
