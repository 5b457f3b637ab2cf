import { dot, norm, scaled, subtract, type Vec3 } from '../place/index.ts'
import type { Freedom } from './define.ts'

/** A line of sight, or any other: `direction` is unit. */
export interface Sight {
  readonly from: Vec3
  readonly direction: Vec3
}

/** Slopes are taken over so much, degrees or mm. */
const h = 1e-3
/** No step is longer than this, degrees or mm: from one side a point may seem to go straight that goes round. */
const stride = 20
const mostSteps = 30

/**
 * The position within a travel at which a point comes nearest to a line of sight, near that at which it is (Gauss and Newton's
 * method in one variable, steps halved until they help); and how far it is from the line there, mm.
 */
export function followed(
  pointAt: (position: number) => Vec3,
  sight: Sight,
  { at, from, to }: { readonly at: number; readonly from: number; readonly to: number },
): { readonly position: number; readonly off: number } {
  const away = (position: number): Vec3 => {
    const p = subtract(pointAt(position), sight.from)
    return subtract(p, scaled(sight.direction, dot(p, sight.direction)))
  }
  const within = (position: number) => Math.min(to, Math.max(from, position))
  let position = within(at)
  let off = away(position)
  for (let i = 0; i < mostSteps; i++) {
    // Towards the inside at an end of its travel.
    const by = position + h > to ? -h : h
    const slope = scaled(subtract(away(position + by), off), 1 / by)
    const steep = dot(slope, slope)
    if (!(steep > 1e-18)) break
    let step = Math.min(stride, Math.max(-stride, -dot(off, slope) / steep))
    let better: { readonly position: number; readonly off: Vec3 } | undefined
    for (let k = 0; k < 8 && !better && Math.abs(step) > 1e-6; k++) {
      const next = within(position + step)
      const there = away(next)
      if (norm(there) < norm(off)) better = { position: next, off: there }
      step /= 2
    }
    if (!better) break
    const moved = Math.abs(better.position - position)
    position = better.position
    off = better.off
    if (moved < 1e-4) break
  }
  return { position, off: norm(off) }
}

/** How far a freedom can go from where it stands, by hand. */
export function openAt(
  { from, to, period, oneWay }: Freedom,
  at: number,
): { readonly from: number; readonly to: number } {
  if (!oneWay) return { from, to }
  const rest = period ? from + Math.floor((at - from) / period + 1e-9) * period : at
  return { from: Math.min(to, Math.max(from, rest)), to }
}
