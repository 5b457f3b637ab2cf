import type { Vec2 } from '@makrel/core/plane'

/** Turns within this of a multiple of 15 degrees take it, degrees. */
const snapsWithin = 2
const snap = 15

/**
 * How far something turns about a place when it is dragged from one point to another: whole degrees, and at every 15
 * where that is near; to a hundredth when `free`. Degrees, counter-clockwise, over −180 to 180.
 */
export function turnBetween(about: Vec2, from: Vec2, to: Vec2, free: boolean): number {
  const angle = (p: Vec2) => (Math.atan2(p[1] - about[1], p[0] - about[0]) * 180) / Math.PI
  const raw = ((((angle(to) - angle(from) + 180) % 360) + 360) % 360) - 180
  if (free) return rounded(raw, 100)
  const near = Math.round(raw / snap) * snap
  return rounded(Math.abs(raw - near) <= snapsWithin ? near : Math.round(raw), 1)
}

/** By what factor it grows when it is dragged from one point to another: in steps of 0.05, of 0.001 when `free`; never below the first. */
export function scaleBetween(about: Vec2, from: Vec2, to: Vec2, free: boolean): number {
  const far = (p: Vec2) => Math.hypot(p[0] - about[0], p[1] - about[1])
  const step = free ? 1000 : 20
  const start = far(from)
  return start === 0 ? 1 : Math.max(1 / step, rounded(far(to) / start, step))
}

function rounded(value: number, parts: number): number {
  // Without a minus before nothing.
  return Math.round(value * parts) / parts + 0
}
