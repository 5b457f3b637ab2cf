import type { Derived, OutlineConstraint } from '@makrel/core/document'
import { defaultFields } from '@makrel/core/fields'
import {
  type ConstraintDefinition,
  type DerivedDefinition,
  derivedAt,
  derivedKinds,
  extended,
  type Hold,
  isCut,
  joinedInto,
  madeOwn,
  measuredBy,
  type Ref,
  refsOf,
  type SolvedOutline,
  solveOutline,
  split,
  trimmed,
  withoutParts,
} from '@makrel/core/outline'
import { nearestOn, type Vec2 } from '@makrel/core/plane'
import { formatLength, formatNumber } from '@makrel/core/units'
import { sayDone } from '../state/done.ts'
import { usePart } from '../state/part.ts'
import { say } from '../ui/Notice.tsx'
import { change, draw, settledNow, solvedNow, useOutline } from './state.ts'

/** What can be done to the outline and what is selected in it, each as one edit. */

export function changeConstraint(id: string, changes: Partial<OutlineConstraint>, merge?: string): void {
  changeConstraints(new Map([[id, changes]]), merge)
}

function changeConstraints(changes: ReadonlyMap<string, Partial<OutlineConstraint>>, merge?: string): void {
  const outline = settledNow()
  const constraints = outline && changedItems(outline.constraints, changes)
  if (constraints) change({ ...outline, constraints }, merge)
}

export function changeDerived(id: string, changes: Partial<Derived>, merge?: string): void {
  const outline = settledNow()
  const derived = outline && changedItems(outline.derived, new Map([[id, changes]]))
  if (derived) change({ ...outline, derived }, merge)
}

/** The list with changes to some of its items; undefined where all of that stands there already, and is no edit. */
function changedItems<T extends { readonly id: string }>(
  items: readonly T[],
  changes: ReadonlyMap<string, Partial<T>>,
): readonly T[] | undefined {
  const changed = items.map((item) => ({ ...item, ...changes.get(item.id) }))
  return JSON.stringify(changed) === JSON.stringify(items) ? undefined : changed
}

/** Removes what is selected, or what is named, with what hangs on it. */
export function removeParts(ids: readonly string[] = useOutline.getState().selected): void {
  const outline = settledNow()
  if (!outline || ids.length === 0) return
  change(withoutParts(outline, new Set(ids)))
  useOutline.setState({ selected: [] })
  sayDone(ids.length === 1 ? 'Removed.' : `${ids.length} removed.`)
}

/** What is selected stays with the part no more: its points can be moved, its size can change. */
export function letGo(): void {
  const outline = settledNow()
  if (!outline) return
  const chosen = new Set(useOutline.getState().selected)
  for (const { id, points } of outline.curves) if (chosen.has(id)) for (const point of points) chosen.add(point)
  const free = <T extends { readonly id: string; readonly taken?: unknown }>({ taken, ...rest }: T) =>
    ({ ...rest, ...(taken && !chosen.has(rest.id) ? { taken } : {}) }) as unknown as T
  change({ ...outline, points: outline.points.map(free), curves: outline.curves.map(free) })
}

/** Holds the selection so. A dimension takes the value that it has now, and is open for typing; several become one value then. */
export function hold({ definition, each }: Hold): void {
  const solved = solvedNow()
  if (!solved) return
  const made = draw((sketch) => each.map((of) => sketch.hold(definition.kind, of, valueNow(solved, definition, of))))
  if (!made || !definition.value) return
  // Of what is held by the part alone a dimension can only tell.
  const told = made.filter((_, i) => isHeldByPart(solved, definition, each[i]!))
  for (const id of told) changeConstraint(id, { driven: true })
  const [open, ...along] = made.flatMap((id, i) =>
    told.includes(id) ? [] : [{ id, value: valueNow(solved, definition, each[i]!)! }],
  )
  useOutline.setState({ openDimension: open?.id, openAlong: open ? [open, ...along] : [], selected: made })
}

/** What a dimension measures now, as it is typed; undefined of other constraints. */
function valueNow(solved: SolvedOutline, { kind, value }: ConstraintDefinition, of: readonly string[]) {
  const measured = value && measuredBy(solved, { kind, of })
  if (measured === undefined) return undefined
  return value === 'angle' ? formatNumber(measured, 2) : formatLength(measured, usePart.getState().part!.unit)
}

function isHeldByPart({ system, solution }: SolvedOutline, definition: ConstraintDefinition, of: readonly string[]) {
  const context = { start: solution.x, same: (p: number, q: number) => p === q, liesOn: () => false, value: 0 }
  const equation = definition.equation(of.map(refsOf(system)) as Ref[], context)
  return equation?.vars.every((place) => place >= system.unknowns) === true
}

/** Types the value of a dimension, and of those that were put on along with it; what was typed is taken back for all. */
export function typeDimension(id: string, value: string, final: boolean): void {
  const { openDimension, openAlong } = useOutline.getState()
  const along = openDimension === id ? openAlong : []
  const back = along[0]?.value === value
  const typed = along.map((each) => [each.id, { value: back ? each.value : value }] as const)
  changeConstraints(new Map([...typed, [id, { value }]]), final ? undefined : `${id}.value`)
}

