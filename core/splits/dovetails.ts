import type { Ring, Scope, Solid } from '../kernel/index.ts'
import type { SurfaceTelling } from '../naming/index.ts'
import { compose, type Frame, sineCosine, type Vec3, world } from '../place/index.ts'
import type { Vec2 } from '../plane/index.ts'
import { type KeyFault, type Keys, keyRoot, keyWall, noKeys, type Owning } from './halves.ts'
import type { Section } from './section.ts'

/** Tongues of one half that widen into the other, all along the plane, so that the halves slide together. Lengths in mm. */
export interface Dovetails {
  readonly count: number
  /** of each at its neck */
  readonly width: number
  readonly depth: number
  /** of each flank to the normal of the plane, degrees */
  readonly lean: number
  /** per side */
  readonly gap: number
}

/** Places along a tongue at which the room behind it is asked. */
const asked = 7

/**
 * Dovetails spread over the width of a section, along the second direction of its frame, on the first half; and what is wrong
 * with them. `far`: how far the solid reaches.
 */
export function dovetailsOf(
  scope: Scope,
  section: Section,
  sizes: Dovetails,
  far: number,
  own: Owning,
): { readonly keys: Keys; readonly fault?: KeyFault } {
  const { count, width, depth, lean, gap } = sizes
  const split = 2 * section.half
  const [sine, cosine] = sineCosine(lean)
  const [left, right] = section.width
  const pitch = (right - left) / count
  // At the end of its socket a dovetail is widest.
  const spread = 2 * ((depth + gap) * (sine / cosine) + gap / cosine)
  if (width + spread + keyWall > pitch)
    return { keys: noKeys, fault: { what: 'no-room', most: pitch - spread - keyWall } }
  const middles = Array.from({ length: count }, (_, i) => left + (i + 0.5) * pitch)
  const most = Math.min(...middles.map((x) => roomAt(section, x, width))) - gap - keyWall
  if (depth > most) return { keys: noKeys, fault: { what: 'too-deep', most } }
  const kept = middles.map((x, i) =>
    tongue(scope, section.frame, x, profileOf(sizes, split, 0), far, own, 'dovetail', i),
  )
  const sunk = middles.map((x, i) =>
    tongue(scope, section.frame, x, profileOf(sizes, split, gap), far, own, 'socket', i),
  )
  return { keys: { kept, sunk, sunkFirst: [] } }
}

/** Across and along the normal, counter-clockwise; `grown` by so much all round. */
function profileOf({ width, depth, lean }: Dovetails, split: number, grown: number): Ring {
  const [sine, cosine] = sineCosine(lean)
  const foot = split / 2
  const neck = width / 2 + grown / cosine
  const end = neck + (depth + grown) * (sine / cosine)
  return [
    [-neck, -foot - keyRoot],
    [neck, -foot - keyRoot],
    [neck, foot],
    [end, foot + depth + grown],
    [-end, foot + depth + grown],
    [-neck, foot],
  ]
}

function tongue(
  scope: Scope,
  frame: Frame,
  x: number,
  profile: Ring,
  far: number,
  own: Owning,
  what: string,
  index: number,
): Solid {
  const { u, v, n } = frame
  // Raised along the second direction, which for the profile is that which it looks along.
  const away: Vec3 = [-v[0], -v[1], -v[2]]
  const stands = compose({ origin: frame.origin, u, v: n, n: away }, { ...world, origin: [x, 0, -far] })
  const called: SurfaceTelling = () => ({ face: `${what} ${index + 1}` })
  return own(scope.standing(scope.extrude([profile], 2 * far), stands), called)
}

/** How far the solid goes on behind a tongue's neck, where there is any of it. */
function roomAt(section: Section, x: number, width: number): number {
  const rooms = [-0.5, 0, 0.5].flatMap((share) =>
    section
      .stretchesAt(x + share * width * 0.99)
      .flatMap(([low, high]) =>
        Array.from(
          { length: asked },
          (_, i): Vec2 => [x + share * width * 0.99, low + ((i + 0.5) / asked) * (high - low)],
        ),
      ),
  )
  return rooms.length > 0 ? Math.min(...rooms.map((at) => section.depthAt(at, 1))) : 0
}
