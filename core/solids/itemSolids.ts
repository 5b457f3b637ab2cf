import { type BodyOptions, type Item, itemBodies, reachOf } from '../hardware/index.ts'
import { type Ring, type Scope, type Solid, segmentsFor } from '../kernel/index.ts'
import { extruded, regularCorners } from '../shapes/index.ts'

/** An item as a solid, its upper end at z = 0 about the z axis; undefined of what has no body of its own, such as rings that spring. */
export function itemSolid(scope: Scope, item: Item, fineness: number, options: BodyOptions = {}): Solid | undefined {
  const bodies = itemBodies(item, options).map((body) =>
    body.kind === 'turned'
      ? scope.revolve(body.profile, segmentsFor(reachOf(body), fineness))
      : between(scope, body.ring, body.low, body.high),
  )
  return bodies.length > 1 ? scope.union(bodies) : bodies[0]
}

/** What an item passes on its way in, from just above its seat to so far up, or to so far sideways along x; `tool`: a diameter that has to be free above it. */
export function wayIn(
  scope: Scope,
  item: Item,
  fineness: number,
  { far, less, tool = 0, side }: { far: number; less: number; tool?: number | undefined; side?: boolean },
): Solid | undefined {
  const bodies = itemBodies(item, { less })
  if (bodies.length === 0) return undefined
  const widest = bodies.toSorted((a, b) => reachOf(b) - reachOf(a))[0]!
  if (side) {
    const straight = bodies.find((body) => body.kind === 'straight')
    if (!straight) return undefined
    const half = Math.max(...straight.ring.map(([, y]) => y))
    const ring = [
      [0, -half],
      [far, -half],
      [far, half],
      [0, half],
    ] as const
    return between(scope, ring, straight.low, straight.high)
  }
  const across = Math.max(tool / 2, widest.kind === 'turned' ? reachOf(widest) : 0)
  const own = widest.kind === 'straight' ? [between(scope, widest.ring, 0, far)] : []
  return scope.union(across > 0 ? [...own, scope.cylinder(far, across, across, segmentsFor(across, fineness))] : own)
}

const tubeSides = 72
/** A tube about the z axis, between two depths below z = 0; mm. */
export function tubeBelow(scope: Scope, inner: number, outer: number, from: number, to: number): Solid {
  const rings = () => [regularCorners(tubeSides, outer), regularCorners(tubeSides, inner).toReversed()]
  return extruded(scope, { low: -to, high: -from, rings })
}

function between(scope: Scope, ring: Ring, low: number, high: number): Solid {
  return extruded(scope, { low, high, rings: () => [ring] })
}
