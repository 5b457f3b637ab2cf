import type { Outline } from '../document/index.ts'
import { solved } from './solve.ts'
import { type Given, systemOf } from './system.ts'

/**
 * The outline with its dimensions met by moving only the points that are `movable`: what was just drawn takes its size,
 * and all that was there stays. Where that cannot be, the outline as it is, for all to give way.
 */
export function grownAlone(outline: Outline, movable: readonly string[], given: Given): Outline {
  const pinned = outline.points
    .filter(({ id, taken }) => !taken && !movable.includes(id))
    .map(({ id }) => ({ id: `pinned ${id}`, kind: 'fixed', of: [id] }))
  const system = systemOf({ ...outline, constraints: [...outline.constraints, ...pinned] }, given)
  const { x, solved: well } = solved(system)
  if (!well) return outline
  const place = (id: string) => system.points.get(id)!
  return {
    ...outline,
    points: outline.points.map((point) =>
      movable.includes(point.id) ? { ...point, at: [x[place(point.id)]!, x[place(point.id) + 1]!] } : point,
    ),
    curves: outline.curves.map((curve) => {
      const size = system.sizes.get(curve.id)
      return size === undefined ? curve : { ...curve, size: Math.abs(x[size]!) }
    }),
  }
}
