import type { Scope, Solid } from '../kernel/index.ts'
import { type Vec3, world } from '../place/index.ts'
import { type Ring, ringArea } from '../plane/index.ts'
import type { Compensation } from './compensation.ts'

/** What begins no higher than this stands on the bed, mm. */
const onBed = 1e-3
/** What is cut away reaches so far beyond all of it, mm. */
const beyond = 1
/** Strips that come back from being made narrower and wider again may lack so much at their borders, mm. */
const rounding = 1e-3

export interface Footed {
  readonly solid: Solid
  /** mm² of the first layer that stay as wide as they are drawn: less than a line would be left of them */
  readonly narrow: number
  /** a place where that is so */
  readonly low: Vec3
}

/** A solid whose first layer is narrower all round, where it stands on the bed: pressed onto it, it is as wide as it is drawn. */
export function footed(scope: Scope, solid: Solid, { flare, firstLayer, lineWidth }: Compensation): Footed {
  const bounds = solid.bounds()
  if (flare <= 0 || !bounds || Math.abs(bounds.min[2]) > onBed || bounds.max[2] < firstLayer)
    return { solid, narrow: 0, low: world.origin }
  // A slicer cuts a layer in its middle.
  const { rings } = scope.slice(solid, firstLayer / 2)
  const sharp = { sharp: true }
  const narrower = scope.inset(rings, flare, sharp)
  // There and back again nothing is left of what is less than a line wide.
  const half = flare + lineWidth / 2
  const wide = scope.inset(scope.inset(rings, half, sharp), -half - rounding, sharp)
  // What is left beside sharp corners is no place of its own.
  const narrow = scope.withoutRegions(rings, wide).filter((ring) => Math.abs(ringArea(ring)) > lineWidth ** 2)
  const [[left, front], [right, back]] = [bounds.min, bounds.max]
  const all: Ring = [
    [left - beyond, front - beyond],
    [right + beyond, front - beyond],
    [right + beyond, back + beyond],
    [left - beyond, back + beyond],
  ]
  const away = scope.withoutRegions([all], [...narrower, ...narrow])
  const cut = scope.placed(scope.extrude(away, firstLayer + beyond), { ...world, origin: [0, 0, -beyond] })
  const [x, y] = narrow[0]?.[0] ?? [0, 0]
  return {
    solid: scope.difference(solid, [cut]),
    narrow: narrow.reduce((sum, ring) => sum + ringArea(ring), 0),
    low: [x, y, 0],
  }
}
