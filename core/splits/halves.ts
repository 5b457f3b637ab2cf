import type { Ring, Scope, Solid } from '../kernel/index.ts'
import type { SurfaceTelling } from '../naming/index.ts'
import { type Box, corners, type Frame, moved, norm, scaled, subtract } from '../place/index.ts'

/** Makes a solid's surfaces those of the step that splits. */
export type Owning = (solid: Solid, tell: SurfaceTelling) => Solid

/**
 * What reaches from one half into the other, in the bed's frame: `kept` stays with the first half beyond the plane, `sunk`
 * is taken from the second one for it, and `sunkFirst` from the first one.
 */
export interface Keys {
  readonly kept: readonly Solid[]
  readonly sunk: readonly Solid[]
  readonly sunkFirst: readonly Solid[]
}
/** What of them could not be done; `most` mm would do. */
export interface KeyFault {
  readonly what: 'no-room' | 'too-deep'
  readonly most: number
}

/** What is left between two of them, round them and behind them, mm, at least. */
export const keyWall = 1
/** How far they begin below the plane, so that they are of one piece with their half, mm. */
export const keyRoot = 0.5

export const noKeys: Keys = { kept: [], sunk: [], sunkFirst: [] }

/** The two halves of a solid; either may be empty. */
export type Halves = readonly [first: Solid, second: Solid]

/** What the faces are called along which the first and the second half were parted. */
const partings: readonly [SurfaceTelling, SurfaceTelling] = [() => ({ face: 'parting' }), () => ({ face: 'parting 2' })]

/** How far the bodies that take a half away go beyond the solid, mm. */
const beyond = 1

/**
 * A solid split at the plane of a frame: first what lies below it, against its normal. Half of the gap, mm, is taken from
 * each half.
 */
export function splitAt(scope: Scope, solid: Solid, frame: Frame, gap: number, own: Owning, keys = noKeys): Halves {
  const bounds = solid.bounds()
  if (!bounds) return [solid, solid]
  const far = farthestIn(bounds, frame) + beyond + gap
  const square: Ring = [
    [-far, -far],
    [far, -far],
    [far, far],
    [-far, far],
  ]
  const block = scope.extrude([square], far)
  const above = own(scope.standing(block, raised(frame, -gap / 2)), partings[0])
  const below = own(scope.standing(block, raised(frame, gap / 2 - far)), partings[1])
  const notFirst = keys.kept.length > 0 ? scope.difference(above, keys.kept) : above
  return [scope.difference(solid, [notFirst, ...keys.sunkFirst]), scope.difference(solid, [below, ...keys.sunk])]
}

/**
 * A solid split along rings in the plane of a frame, which go through it along its normal: first what lies outside of
 * `outer`, then what lies inside of `inner`.
 */
export function splitAlong(
  scope: Scope,
  solid: Solid,
  frame: Frame,
  { inner, outer }: { readonly inner: readonly Ring[]; readonly outer: readonly Ring[] },
  own: Owning,
): Halves {
  const bounds = solid.bounds()
  if (!bounds) return [solid, solid]
  const far = farthestIn(bounds, frame) + beyond
  const prism = (rings: readonly Ring[], tell: SurfaceTelling) =>
    own(scope.standing(scope.extrude(rings, 2 * far), raised(frame, -far)), tell)
  return [scope.difference(solid, [prism(outer, partings[0])]), scope.intersection([solid, prism(inner, partings[1])])]
}

/** How far a box reaches from the origin of a frame, mm. */
export function farthestIn(box: Box, { origin }: Frame): number {
  return Math.max(...corners(box).map((corner) => norm(subtract(corner, origin))))
}

/** A frame moved along its own normal by so many mm. */
export function raised(frame: Frame, by: number): Frame {
  return moved(frame, scaled(frame.n, by))
}
