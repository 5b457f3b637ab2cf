import type { Outline, OutlineCurve } from '../document/index.ts'
import { type DrawnCurve, distance2, endOf, nearestOn, type Segment, startOf, type Vec2 } from '../plane/index.ts'
import { toggledAfter } from './chosen.ts'
import type { CannotCut } from './cutting.ts'
import { drawnSegment, Ends } from './fromSegments.ts'
import { Sketch, withoutParts } from './sketch.ts'
import { derivedCurves, type SolvedOutline, solveOutline } from './solved.ts'

/** Ends of what is derived that lie nearer to those of the drawing meet them, mm. */
const meetWithin = 1e-6

/** Constraints that depend on where a curve ends. */
const ofExtent: ReadonlySet<string> = new Set(['distance', 'distance-x', 'distance-y', 'equal', 'midpoint'])

/** The id of what made the derived curve within `within` mm of a place; undefined where none lies there. */
export function derivedAt({ outline, curves }: SolvedOutline, at: Vec2, within: number): string | undefined {
  let best: { readonly id: string; readonly distance: number } | undefined
  for (const { id, segments } of curves)
    for (const s of segments) {
      const { distance } = nearestOn(s, at)
      if (distance <= within && (!best || distance < best.distance)) best = { id, distance }
    }
  return best && outline.derived.find(({ id }) => makes(id, best!.id))?.id
}

/** Whether a derived curve comes from this: `d1.2` is its own, `l3~d1.2` a copy of l3. */
function makes(derived: string, curve: string): boolean {
  return curve.slice(curve.lastIndexOf('~') + 1).startsWith(`${derived}.`)
}

/**
 * What something derived comes to, drawn as curves of its own in its place, where they can be cut and held. Curves that it
 * shortened end where they end now; a corner that is measured to stays on both of its sides, and its round stays tangent and
 * keeps its radius. Regions that were taken or left out stay so.
 */
export function madeOwn(
  solved: SolvedOutline,
  derived: string,
): { readonly outline: Outline; readonly ids: readonly string[] } | CannotCut {
  const { outline, points } = solved
  const place = outline.derived.findIndex(({ id }) => id === derived)
  const definition = outline.derived[place]
  if (!definition) return { detail: 'There is nothing derived here.' }
  const upTo = (count: number) =>
    derivedCurves({ ...outline, derived: outline.derived.slice(0, count) }, solved.values, points, solved.drawnCurves)
  const [before, after] = [upTo(place), upTo(place + 1)]
  if (after.problems.length > before.problems.length)
    return { detail: 'It makes no curves as it is; fix it first, or remove it.' }
  const was = new Map(before.curves.map(({ id, segments }) => [id, segments]))
  const sketch = new Sketch({ ...outline, derived: outline.derived.filter(({ id }) => id !== derived) })
  const ends = new Ends(sketch, meetWithin)
  for (const [id, at] of curveEnds(solved)) ends.know(at, id)
  const added = after.curves.filter(({ id }) => !was.has(id))
  const changed = after.curves.filter(({ id, segments }) => was.has(id) && was.get(id) !== segments)
  const replaced = changed.flatMap((curve) => (shortened(sketch, ends, curve, was.get(curve.id)!) ? [] : [curve]))
  if (replaced.some(({ id }) => !outline.curves.some((own) => own.id === id)))
    return { detail: 'It changes what something else derives; make that its own first.' }
  const ids = [...added, ...replaced].flatMap(({ segments }) => segments.flatMap((s) => drawnSegment(sketch, ends, s)))
  if (definition.kind === 'corner') holdCorners(sketch, definition, outline, ids)
  const next = withoutUnused(withoutParts(sketch.outline, new Set(replaced.map(({ id }) => id))), outline)
  if (outline.toggled.length === 0) return { outline: next, ids }
  const now = solveOutline(next, solved.values).arrangement.faces
  return { outline: { ...next, toggled: toggledAfter(solved, now) }, ids }
}

