import type { Outline, OutlineConstraint, OutlineCurve } from '../document/index.ts'
import { sineCosine } from '../place/index.ts'
import { minus, plus, times, type Vec2 } from '../plane/index.ts'
import { constraintOf } from './constraints/registry.ts'
import { Sketch, withoutParts } from './sketch.ts'
import { type Given, systemOf } from './system.ts'

/** Mirrored left to right, turned and scaled about a place, and then moved: what can be done to parts of a drawing at once. */
export interface Similarity {
  readonly about: Vec2
  readonly mirrored?: boolean
  /** degrees, counter-clockwise */
  readonly turn?: number
  readonly scale?: number
  /** mm */
  readonly by?: Vec2
}

function imageOf({ about, mirrored = false, turn = 0, scale = 1, by = [0, 0] }: Similarity): (p: Vec2) => Vec2 {
  const [s, c] = sineCosine(turn)
  return (p) => {
    const [dx, dy] = minus(p, about)
    const x = mirrored ? -dx : dx
    return plus(plus(about, times([c * x - s * dy, s * x + c * dy], scale)), by)
  }
}

/** Some points and curves of an outline, with what holds these together alone: what a clipboard carries. */
export type OutlineParts = Pick<Outline, 'points' | 'curves' | 'constraints' | 'derived'>

/** Curves with their points, and points, by their ids; what hangs on anything else stays behind. */
export function partsOf(outline: Outline, ids: ReadonlySet<string>): OutlineParts {
  const curves = outline.curves.filter(({ id }) => ids.has(id))
  const own = new Set([...ids, ...curves.flatMap(({ points }) => points)])
  const points = outline.points.filter(({ id }) => own.has(id))
  const known = new Set([...points.map(({ id }) => id), ...curves.map(({ id }) => id)])
  const within = ({ of }: { readonly of: readonly string[] }) => of.every((id) => known.has(id))
  return {
    points: points.map(({ taken: _, ...rest }) => rest),
    curves: curves.map(({ taken: _, ...rest }) => rest),
    constraints: outline.constraints.filter((each) => within(each) && each.kind !== 'fixed'),
    derived: outline.derived.filter(within),
  }
}

/** The outline with parts of this or another one added, changed; and the ids of what was added. */
export function withParts(
  outline: Outline,
  parts: OutlineParts,
  change: Similarity,
): { readonly outline: Outline; readonly ids: readonly string[] } {
  const changed = similar(parts, change)
  const sketch = new Sketch(outline)
  const names = new Map<string, string>()
  const renamed = (ids: readonly string[]) => ids.map((id) => names.get(id) ?? id)
  for (const { id, at, sharp } of changed.points) {
    const fresh = sketch.point({ at: [at[0], at[1]] })
    names.set(id, fresh)
    if (sharp) sketch.mark(fresh, { sharp })
  }
  for (const { id, kind, points, ...more } of changed.curves) names.set(id, sketch.curve(kind, renamed(points), more))
  for (const { kind, of, value } of kept(changed.constraints, change)) sketch.hold(kind, renamed(of), value)
  for (const { id, kind, of, fields } of changed.derived) names.set(id, sketch.derive(kind, renamed(of), fields))
  const ids = [...changed.curves, ...loosePoints(changed)].map(({ id }) => names.get(id)!)
  return { outline: sketch.outline, ids }
}

function loosePoints({ points, curves }: OutlineParts) {
  const used = new Set(curves.flatMap((curve) => curve.points))
  return points.filter(({ id }) => !used.has(id))
}

