import type { Outline, OutlineConstraint, OutlineCurve } from '../document/index.ts'
import type { Vec2 } from '../plane/index.ts'
import type { ConstraintContext, ConstraintDefinition, Equation, Ref, RefKind, RoundRef } from './constraints/define.ts'
import { constraintOf } from './constraints/registry.ts'
import { curveOf } from './curves/registry.ts'

/** Points and lines that are in every outline: its origin, and its axes to the right and up. */
export const builtIn = ['origin', 'x-axis', 'y-axis'] as const

/** The numbers of a drawing in one list: the unknowns first, then what stands still. */
export interface System {
  readonly outline: Outline
  /** how many of the numbers are unknowns */
  readonly unknowns: number
  readonly start: Float64Array
  readonly points: ReadonlyMap<string, number>
  /** of curves that have one */
  readonly sizes: ReadonlyMap<string, number>
  readonly equations: readonly SystemEquation[]
  /** constraints that cannot be put on what they name, and dimensions without a value */
  readonly unfit: readonly string[]
}

/** An equation, and the constraint that it comes from; undefined for what holds of a curve by itself. */
export interface SystemEquation {
  readonly constraint: OutlineConstraint | undefined
  readonly equation: Equation
  /** those of its numbers that are unknowns */
  readonly vars: readonly number[]
  /** this one's first residual in the list of all */
  readonly from: number
}

/** What the drawing is solved with besides itself. */
export interface Given {
  /** of dimensions, by the id of the constraint: mm or degrees */
  readonly values: ReadonlyMap<string, number>
  /** where points are that were taken over, and as [size, 0] how large curves are */
  readonly taken: ReadonlyMap<string, Vec2>
}

/** Lays out the numbers of an outline and the equations that hold them together. */
export function systemOf(outline: Outline, given: Given): System {
  const free = outline.points.filter(({ taken }) => !taken)
  const held = outline.points.filter(({ taken }) => taken)
  const withSize = outline.curves.filter(({ kind }) => curveOf(kind)?.size)
  const sized = withSize.filter(({ taken }) => !taken)
  const fixedSizes = withSize.filter(({ taken }) => taken)
  const unknowns = 2 * free.length + sized.length
  const start = new Float64Array(unknowns + 2 * held.length + fixedSizes.length + 6)
  const points = new Map<string, number>()
  const sizes = new Map<string, number>()
  let next = 0
  const put = (id: string, [x, y]: Vec2) => {
    points.set(id, next)
    start[next++] = x
    start[next++] = y
  }
  for (const { id, at } of free) put(id, at)
  for (const { id, size } of sized) {
    sizes.set(id, next)
    start[next++] = size ?? 1
  }
  for (const { id, at } of held) put(id, given.taken.get(id) ?? at)
  for (const { id, size } of fixedSizes) {
    sizes.set(id, next)
    start[next++] = given.taken.get(id)?.[0] ?? size ?? 1
  }
  put('origin', [0, 0])
  put('x-end', [1, 0])
  put('y-end', [0, 1])
  const layout = { start, points, sizes, outline }
  const refs = refsOf(layout)
  const same = joinedPoints(layout)
  const liesOn = pointsOnRounds(layout, refs)
  const equations: SystemEquation[] = []
  const unfit: string[] = []
  let rows = 0
  const hold = (constraint: OutlineConstraint | undefined, equation: Equation) => {
    const vars = [...new Set(equation.vars)].filter((i) => i < unknowns)
    equations.push({ constraint, equation, vars, from: rows })
    rows += equation.count
  }
  for (const curve of outline.curves) {
    const own = curveOf(curve.kind)?.own
    const places = curve.points.map((id) => points.get(id))
    if (own && !places.includes(undefined)) hold(undefined, own(places as number[]))
  }
  for (const constraint of outline.constraints) {
    if (constraint.driven) continue
    const definition = constraintOf(constraint.kind)
    const own = constraint.of.map(refs)
    const value = given.values.get(constraint.id)
    const fits = definition && !own.includes(undefined) && takesThese(definition, own as Ref[])
    const equation =
      fits && !(definition.value && value === undefined)
        ? definition.equation(own as Ref[], { start, same, liesOn, value: value ?? 0 })
        : undefined
    if (equation) hold(constraint, equation)
    else unfit.push(constraint.id)
  }
  return { outline, unknowns, start, points, sizes, equations, unfit }
}

type Layout = Pick<System, 'start' | 'points' | 'sizes' | 'outline'>

/** What an id names, for constraints. */
export function refsOf({ points, sizes, outline }: Layout): (id: string) => Ref | undefined {
  const byId = new Map(outline.curves.map((curve) => [curve.id, curve]))
  return (id) => {
    if (id === 'x-axis' || id === 'y-axis')
      return { kind: 'line', a: points.get('origin')!, b: points.get(id === 'x-axis' ? 'x-end' : 'y-end')! }
    const p = points.get(id)
    if (p !== undefined) return { kind: 'point', p }
    const curve = byId.get(id)
    const places = curve?.points.map((point) => points.get(point))
    if (!curve || !places || places.includes(undefined)) return undefined
    return curveOf(curve.kind)?.ref?.(places as number[], sizes.get(id), isClosed(curve))
  }
}

export function isClosed({ points }: Pick<OutlineCurve, 'points'>): boolean {
  return points.length > 3 && points[0] === points.at(-1)
}

/** Whether these things, in this order, are a combination that the constraint can be put on. */
export function takesThese({ takes }: ConstraintDefinition, refs: readonly Ref[]): boolean {
  return takes.some(
    (kinds) => kinds.length === refs.length && kinds.every((kind: RefKind, i) => refs[i]!.kind === kind),
  )
}

/** Points that a constraint holds on a round. */
export function pointsOnRounds(
  { outline }: Layout,
  refs: (id: string) => Ref | undefined,
): ConstraintContext['liesOn'] {
  const key = (p: number, { c, r, s }: RoundRef) => `${p} ${c} ${r} ${s}`
  const held = new Set(
    outline.constraints.flatMap(({ kind, of }) => {
      const [point, round] = of.map(refs)
      return kind === 'on' && point?.kind === 'point' && round?.kind === 'round' ? [key(point.p, round)] : []
    }),
  )
  return (p, round) => held.has(key(p, round))
}

/** Points that coincide, whatever they coincide through. */
export function joinedPoints({ points, outline }: Layout): (p: number, q: number) => boolean {
  const parent = new Map<number, number>()
  const root = (p: number): number => {
    const up = parent.get(p)
    return up === undefined ? p : root(up)
  }
  for (const { kind, of } of outline.constraints) {
    if (kind !== 'coincident') continue
    const [a, b] = of.map((id) => points.get(id))
    if (a === undefined || b === undefined) continue
    const [r, s] = [root(a), root(b)]
    if (r !== s) parent.set(r, s)
  }
  return (p, q) => root(p) === root(q)
}
