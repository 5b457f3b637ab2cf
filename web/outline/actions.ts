import type { Derived, OutlineConstraint } from '@makrel/core/document'
import { defaultFields } from '@makrel/core/fields'
import {
  type ConstraintDefinition,
  constraints,
  type DerivedDefinition,
  derivedAt,
  derivedKinds,
  extended,
  isCut,
  joinedInto,
  madeOwn,
  measuredBy,
  type Ref,
  refsOf,
  type SolvedOutline,
  solveOutline,
  split,
  takesThese,
  trimmed,
  withoutParts,
} from '@makrel/core/outline'
import { nearestOn, type Vec2 } from '@makrel/core/plane'
import { formatLength, formatNumber } from '@makrel/core/units'
import { usePart } from '../state/part.ts'
import { say } from '../ui/Notice.tsx'
import { change, draw, settledNow, solvedNow, useOutline } from './state.ts'

/** What can be done to the outline and what is selected in it, each as one edit. */

/** Beside what was done, to take it back. */
export const undo = { label: 'Undo', run: () => usePart.getState().undo() }

export function changeConstraint(id: string, changes: Partial<OutlineConstraint>, merge?: string): void {
  const outline = settledNow()
  if (!outline) return
  change(
    { ...outline, constraints: outline.constraints.map((each) => (each.id === id ? { ...each, ...changes } : each)) },
    merge,
  )
}

export function changeDerived(id: string, changes: Partial<Derived>, merge?: string): void {
  const outline = settledNow()
  if (!outline) return
  change(
    { ...outline, derived: outline.derived.map((each) => (each.id === id ? { ...each, ...changes } : each)) },
    merge,
  )
}

/** Removes what is selected, or what is named, with what hangs on it. */
export function removeParts(ids: readonly string[] = useOutline.getState().selected): void {
  const outline = settledNow()
  if (!outline || ids.length === 0) return
  change(withoutParts(outline, new Set(ids)))
  useOutline.setState({ selected: [] })
  say({ text: ids.length === 1 ? 'Removed.' : `${ids.length} removed.`, action: undo })
}

/** A constraint that the selection can be held by, with its things in the order that it takes them in. */
export interface Offer {
  readonly definition: ConstraintDefinition
  readonly of: readonly string[]
}

const rank = { point: 0, line: 1, round: 2, bent: 3 } as const

export function offers(solved: SolvedOutline, selected: readonly string[]): Offer[] {
  const find = refsOf(solved.system)
  const refs = selected.flatMap((id) => {
    const ref = find(id)
    return ref ? [{ id, ref }] : []
  })
  if (refs.length === 0 || refs.length !== selected.length) return []
  // Points before lines before rounds; otherwise in the order they were chosen in.
  const sorted = [...refs].sort((a, b) => rank[a.ref.kind] - rank[b.ref.kind])
  const of = sorted.map(({ id }) => id)
  const kinds = sorted.map(({ ref }) => ref) as Ref[]
  const start = solved.solution.x
  return constraints.flatMap((definition: ConstraintDefinition): Offer[] => {
    if (takesThese(definition, kinds)) {
      // Some hold only where the things meet already.
      const probe = definition.equation(kinds, { start, same: (p, q) => p === q, liesOn: () => false, value: 1 })
      return probe || definition.kind === 'tangent' ? [{ definition, of }] : []
    }
    // One thing after another, where each can be held so by itself or to the first.
    if (definition.value) return []
    const single = kinds.length > 1 && kinds.every((ref) => takesThese(definition, [ref]))
    const toFirst = kinds.length > 2 && kinds.slice(1).every((ref) => takesThese(definition, [kinds[0]!, ref]))
    return single || toFirst ? [{ definition, of }] : []
  })
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

/** Holds the selection so. A dimension takes the value that it has now, and is open for typing. */
export function hold({ definition, of }: Offer): void {
  const solved = solvedNow()
  if (!solved) return
  const measured = definition.value ? measuredBy(solved, { kind: definition.kind, of }) : undefined
  const { unit } = usePart.getState().part!
  const text =
    measured === undefined
      ? undefined
      : definition.value === 'angle'
        ? formatNumber(measured, 2)
        : formatLength(measured, unit)
  const id = draw((sketch) => {
    const find = refsOf(solved.system)
    const refs = of.map(find) as Ref[]
    if (takesThese(definition, refs)) return sketch.hold(definition.kind, of, text)
    if (refs.every((ref) => takesThese(definition, [ref])))
      return of.map((each) => sketch.hold(definition.kind, [each])).at(-1)
    return of
      .slice(1)
      .map((each) => sketch.hold(definition.kind, [of[0]!, each]))
      .at(-1)
  })
  if (id === undefined || !definition.value) return
  // Of what is held by the part alone a dimension can only tell.
  const { system, solution } = solved
  const asked = definition.equation(of.map(refsOf(system)) as Ref[], {
    start: solution.x,
    same: (p, q) => p === q,
    liesOn: () => false,
    value: measured ?? 0,
  })
  const told = asked?.vars.every((place) => place >= system.unknowns) === true
  if (told) changeConstraint(id, { driven: true })
  useOutline.setState({ openDimension: told ? undefined : id, selected: [id] })
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
  } else useOutline.setState({ selected: [id] })
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
    say({ text: 'What was derived there is curves of its own now.', action: undo })
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
