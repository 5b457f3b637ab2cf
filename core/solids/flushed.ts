import type { Plane, Scope, Solid } from '../kernel/index.ts'
import { moved, world } from '../place/index.ts'
import type { BodyOperand } from '../planning/index.ts'
import { flushGrowth } from './flush.ts'

/** Solids made ready to lie flush with others, and taken back to where they were. */

/** Copies as one solid; `flush`: the planes of each that lie obliquely against others. */
export function united(scope: Scope, solids: readonly Solid[], flush?: readonly (readonly Plane[])[]): Solid {
  if (solids.length === 1) return solids[0]!
  if (!flush) return scope.union(solids)
  return closedUp(scope, scope.union(solids.map((solid, i) => grownAt(scope, solid, flush[i]!))), flush.flat())
}

export function grownAt(scope: Scope, solid: Solid, planes: readonly Plane[]): Solid {
  return planes.length > 0 ? scope.grown(solid, planes, flushGrowth) : solid
}

export function closedUp(scope: Scope, solid: Solid, planes: readonly Plane[]): Solid {
  return planes.length > 0 ? scope.ungrown(solid, planes, flushGrowth) : solid
}

/** A cut made longer by so much, mm, at the ends that lie in a face of the body, so that no skin stays there. */
export function carriedPast(scope: Scope, solid: Solid, { top, bottom }: BodyOperand['flush'], by: number): Solid {
  const bounds = solid.bounds()
  if (!bounds || !(top || bottom)) return solid
  const [low, high] = [bounds.min[2], bounds.max[2]]
  const above = top ? by : 0
  const below = bottom ? by : 0
  const factor = (high - low + above + below) / (high - low)
  const stretched = scope.scaled(solid, [1, 1, factor])
  // Stretched about z = 0; moved so that the lower end comes to `below` under where it was.
  return scope.placed(stretched, moved(world, [0, 0, low - below - low * factor]))
}
