import { arc, circumradius, type Ring, type Scope, segmentsFor } from '../kernel/index.ts'
import type { SurfaceTelling } from '../naming/index.ts'
import { compose, dot, type Frame, type Vec3, world } from '../place/index.ts'
import type { Vec2 } from '../plane/index.ts'
import { type KeyFault, type Keys, keyRoot, keyWall, noKeys, type Owning, raised } from './halves.ts'
import type { Section } from './section.ts'

/** Round pegs on one half and sockets for them in the other, or sockets in both. Lengths in mm. */
export interface Pegs {
  readonly count: number
  readonly diameter: number
  /** how deep they go into each half that has sockets */
  readonly depth: number
  /** per side, round and at the end of each */
  readonly gap: number
  /** of no half: both have sockets */
  readonly loose: boolean
}

/** They may also be fewer than was asked for. */
export type PegFault = KeyFault | { readonly what: 'fewer'; readonly found: number }

/** The bevel that leads a peg in, as a share of its diameter. */
const leadIn = 0.1

/** Pegs spread over a section whose first half they stand on, and what is wrong with them. */
export function pegsOf(
  scope: Scope,
  section: Section,
  { count, diameter, depth, gap, loose }: Pegs,
  fineness: number,
  own: Owning,
): { readonly keys: Keys; readonly fault?: PegFault } {
  const socket = diameter / 2 + gap
  const split = 2 * section.half
  const places = section.spread(count, socket + keyWall, 2 * socket + keyWall)
  if (places.length === 0)
    return { keys: noKeys, fault: { what: 'no-room', most: 2 * (section.roomiest() - keyWall - gap) } }
  const ways = loose ? ([1, -1] as const) : ([1] as const)
  const rooms = ways.flatMap((way) => places.map((at) => roomAt(section, at, socket, way)))
  const most = Math.min(...rooms) - gap - keyWall
  if (depth > most) return { keys: noKeys, fault: { what: 'too-deep', most } }
  const segments = segmentsFor(socket, fineness, true)
  const sunk = (way: 1 | -1) =>
    places.map((at, i) => {
      const solid = scope.revolve(hole(circumradius(socket, segments), depth + gap, split), segments)
      const stands = standing(section.frame, at, split / 2, way)
      return own(scope.standing(solid, stands), called('socket', i, stands))
    })
  const kept = loose
    ? []
    : places.map((at, i) => {
        const stands = standing(section.frame, at, split / 2, 1)
        const solid = scope.revolve(peg(diameter / 2, depth, split), segmentsFor(diameter / 2, fineness))
        return own(scope.standing(solid, stands), called('peg', i, stands))
      })
  const keys = { kept, sunk: sunk(1), sunkFirst: loose ? sunk(-1) : [] }
  return places.length < count ? { keys, fault: { what: 'fewer', found: places.length } } : { keys }
}

/** Half of the section of a peg, from below the plane to its end, which is led in by a bevel. */
function peg(radius: number, depth: number, split: number): Ring {
  const lead = Math.min(2 * radius * leadIn, depth / 2)
  return [
    [0, -split - keyRoot],
    [radius, -split - keyRoot],
    [radius, depth - lead],
    [radius - lead, depth],
    [0, depth],
  ]
}

function hole(radius: number, depth: number, split: number): Ring {
  return [
    [0, -split - keyRoot],
    [radius, -split - keyRoot],
    [radius, depth],
    [0, depth],
  ]
}

/** At a place of the section, `by` mm along its normal (1) or against it, looking that way. */
function standing(frame: Frame, [x, y]: Vec2, by: number, way: 1 | -1): Frame {
  const at = compose(frame, { ...world, origin: [x, y, 0] })
  const { u, v, n } = at
  const turned = way > 0 ? at : { ...at, v: negative(v), n: negative(n), u }
  return raised(turned, by)
}
const negative = ([x, y, z]: Vec3): Vec3 => [-x, -y, -z]

/** How far a disc can go from a place until one of its rim, or its middle, comes out. */
function roomAt(section: Section, [x, y]: Vec2, radius: number, way: 1 | -1): number {
  const rim = arc(x, y, radius, 0, 360 - 360 / rimPlaces, rimPlaces - 1)
  return Math.min(...[[x, y] as const, ...rim].map((at) => section.depthAt(at, way)))
}
const rimPlaces = 12

/** "side of peg 1", "end of peg 1" */
function called(what: string, index: number, { n }: Frame): SurfaceTelling {
  return (_, normal) => ({ face: `${Math.abs(dot(normal, n)) > 0.99 ? 'end' : 'side'} of ${what} ${index + 1}` })
}
