import type { Ring, Scope, Solid } from '../kernel/index.ts'
import type { Vec3 } from '../place/index.ts'
import type { Prism } from './define.ts'

/** A round of an outline's hull; a corner is a round of radius 0. */
export interface Round {
  readonly x: number
  readonly y: number
  readonly r: number
}

/** How far a prism over the hull of `rounds`, from z = `low` to `high`, reaches along a unit direction. */
export function prismReach(rounds: readonly Round[], low: number, high: number, d: Vec3): number {
  const level = Math.hypot(d[0], d[1])
  return Math.max(...rounds.map(({ x, y, r }) => x * d[0] + y * d[1] + r * level)) + Math.max(low * d[2], high * d[2])
}

/** The corners of a regular polygon with a corner at `from` degrees. */
export function regularCorners(sides: number, radius: number, from = 0): Ring {
  return Array.from({ length: sides }, (_, i) => {
    const rad = ((from + (360 * i) / sides) * Math.PI) / 180
    return [radius * Math.cos(rad), radius * Math.sin(rad)] as const
  })
}

export function cornerRounds(ring: Ring): Round[] {
  return ring.map(([x, y]) => ({ x, y, r: 0 }))
}

/** The solid of a prism. */
export function extruded(scope: Scope, { low, high, rings }: Prism): Solid {
  return scope.placed(scope.extrude(rings(), high - low), {
    origin: [0, 0, low],
    u: [1, 0, 0],
    v: [0, 1, 0],
    n: [0, 0, 1],
  })
}
