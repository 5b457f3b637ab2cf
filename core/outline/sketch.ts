import type { FieldTexts, Outline, OutlineConstraint, OutlineCurve } from '../document/index.ts'
import {
  arcThrough,
  cross2,
  directionAt,
  distance2,
  dot2,
  endOf,
  leftOf,
  minus,
  plus,
  type Segment,
  startOf,
  times,
  unit2,
  type Vec2,
} from '../plane/index.ts'
import { builtIn } from './system.ts'

/** Where a new point goes: on a point that is there, or at a place, held on or in the middle of a curve. */
export interface Spot {
  readonly at: Vec2
  readonly point?: string | undefined
  readonly hold?: { readonly kind: 'on' | 'midpoint'; readonly of: string } | undefined
}

/** A constraint that comes with what is drawn, before the drawn curve has an id; `itself` stands for that. */
export interface Wish {
  readonly kind: string
  readonly of: readonly string[]
}
export const itself = '$'

/** An arc of a larger radius is a straight line: over 100 mm it lies within 3 µm of one. mm */
export const flattestArc = 5e5

/**
 * Draws into an outline: each call adds to it, `outline` is what has come of it. Ids are short and count up, because faces
 * and messages name them: p1, l1, a1, …
 */
export class Sketch {
  outline: Outline
  readonly #helper: boolean
  /** the ids of the outline as it was left here, and from where on numbers may be free */
  #known: { readonly outline: Outline; readonly ids: Set<string>; readonly from: Map<string, number> } | undefined

  /** `helper`: what is drawn bounds no material. */
  constructor(outline: Outline, helper = false) {
    this.outline = outline
    this.#helper = helper
  }

  private fresh(prefix: string): string {
    const { points, curves, constraints, derived } = this.outline
    if (this.#known?.outline !== this.outline) {
      const ids = new Set([...points, ...curves, ...constraints, ...derived].map(({ id }) => id))
      this.#known = { outline: this.outline, ids, from: new Map() }
    }
    const { ids, from } = this.#known!
    let number = from.get(prefix) ?? 1
    while (ids.has(`${prefix}${number}`)) number++
    from.set(prefix, number)
    return `${prefix}${number}`
  }

