import type { Outline, OutlineConstraint, OutlineCurve } from '../document/index.ts'
import type { AnyValues } from '../fields/index.ts'
import {
  type Arrangement,
  arranged,
  Drawn,
  type DrawnCurve,
  type Face,
  type LineSegment,
  line,
  outlineOf,
  type Segment,
  type Vec2,
} from '../plane/index.ts'
import { type Problem, problem } from '../problems/index.ts'
import { amountOf, type Measured } from './constraints/measured.ts'
import { constraintOf } from './constraints/registry.ts'
import { curveOf } from './curves/registry.ts'
import { derivedOf } from './derived/registry.ts'
import { conflictsOf } from './freedom.ts'
import { type Solution, solved } from './solve.ts'
import { type Given, joinedPoints, refsOf, type System, systemOf, takesThese } from './system.ts'

/** Everything that an outline is solved with; computed from its expressions. */
export interface OutlineValues extends Given {
  /** of what is derived, and of curves with fields; undefined where one has a problem */
  readonly fields: ReadonlyMap<string, AnyValues | undefined>
}

export interface SolvedOutline {
  readonly outline: Outline
  /** what it was solved with */
  readonly values: OutlineValues
  readonly system: System
  readonly solution: Solution
  readonly points: ReadonlyMap<string, Vec2>
  /** as they were drawn, helpers too, by id */
  readonly drawnCurves: ReadonlyMap<string, readonly Segment[]>
  /** all that bounds material, after everything derived */
  readonly curves: readonly DrawnCurve[]
  readonly arrangement: Arrangement
  /** the regions that are taken */
  readonly filled: readonly Face[]
  /** what shapes are made from; undefined where the drawing contradicts itself */
  readonly drawn: Drawn | undefined
  /** constraints that cannot hold together */
  readonly conflicts: readonly string[]
  readonly problems: readonly Problem[]
}

/** Solves an outline, carries out what is derived, and finds its regions. What goes wrong is told, and the rest goes on. */
export function solveOutline(outline: Outline, values: OutlineValues): SolvedOutline {
  const system = systemOf(outline, values)
  const solution = solved(system)
  return shownOutline(outline, values, system, solution)
}

/** Regions of more curves than this are not found anew with each step of dragging. */
const mostFollowed = 400

/**
 * The same for a solution that is at hand, as while a point is dragged. Of a drawing of very many curves the regions are
 * those of `before`, where that is given, until it is let go: finding them takes longer than a step of dragging may.
 */
export function shownOutline(
  outline: Outline,
  values: OutlineValues,
  system: System,
  solution: Solution,
  before?: SolvedOutline,
): SolvedOutline {
  const path = ['outlines', outline.id]
  const problems: Problem[] = system.unfit
    .filter(
      (id) => values.values.has(id) || !constraintOf(outline.constraints.find((each) => each.id === id)!.kind)?.value,
    )
    .map((id) => problem('outline-unfit', [...path, 'constraints', id], {}, { rank: 'warning' }))
  const conflicts = solution.solved ? [] : conflictsOf(system, solution.x, values)
  if (!solution.solved)
    problems.push(
      problem('outline-conflict', [...path, 'constraints', conflicts[0] ?? ''], {
        which: conflictWords(outline, conflicts),
      }),
    )
  const points = pointsOf(system, solution.x)
  const drawnCurves = new Map(
    outline.curves.map((curve) => [curve.id, segmentsOf(curve, points, system, solution.x, values)]),
  )
  const made = derivedCurves(outline, values, points, drawnCurves)
  problems.push(...made.problems)
  const { curves } = made
  const shown = { outline, values, system, solution, points, drawnCurves, curves, conflicts, problems }
  if (before && curves.length > mostFollowed) {
    const { arrangement, filled, drawn } = before
    return { ...shown, arrangement, filled, drawn }
  }
  const { arrangement, tooMany } = arrangedOr(curves)
  if (tooMany) problems.push(problem('outline-too-complex', path, {}))
  const toggled = new Set(outline.toggled)
  const filled = arrangement.faces.filter((face) => isFilled(face, toggled))
  const lines = straightLines(outline, drawnCurves)
  const drawn = solution.solved
    ? new Drawn({
        key: keyOf(outline, curves, filled, lines),
        name: outline.name,
        loops: outlineOf(arrangement, filled),
        open: arrangement.open,
        lines,
        sharp: outline.points.filter(({ sharp }) => sharp).map(({ id }) => points.get(id)!),
      })
    : undefined
  return { ...shown, arrangement, filled, drawn }
}

/** Whether a region is filled in the drawing. */
export function isFilled({ key, depth }: Face, toggled: ReadonlySet<string>): boolean {
  return (depth % 2 === 0) !== toggled.has(key)
}

function arrangedOr(curves: readonly DrawnCurve[]): { readonly arrangement: Arrangement; readonly tooMany: boolean } {
  try {
    return { arrangement: arranged(curves), tooMany: false }
  } catch (error) {
    if (!(error instanceof RangeError)) throw error
    return { arrangement: { faces: [], loose: [], crossed: [], open: [], edges: [] }, tooMany: true }
  }
}

export function pointsOf({ points }: System, x: Float64Array): ReadonlyMap<string, Vec2> {
  return new Map([...points].map(([id, p]) => [id, [x[p]!, x[p + 1]!]]))
}

/** What a curve came to last, and from what: most curves are where they were in the drawing before. */
const drawnBefore = new WeakMap<
  OutlineCurve,
  { readonly from: readonly unknown[]; readonly segments: readonly Segment[] }
