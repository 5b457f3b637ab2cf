import type { Ring, Solid } from '../kernel/index.ts'
import type { ShapeContext } from './define.ts'
import { plainSurfaces, surfacesOf } from './surfaces.ts'

/**
 * A flat region made `depth` high and bent about a round, its y along the axis. What is raised begins inside the wall,
 * whose flats lie up to the fineness off its true round; what is sunk goes out of it.
 */
export function wrapped(
  rings: readonly Ring[],
  { depth, side, diameter }: { readonly depth: number; readonly side: 'outside' | 'inside'; readonly diameter: number },
  { scope, fineness, cuts, overlap }: Pick<ShapeContext, 'scope' | 'fineness' | 'cuts' | 'overlap'>,
): Solid {
  const [below, above] = cuts ? [0, fineness + overlap] : [2 * fineness, 0]
  const flat = scope.placed(scope.extrude(rings, depth + below + above), {
    origin: [0, 0, -below],
    u: [1, 0, 0],
    v: [0, 1, 0],
    n: [0, 0, 1],
  })
  const r = diameter / 2
  const [radius, towards] = side === 'outside' ? [cuts ? r - depth : r, 1] : [cuts ? r + depth : r, -1]
  // It keeps its size on the wall itself: along the chord of sagitta f, s = √(8 r f).
  return scope.bentAbout(flat, { radius, scale: r, towards: towards as 1 | -1, step: Math.sqrt(8 * r * fineness) })
}

/** The surfaces of what is wrapped: the face that looks out of the round, or into the bore, the back of it, and its sides. */
export function wrappedSurfaces({
  side,
  diameter,
}: {
  readonly side: 'outside' | 'inside'
  readonly diameter: number
}) {
  // The axis lies below its seat, in a bore above it.
  const axis = side === 'outside' ? -diameter / 2 : diameter / 2
  return surfacesOf(plainSurfaces('side', 'face', 'back'), {
    at([x, , z], [a, , c]) {
      const far = Math.hypot(x, z - axis) || 1
      const outwards = ((a * x + c * (z - axis)) / far) * (side === 'outside' ? 1 : -1)
      return outwards > halfway ? 'face' : outwards < -halfway ? 'back' : 'side'
    },
  })
}

/** What looks more outwards than along the round is the face: cos 45°. */
const halfway = Math.SQRT1_2
