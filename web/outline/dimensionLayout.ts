import type { OutlineConstraint } from '@makrel/core/document'
import { type Measured, measuredPlace, type SolvedOutline } from '@makrel/core/outline'
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

/** How a dimension is drawn; undefined where it is on nothing that can be measured, or at no place. */
export function dimensionLayout(
  solved: SolvedOutline,
  constraint: OutlineConstraint,
  view: PlaneView,
): DimensionLayout | undefined {
  const measured = measuredPlace(solved, constraint)
  switch (measured?.kind) {
    case 'length':
      return linearLayout(measured, constraint, view, centreOf(solved))
    case 'round':
      return roundLayout(measured, constraint, view)
    case 'angle':
      return measured.corner && angleLayout(measured.corner, measured.legs, constraint, view)
  }
}

type MeasuredAs<Kind> = Extract<Measured, { readonly kind: Kind }>

function centreOf({ points, outline }: SolvedOutline): Vec2 {
  const all = outline.points.map(({ id }) => points.get(id)!)
  return all.length === 0
    ? [0, 0]
    : [all.reduce((s, p) => s + p[0], 0) / all.length, all.reduce((s, p) => s + p[1], 0) / all.length]
}

function linearLayout(
  { from: a, to: b, along }: MeasuredAs<'length'>,
  { label }: OutlineConstraint,
  view: PlaneView,
  centre: Vec2,
): DimensionLayout {
  const middle = times(plus(a, b), 0.5)
  const way = along ?? unit2(minus(b, a))
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

function roundLayout(
  { centre, radius: r, across }: MeasuredAs<'round'>,
  { label }: OutlineConstraint,
  view: PlaneView,
): DimensionLayout {
  const way = label && norm2(label) > 1e-9 ? unit2(label) : unit2([1, 1])
  const rim = plus(centre, times(way, r))
  const far = label && norm2(label) > r ? plus(centre, label) : plus(rim, times(way, 26 / view.scale))
  const from = across ? minus(centre, times(way, r)) : centre
  const screen = (v: Vec2) => toScreen(view, v)
  return {
    lines: [[screen(from), screen(far)]],
    arrows: [
      { tip: screen(rim), towards: screen(centre) },
      ...(across ? [{ tip: screen(from), towards: screen(centre) }] : []),
    ],
    text: screen(plus(far, times(way, 12 / view.scale))),
    middle: centre,
  }
}

function angleLayout(
  corner: Vec2,
  legs: readonly [Vec2, Vec2],
  { label }: OutlineConstraint,
  view: PlaneView,
): DimensionLayout {
  const [m, n] = [unit2(legs[0]), unit2(legs[1])]
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