>()

function segmentsOf(
  curve: OutlineCurve,
  points: ReadonlyMap<string, Vec2>,
  { sizes }: System,
  x: Float64Array,
  { fields }: OutlineValues,
): readonly Segment[] {
  const { id, kind, points: own, size } = curve
  const definition = curveOf(kind)
  const at = own.map((point) => points.get(point))
  const values = definition?.fields ? fields.get(id) : {}
  if (!definition || !values || at.includes(undefined)) return []
  if (at.length < definition.points.least || at.length > definition.points.most) return []
  const place = sizes.get(id)
  const long = place === undefined ? (size ?? 0) : Math.abs(x[place]!)
  const from = [...(at as Vec2[]).flat(), long, ...Object.values(values)]
  const before = drawnBefore.get(curve)
  if (before && before.from.length === from.length && before.from.every((each, i) => each === from[i]))
    return before.segments
  const segments = definition.segments(at as Vec2[], long, values)
  drawnBefore.set(curve, { from, segments })
  return segments
}

/** The curves that bound material after all that an outline derives, in order. */
export function derivedCurves(
  outline: Outline,
  { fields }: OutlineValues,
  points: ReadonlyMap<string, Vec2>,
  drawn: ReadonlyMap<string, readonly Segment[]>,
) {
  const lines = straightLines(outline, drawn)
  const problems: Problem[] = []
  let curves: readonly DrawnCurve[] = outline.curves
    .filter(({ helper, id }) => !helper && drawn.get(id)!.length > 0)
    .map(({ id }) => ({ id, segments: drawn.get(id)! }))
  for (const { id, kind, of } of outline.derived) {
    const path = ['outlines', outline.id, 'derived', id]
    const definition = derivedOf(kind)
    const values = fields.get(id)
    if (!definition) problems.push(problem('derived-unknown', path, { kind }, { rank: 'warning' }))
    if (!definition || !values) continue
    const after = definition.apply(values, {
      id,
      of,
      curves,
      point: (name) => points.get(name),
      line: (name) => lines.get(name),
    })
    if ('detail' in after) problems.push(problem('derived-failed', path, { detail: after.detail }))
    else curves = after
  }
  return { curves, problems }
}

function straightLines(
  outline: Outline,
  drawn: ReadonlyMap<string, readonly Segment[]>,
): ReadonlyMap<string, LineSegment> {
  return new Map([
    ['x-axis', line([0, 0], [1, 0])],
    ['y-axis', line([0, 0], [0, 1])],
    ...outline.curves.flatMap(({ id }): [string, LineSegment][] => {
      const [only, ...more] = drawn.get(id)!
      return only?.kind === 'line' && more.length === 0 ? [[id, only]] : []
    }),
  ])
}

/** Digits that tell drawings apart: finer than any solid made from them. */
const digits = 1e9

function keyOf(
  outline: Outline,
  curves: readonly DrawnCurve[],
  filled: readonly Face[],
  lines: ReadonlyMap<string, LineSegment>,
): string {
  const rounded = (_: string, value: unknown) =>
    typeof value === 'number' ? Math.round(value * digits) / digits : value
  return JSON.stringify(
    [
      outline.id,
      curves,
      filled.map(({ key }) => key),
      [...lines.values()],
      outline.points.map(({ sharp }) => sharp === true),
    ],
    rounded,
  )
}

/** "distance 30 and distance 31", for messages. */
function conflictWords(outline: Outline, ids: readonly string[]): string {
  const words = ids.map((id) => constraintWords(outline.constraints.find((each) => each.id === id)!))
  return words.length > 1 ? `${words.slice(0, -1).join(', ')} and ${words.at(-1)}` : (words[0] ?? 'its constraints')
}

export function constraintWords({ kind, value }: OutlineConstraint): string {
  const label = constraintOf(kind)?.label ?? kind
  return value === undefined ? label : `${label} ${value}`
}

/** What a dimension measures now, mm or degrees; undefined where it is on nothing that it can measure. */
export function measuredBy(
  solved: SolvedOutline,
  dimension: Pick<OutlineConstraint, 'kind' | 'of'>,
): number | undefined {
  const measured = measuredPlace(solved, dimension)
  return measured && amountOf(measured)
}

/** The same with where it is. */
export function measuredPlace(
  { system, solution }: SolvedOutline,
  { kind, of }: Pick<OutlineConstraint, 'kind' | 'of'>,
): Measured | undefined {
  const definition = constraintOf(kind)
  const refs = of.map(refsOf(system))
  const known = refs.filter((ref) => ref !== undefined)
  if (!definition?.measured || known.length < refs.length || !takesThese(definition, known)) return undefined
  return definition.measured(known, solution.x, {
    start: solution.x,
    same: joinedPoints(system),
    liesOn: () => false,
  })
}

/** The outline with its points and sizes where the solution has them, to be kept; nanometres are enough. */
export function settled({ outline, system }: Pick<SolvedOutline, 'outline' | 'system'>, { x }: Solution): Outline {
  const kept = (value: number) => Math.round(value * digits) / digits
  return {
    ...outline,
    points: outline.points.map((point) => {
      const p = system.points.get(point.id)!
      const at = [kept(x[p]!), kept(x[p + 1]!)] as const
      return at[0] === point.at[0] && at[1] === point.at[1] ? point : { ...point, at }
    }),
    curves: outline.curves.map((curve) => {
      const place = system.sizes.get(curve.id)
      return place === undefined ? curve : { ...curve, size: Math.abs(kept(x[place]!)) }
    }),
  }
}
