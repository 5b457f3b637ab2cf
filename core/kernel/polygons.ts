import type { Ring, Vec2 } from '../plane/index.ts'
import { failed } from './checks.ts'

/** @throws ProblemError kernel-failed where a point of them is not at a finite place */
export function finiteRings(rings: readonly Ring[]): readonly Ring[] {
  for (const ring of rings)
    for (const [x, y] of ring)
      if (!Number.isFinite(x) || !Number.isFinite(y)) failed('one of its points is not at a finite place')
  return rings
}

/** Points of an outline nearer to each other than this are one, mm. */
const samePoint = 1e-8

/** A ring without points that repeat the one before. */
export function cleaned(ring: Ring): Ring {
  const kept: Vec2[] = []
  const apart = (a: Vec2, b: Vec2) => Math.abs(a[0] - b[0]) > samePoint || Math.abs(a[1] - b[1]) > samePoint
  for (const point of ring) if (kept.length === 0 || apart(kept.at(-1)!, point)) kept.push(point)
  while (kept.length > 1 && !apart(kept.at(-1)!, kept[0]!)) kept.pop()
  return kept
}
