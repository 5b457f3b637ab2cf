import type { SolvedOutline } from '@makrel/core/outline'
import { boxesMeet, boxOfSegment, distance2, isWithin, nearestOn, type Vec2 } from '@makrel/core/plane'

export interface Hit {
  readonly kind: 'point' | 'curve'
  readonly id: string
}

/** The point or, where none is near, the curve that lies within `within` mm of a place; axes and origin come last. */
export function hitAt(solved: SolvedOutline, at: Vec2, within: number): Hit | undefined {
  let point: { readonly id: string; readonly distance: number } | undefined
  for (const { id } of solved.outline.points) {
    const distance = distance2(solved.points.get(id)!, at)
    if (distance <= within && (!point || distance < point.distance)) point = { id, distance }
  }
  if (point) return { kind: 'point', id: point.id }
  if (Math.hypot(at[0], at[1]) <= within) return { kind: 'point', id: 'origin' }
  let curve: { readonly id: string; readonly distance: number } | undefined
  for (const [id, segments] of solved.drawnCurves)
    for (const s of segments) {
      if (!boxesMeet(boxOfSegment(s), { min: at, max: at }, within)) continue
      const { distance } = nearestOn(s, at)
      if (distance <= within && (!curve || distance < curve.distance)) curve = { id, distance }
    }
  if (curve) return { kind: 'curve', id: curve.id }
  if (Math.abs(at[1]) <= within / 2) return { kind: 'curve', id: 'x-axis' }
  if (Math.abs(at[0]) <= within / 2) return { kind: 'curve', id: 'y-axis' }
  return undefined
}

/** The key of the innermost region at a place. */
export function regionAt({ arrangement }: SolvedOutline, at: Vec2): string | undefined {
  const around = arrangement.faces.filter((face) => isWithin(face, at))
  return around.sort((a, b) => a.area - b.area)[0]?.key
}

/** Points that lie in a box, and curves all of whose points do. */
export function within(solved: SolvedOutline, a: Vec2, b: Vec2): string[] {
  const inside = ([x, y]: Vec2) =>
    x >= Math.min(a[0], b[0]) && x <= Math.max(a[0], b[0]) && y >= Math.min(a[1], b[1]) && y <= Math.max(a[1], b[1])
  const points = solved.outline.points.flatMap(({ id }) => (inside(solved.points.get(id)!) ? [id] : []))
  const all = new Set(points)
  // Curves all of whose points lie in it; then these points go without saying.
  const curves = solved.outline.curves.filter((curve) => curve.points.every((p) => all.has(p)))
  const own = new Set(curves.flatMap((curve) => curve.points))
  return [...curves.map(({ id }) => id), ...points.filter((id) => !own.has(id))]
}