/** What these parts are after the change; lengths that hold them are scaled with them. */
function similar(parts: OutlineParts, change: Similarity): OutlineParts {
  const { mirrored = false, scale = 1, turn = 0 } = change
  const image = imageOf(change)
  const curve = (each: OutlineCurve): OutlineCurve => {
    const [centre, start, end] = each.points as [string, string, string]
    return {
      ...each,
      // An arc runs counter-clockwise, in a mirror too.
      ...(mirrored && each.kind === 'arc' ? { points: [centre, end, start] } : {}),
      ...(each.size === undefined ? {} : { size: each.size * scale }),
      ...(each.kind === 'letters' && each.fields
        ? {
            fields: {
              ...each.fields,
              ...(scale === 1 ? {} : { height: product(each.fields.height ?? '8', scale) }),
              ...(turn === 0 ? {} : { turn: `${each.fields.turn ?? '0'} + ${turn}` }),
            },
          }
        : {}),
    }
  }
  const constraint = (each: OutlineConstraint): OutlineConstraint =>
    scale !== 1 && each.value !== undefined && constraintOf(each.kind)?.value === 'length'
      ? { ...each, value: product(each.value, scale) }
      : each
  return {
    points: parts.points.map((point) => {
      const [x, y] = image([point.at[0], point.at[1]])
      return { ...point, at: [x, y] as const }
    }),
    curves: parts.curves.map(curve),
    constraints: parts.constraints.map(constraint),
    derived: parts.derived,
  }
}

function product(text: string, factor: number): string {
  const shown = Number(factor.toPrecision(12))
  return /^\d+(?:\.\d+)?$/.test(text.trim())
    ? String(Number((Number(text) * factor).toPrecision(12)))
    : `(${text}) * ${shown}`
}

/** Constraints that still mean something once the parts are turned: what is level stays so by half turns only. */
function kept(constraints: readonly OutlineConstraint[], { turn = 0 }: Similarity): readonly OutlineConstraint[] {
  const quarters = turn / 90
  if (quarters % 2 === 0) return constraints
  const swapped: Readonly<Record<string, string>> = {
    horizontal: 'vertical',
    vertical: 'horizontal',
    'distance-x': 'distance-y',
    'distance-y': 'distance-x',
  }
  return constraints.flatMap((each) => {
    const other = swapped[each.kind]
    if (!other) return [each]
    return Number.isInteger(quarters) ? [{ ...each, kind: other }] : []
  })
}

/**
 * The outline with these parts changed where they are. What held them to anything else, or to the axes, and would pull them
 * back is let go; how many that were is told.
 */
export function withChanged(
  outline: Outline,
  ids: ReadonlySet<string>,
  change: Similarity,
  values: Given,
): { readonly outline: Outline; readonly letGo: number } {
  const parts = partsOf(outline, ids)
  const changed = similar(parts, change)
  const points = new Map(changed.points.map((point) => [point.id, point]))
  const curves = new Map(changed.curves.map((curve) => [curve.id, curve]))
  const inner = new Map(kept(changed.constraints, change).map((each) => [each.id, each]))
  const known = new Set(parts.constraints.map(({ id }) => id))
  const next: Outline = {
    ...outline,
    points: outline.points.map((point) => points.get(point.id) ?? point),
    curves: outline.curves.map((curve) => curves.get(curve.id) ?? curve),
    constraints: outline.constraints.flatMap((each) => (known.has(each.id) ? (inner.get(each.id) ?? []) : [each])),
  }
  const { scale = 1 } = change
  const scaled = new Map(values.values)
  if (scale !== 1)
    for (const { id, kind } of parts.constraints)
      if (constraintOf(kind)?.value === 'length' && scaled.has(id)) scaled.set(id, scaled.get(id)! * scale)
  const system = systemOf(next, { ...values, values: scaled })
  const touched = new Set([...points.keys(), ...curves.keys()])
  const broken = system.equations.flatMap(({ constraint, equation }) => {
    if (!constraint?.of.some((id) => touched.has(id))) return []
    const out = new Float64Array(equation.count)
    equation.residual(system.start, out, 0)
    return out.some((residual) => Math.abs(residual) > 1e-6) ? [constraint.id] : []
  })
  const fixed = next.constraints.filter(({ kind, of }) => kind === 'fixed' && of.some((id) => touched.has(id)))
  const gone = new Set([...broken, ...fixed.map(({ id }) => id)])
  return { outline: withoutParts(next, gone), letGo: outline.constraints.length - next.constraints.length + gone.size }
}

/** The middle of the extents of the points of these parts. */
export function middleOf({ points }: OutlineParts): Vec2 {
  const along = (i: 0 | 1) => {
    const all = points.map(({ at }) => at[i])
    return all.length === 0 ? 0 : (Math.min(...all) + Math.max(...all)) / 2
  }
  return [along(0), along(1)]
}