export function derivedOffers(solved: SolvedOutline, selected: readonly string[]): DerivedDefinition[] {
  const points = selected.filter((id) => solved.outline.points.some((p) => p.id === id)).length
  const curves = selected.filter((id) => solved.outline.curves.some((c) => c.id === id) || id.endsWith('-axis')).length
  const lines = selected.filter(
    (id) => id.endsWith('-axis') || solved.outline.curves.some((c) => c.id === id && c.kind === 'line'),
  ).length
  if (points + curves !== selected.length) return []
  return derivedKinds.filter((definition: DerivedDefinition) => definition.fits({ points, curves, lines }))
}

export function derive(definition: DerivedDefinition): void {
  const { selected } = useOutline.getState()
  const solved = solvedNow()
  const last = selected.at(-1)
  const curve = (id: string | undefined) => solved?.outline.curves.find((each) => each.id === id)
  // Several curves are mirrored as one is, in the upright axis; unless an axis, a helping line, or the only line was chosen last.
  const onlyLine =
    curve(last)?.kind === 'line' && selected.slice(0, -1).every((id) => curve(id) && curve(id)!.kind !== 'line')
  const inLast = selected.length > 1 && (last?.endsWith('-axis') || curve(last)?.helper === true || onlyLine)
  const of = definition.kind !== 'mirror' || inLast ? selected : [...selected, 'y-axis']
  const { unit } = usePart.getState().part!
  const id = draw((sketch) => sketch.derive(definition.kind, of, defaultFields(definition.fields, unit)))
  if (id === undefined) return
  const fault = solvedNow()?.problems.find(({ code, path }) => code === 'derived-failed' && path.includes(id))
  if (fault) {
    // What cannot be drawn leaves nothing behind.
    usePart.getState().undo()
    say({ text: fault.text })
  } else useOutline.setState({ selected: [id], justDerived: id })
}

/** Whether what is selected bounds material or only helps. */
export function setHelper(helper: boolean): void {
  const outline = settledNow()
  const { selected } = useOutline.getState()
  if (outline)
    change({
      ...outline,
      curves: outline.curves.map((curve) => (selected.includes(curve.id) ? { ...curve, helper } : curve)),
    })
}

export function setSharp(sharp: boolean): void {
  const outline = settledNow()
  const { selected } = useOutline.getState()
  if (!outline) return
  const changed = outline.points.map((point) => {
    if (!selected.includes(point.id)) return point
    const { sharp: _, ...rest } = point
    return sharp ? { ...rest, sharp } : rest
  })
  change({ ...outline, points: changed })
}

/** Two ends that nearly meet become one point. */
export function joinEnds(kept: string, gone: string): void {
  const outline = settledNow()
  if (!outline) return
  change(joinedInto(outline, kept, gone))
  useOutline.setState({ selected: [] })
}

/** Cures a near miss: the loose end goes on to what it nearly meets. */
export function closeGap(at: Vec2, curve: string, to: Vec2): void {
  const solved = solvedNow()
  const outline = settledNow()
  if (!solved || !outline) return
  const near = (p: Vec2) =>
    outline.points.find(
      ({ id }) => Math.hypot(solved.points.get(id)![0] - p[0], solved.points.get(id)![1] - p[1]) < 1e-6,
    )
  const [end, other] = [near(at), near(to)]
  if (end && other) joinEnds(other.id, end.id)
  else if (end)
    draw((sketch) => {
      sketch.outline = {
        ...sketch.outline,
        points: sketch.outline.points.map((p) => (p.id === end.id ? { ...p, at: [to[0], to[1]] } : p)),
      }
      sketch.hold('on', [end.id, curve])
    })
}

/** Uses a tool on the curve under the pointer; why it cannot be is told. */
export function cutCurve(tool: string, id: string, at: Vec2): void {
  const solved = solvedNow()
  if (!solved) return
  const cut = { trim: trimmed, extend: extended, split }[tool]
  const result = cut?.(solved, id, at)
  if (!result) return
  if (isCut(result)) change(result)
  else say({ text: result.detail })
}

/** The same on what is derived: it is drawn as curves of its own first. Whether something derived lies there. */
export function cutDerived(tool: string, at: Vec2, within: number): boolean {
  const solved = solvedNow()
  const derived = solved && derivedAt(solved, at, within)
  const cut = { trim: trimmed, extend: extended, split }[tool]
  if (!solved || !cut || derived === undefined) return false
  const own = madeOwn(solved, derived)
  if ('detail' in own) {
    say({ text: own.detail })
    return true
  }
  const drawn = solveOutline(own.outline, solved.values)
  const far = (id: string) => Math.min(...drawn.drawnCurves.get(id)!.map((s) => nearestOn(s, at).distance))
  const [id] = [...own.ids].sort((a, b) => far(a) - far(b))
  const result = id === undefined ? { detail: 'There is nothing to cut here.' } : cut(drawn, id, at)
  if (isCut(result)) {
    change(result)
    sayDone('What was derived there is now plain curves.')
  } else say({ text: result.detail })
  return true
}

/** Draws what something derived comes to as curves of its own, in its place. */
export function makeDerivedOwn(id: string): void {
  const solved = solvedNow()
  const own = solved && madeOwn(solved, id)
  if (!own) return
  if ('detail' in own) say({ text: own.detail })
  else change(own.outline)
}

export function toggleRegion(key: string): void {
  const outline = settledNow()
  if (!outline) return
  const { toggled } = outline
  change({ ...outline, toggled: toggled.includes(key) ? toggled.filter((other) => other !== key) : [...toggled, key] })
}