  /** The outline with something added under a fresh id. */
  private added(change: Partial<Outline>, id: string): void {
    this.outline = { ...this.outline, ...change }
    if (!this.#known) return
    this.#known.ids.add(id)
    this.#known = { ...this.#known, outline: this.outline }
  }

  point({ at, point, hold }: Spot): string {
    if (point !== undefined && point !== 'origin') return point
    const id = this.fresh('p')
    this.added({ points: [...this.outline.points, { id, at: [at[0], at[1]] }] }, id)
    if (point === 'origin') this.hold('coincident', [id, 'origin'])
    if (hold) this.hold(hold.kind, [id, hold.of])
    return id
  }

  /** Says something more of a point that was drawn here. */
  mark(id: string, more: Pick<Outline['points'][number], 'sharp'>): void {
    this.outline = { ...this.outline, points: this.outline.points.map((p) => (p.id === id ? { ...p, ...more } : p)) }
    if (this.#known) this.#known = { ...this.#known, outline: this.outline }
  }

  curve(
    kind: string,
    points: readonly string[],
    more: Partial<Pick<OutlineCurve, 'size' | 'fields' | 'helper' | 'taken'>> = {},
  ): string {
    const id = this.fresh(prefixes[kind] ?? 'c')
    const curve: OutlineCurve = { id, kind, points, helper: this.#helper, ...more }
    this.added({ curves: [...this.outline.curves, curve] }, id)
    return id
  }

  /** Adds a constraint, unless the same one is there. */
  hold(kind: string, of: readonly string[], value?: string): string {
    const same = this.outline.constraints.find((each) => each.kind === kind && each.of.join(' ') === of.join(' '))
    if (same) return same.id
    const id = this.fresh('k')
    const constraint: OutlineConstraint = value === undefined ? { id, kind, of } : { id, kind, of, value }
    this.added({ constraints: [...this.outline.constraints, constraint] }, id)
    return id
  }

  holdAll(wishes: readonly Wish[], own: string): void {
    for (const { kind, of } of wishes)
      this.hold(
        kind,
        of.map((id) => (id === itself ? own : id)),
      )
  }

  derive(kind: string, of: readonly string[], fields: FieldTexts): string {
    const id = this.fresh('d')
    this.added({ derived: [...this.outline.derived, { id, kind, of, fields }] }, id)
    return id
  }

  line(from: Spot, to: Spot, wishes: readonly Wish[] = []): string {
    const id = this.curve('line', [this.point(from), this.point(to)])
    this.holdAll(wishes, id)
    return id
  }

  /** Undefined where the three points lie on a line. */
  arc(from: Spot, via: Vec2, to: Spot): string | undefined {
    const arc = arcThrough(from.at, via, to.at)
    if (!arc || arc.radius > flattestArc) return undefined
    const ends = [this.point(from), this.point(to)]
    const centre = this.point({ at: arc.centre })
    return this.curve('arc', [centre, ...(arc.sweepRad > 0 ? ends : ends.reverse())])
  }

  /** Goes on from the end of a curve without a corner; `way` is its direction there. Undefined where it would be straight. */
  tangentArc(from: Spot, way: Vec2, before: string, to: Spot): string | undefined {
    const centre = tangentCentre(from.at, way, to.at)
    if (!centre) return undefined
    const left = cross2(way, minus(to.at, from.at)) > 0
    const ends = [this.point(from), this.point(to)]
    const id = this.curve('arc', [this.point({ at: centre }), ...(left ? ends : ends.reverse())])
    this.hold('tangent', [before, id])
    return id
  }

  circle(centre: Spot, radius: number): string {
    return this.curve('circle', [this.point(centre)], { size: radius })
  }

  ellipse(centre: Spot, end: Spot, other: number): string {
    return this.curve('ellipse', [this.point(centre), this.point(end)], { size: other })
  }

  /** A curve through or near points; closed where the last spot is the first one's point. */
  spline(kind: 'through' | 'near', spots: readonly Spot[], closed: boolean): string {
    const ids = spots.map((spot) => this.point(spot))
    return this.curve(kind, closed ? [...ids, ids[0]!] : ids)
  }

  /** Four lines, held across and up. From its middle it is held there by a diagonal that bounds nothing. */
  rectangle(from: Spot, to: Spot, centred: boolean): readonly string[] {
    const [a, c] = centred ? [minus(times(from.at, 2), to.at), to.at] : [from.at, to.at]
    const corner = (x: number, y: number, spot?: Spot) => this.point(spot ?? { at: [x, y] })
    const first = corner(a[0], a[1], centred ? undefined : from)
    const points = [first, corner(c[0], a[1]), corner(c[0], c[1], to), corner(a[0], c[1])]
    const lines = points.map((p, i) => this.curve('line', [p, points[(i + 1) % 4]!]))
    this.hold('horizontal', [lines[0]!])
    this.hold('horizontal', [lines[2]!])
    this.hold('vertical', [lines[1]!])
    this.hold('vertical', [lines[3]!])
    if (centred) {
      const diagonal = this.curve('line', [points[0]!, points[2]!], { helper: true })
      this.hold('midpoint', [this.point(from), diagonal])
    }
    return lines
  }

  /** A regular polygon about a middle with a corner at a place: its corners on a helping circle, its sides equal. */
  polygon(centre: Spot, cornerAt: Spot, sides: number): readonly string[] {
    const middle = this.point(centre)
    const arm = minus(cornerAt.at, centre.at)
    const round = this.curve('circle', [middle], { size: distance2(cornerAt.at, centre.at), helper: true })
    const points = Array.from({ length: sides }, (_, i) => {
      const rad = (2 * Math.PI * i) / sides
      const [c, s] = [Math.cos(rad), Math.sin(rad)]
      const at: Vec2 = [centre.at[0] + arm[0] * c - arm[1] * s, centre.at[1] + arm[0] * s + arm[1] * c]
      return this.point(i === 0 ? cornerAt : { at })
    })
    for (const p of points) this.hold('on', [p, round])
    const lines = points.map((p, i) => this.curve('line', [p, points[(i + 1) % sides]!]))
    for (const side of lines.slice(1)) this.hold('equal', [lines[0]!, side])
    return lines
  }

  /** Two half rounds and two lines that run into them, about a helping line from middle to middle. */
  slot(from: Spot, to: Spot, radius: number): readonly string[] {
    const [m, n] = [this.point(from), this.point(to)]
    const side = times(leftOf(unit2(minus(to.at, from.at))), radius)
    const place = (p: Vec2, way: 1 | -1) => this.point({ at: plus(p, times(side, way)) })
    const [a, b] = [place(from.at, -1), place(to.at, -1)]
    const [c, d] = [place(to.at, 1), place(from.at, 1)]
    const lines = [this.curve('line', [a, b]), this.curve('line', [c, d])]
    const arcs = [this.curve('arc', [n, b, c]), this.curve('arc', [m, d, a])]
    this.curve('line', [m, n], { helper: true })
    for (const each of lines) for (const arc of arcs) this.hold('tangent', [each, arc])
    this.hold('equal', arcs)
    return [...lines, ...arcs]
  }

  letters(at: Spot, fields: FieldTexts): string {
    return this.curve('letters', [this.point(at)], { fields })
  }
}

const prefixes: Readonly<Record<string, string>> = {
  line: 'l',
  arc: 'a',
  circle: 'c',
  ellipse: 'e',
  through: 's',
  near: 's',
  letters: 't',
}

/** The middle of the arc that leaves `from` along `way` and ends at `to`. */
export function tangentCentre(from: Vec2, way: Vec2, to: Vec2): Vec2 | undefined {
  const chord = minus(to, from)
  const normal = leftOf(unit2(way))
  const off = 2 * dot2(normal, chord)
  const radius = dot2(chord, chord) / off
  return Math.abs(radius) <= flattestArc ? plus(from, times(normal, radius)) : undefined
}

/** The direction in which a curve would go on past the end that lies at a place; undefined where none does. */
export function leavingDirection(segments: readonly Segment[], at: Vec2): Vec2 | undefined {
  const [first, last] = [segments[0], segments.at(-1)]
  if (last && distance2(endOf(last), at) < 1e-6) return directionAt(last, 1)
  if (first && distance2(startOf(first), at) < 1e-6) return times(directionAt(first, 0), -1)
  return undefined
}

/**
 * An outline without these points, curves, constraints and derived things, and without what hangs on them. A curve through or
 * near points goes on through those that are left, as long as there are two.
 */
export function withoutParts(outline: Outline, ids: ReadonlySet<string>): Outline {
  const curves = outline.curves.flatMap((curve): OutlineCurve[] => {
    const { id, kind, points } = curve
    if (ids.has(id)) return []
    if (!points.some((p) => ids.has(p))) return [curve]
    if (kind !== 'through' && kind !== 'near') return []
    const closed = points.length > 3 && points[0] === points.at(-1)
    const left = (closed ? points.slice(0, -1) : points).filter((p) => !ids.has(p))
    if (left.length < (closed ? 3 : 2)) return []
    return [{ ...curve, points: closed ? [...left, left[0]!] : left }]
  })
  const stay = new Set(curves.map(({ id }) => id))
  const gone = new Set([...ids, ...outline.curves.filter(({ id }) => !stay.has(id)).map(({ id }) => id)])
  // Points that only belonged to what is gone go with it.
  const still = new Set(curves.flatMap(({ points }) => points))
  const before = new Set(outline.curves.flatMap(({ points }) => points))
  const points = outline.points.filter(({ id }) => !gone.has(id) && (still.has(id) || !before.has(id)))
  const known = new Set<string>([...builtIn, ...points.map(({ id }) => id), ...curves.map(({ id }) => id)])
  const constraints = outline.constraints.filter(({ id, of }) => !gone.has(id) && of.every((each) => known.has(each)))
  // What is derived goes on with what is left of what it was put on.
  const derived = outline.derived.flatMap((each) => {
    const of = each.of.filter((id) => !gone.has(id) && !(outline.points.some((p) => p.id === id) && !known.has(id)))
    return gone.has(each.id) || of.length === 0 ? [] : [of.length === each.of.length ? each : { ...each, of }]
  })
  return { ...outline, points, curves, constraints, derived }
}

/**
 * Two points made one: everything that had `gone` has `kept`. An arc whose ends meet is a circle through them; curves that
 * come to nothing are taken out.
 */
export function joinedInto(outline: Outline, kept: string, gone: string): Outline {
  const swap = (id: string) => (id === gone ? kept : id)
  const rounds: string[] = []
  const at = new Map(outline.points.map((point) => [point.id, point.at]))
  const curves = outline.curves.map((curve): OutlineCurve => {
    if (!curve.points.includes(gone)) return curve
    const points = curve.points.map(swap)
    const [centre, start, end] = points as [string, string, string]
    if (curve.kind !== 'arc' || start !== end || start === centre) return { ...curve, points }
    rounds.push(curve.id)
    return { ...curve, kind: 'circle', points: [centre], size: distance2(at.get(centre)!, at.get(start)!) }
  })
  const nothing = curves.filter(({ kind, points }) => meetingPoints.has(kind) && new Set(points).size < points.length)
  const constraints = outline.constraints
    .map((each) => (each.of.includes(gone) ? { ...each, of: each.of.map(swap) } : each))
    .filter(({ of }) => new Set(of).size === of.length)
  const derived = outline.derived.map((each) => (each.of.includes(gone) ? { ...each, of: each.of.map(swap) } : each))
  const points = outline.points.filter(({ id }) => id !== gone)
  const sketch = new Sketch({ ...outline, points, curves, constraints, derived })
  for (const round of rounds) sketch.hold('on', [kept, round])
  return nothing.length > 0 ? withoutParts(sketch.outline, new Set(nothing.map(({ id }) => id))) : sketch.outline
}

/** Kinds of curves that are nothing where two of their points are one. */
const meetingPoints = new Set(['line', 'arc', 'ellipse'])