/** The points of a drawing that curves end at, with their places. */
function curveEnds({ outline, points, drawnCurves }: SolvedOutline): Map<string, Vec2> {
  return new Map(
    outline.curves.flatMap(({ id, points: own, helper }) => {
      const segments = drawnCurves.get(id) ?? []
      if (helper || segments.length === 0) return []
      const places = [startOf(segments[0]!), endOf(segments.at(-1)!)]
      return own.flatMap((p): [string, Vec2][] => {
        const at = points.get(p)
        return at && places.some((end) => distance2(end, at) <= meetWithin) ? [[p, at]] : []
      })
    }),
  )
}

/**
 * Gives a line or arc of the drawing the ends that it has now. One whose length counts for something stays whole as a helper
 * beside it, so that what was measured still is. False where it is another curve, or no longer one stretch.
 */
function shortened(sketch: Sketch, ends: Ends, { id, segments }: DrawnCurve, was: readonly Segment[]): boolean {
  const own = sketch.outline.curves.find((curve) => curve.id === id)
  const [now, ...more] = segments
  if (!own || !now || more.length > 0 || was.length !== 1 || (own.kind !== 'line' && own.kind !== 'arc')) return false
  const first = own.kind === 'line' ? 0 : 1
  const [start, end] = [startOf(now), endOf(now)]
  const [before, beyond] = [startOf(was[0]!), endOf(was[0]!)]
  const points = own.points.map((p, i) => {
    if (i === first && distance2(start, before) > meetWithin) return ends.at(start)
    if (i === first + 1 && distance2(end, beyond) > meetWithin) return ends.at(end)
    return p
  })
  const measured = sketch.outline.constraints.some(({ kind, of }) => ofExtent.has(kind) && of.includes(id))
  const change = (what: Partial<OutlineCurve>) => {
    const { outline } = sketch
    sketch.outline = {
      ...outline,
      curves: outline.curves.map((curve) => (curve.id === id ? { ...curve, ...what } : curve)),
    }
  }
  change({ points })
  if (!measured) return true
  // Steps stand on it by its id, so the whole curve is what gets another one.
  const whole = sketch.curve(own.kind, own.points, { helper: true })
  const renamed = (of: readonly string[]) => of.map((name) => (name === id ? whole : name))
  const { outline } = sketch
  sketch.outline = { ...outline, constraints: outline.constraints.map((each) => ({ ...each, of: renamed(each.of) })) }
  for (const p of points) if (!own.points.includes(p)) sketch.hold('on', [p, whole])
  return true
}

/** Corners that are still measured to lie on both their sides; rounds go on being tangent to these, with their radius. */
function holdCorners(
  sketch: Sketch,
  { of, fields }: Outline['derived'][number],
  before: Outline,
  joints: readonly string[],
): void {
  const { curves, constraints } = sketch.outline
  const known = new Set(curves.map(({ id }) => id))
  const ends = (id: string) => curves.find((curve) => curve.id === id)!.points
  for (const corner of of)
    if (constraints.some((each) => each.of.includes(corner)) || curves.some(({ points }) => points.includes(corner)))
      for (const { id, points } of before.curves)
        if (points.includes(corner) && known.has(id) && !ends(id).includes(corner)) sketch.hold('on', [corner, id])
  if ((fields.form ?? 'round') !== 'round') return
  for (const joint of curves.filter(({ id, kind }) => joints.includes(id) && kind === 'arc')) {
    const [, ...ends] = joint.points
    for (const side of curves)
      if (!joints.includes(side.id) && side.points.some((p) => ends.includes(p)))
        sketch.hold('tangent', side.kind === 'line' ? [side.id, joint.id] : [joint.id, side.id])
    sketch.hold('radius', [joint.id], fields.size ?? '3')
  }
}

/** Without the points that were only there for what is gone. */
function withoutUnused(outline: Outline, before: Outline): Outline {
  const used = new Set(
    [
      ...outline.curves.map(({ points }) => points),
      ...outline.constraints.map(({ of }) => of),
      ...outline.derived.map(({ of }) => of),
    ].flat(),
  )
  const usedBefore = new Set(before.curves.flatMap(({ points }) => points))
  return withoutParts(
    outline,
    new Set(outline.points.flatMap(({ id }) => (usedBefore.has(id) && !used.has(id) ? [id] : []))),
  )
}
