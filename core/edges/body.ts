import { add, cross, dot, norm, scaled, subtract, unit, type Vec3 } from '../place/index.ts'
import type { Contact, Sense, Station } from './ball.ts'

/** A closed surface of triangles, counter-clockwise as seen from outside. */
export interface ClosedSurface {
  readonly points: readonly Vec3[]
  readonly triangles: readonly (readonly [number, number, number])[]
}

/** How a cutting or filling body is made. */
export interface Making {
  /** flats of the round from one face to the other */
  readonly flats: number
  /** how far the body stands out beyond the surface where that has to go, mm */
  readonly clear: number
  /** how far it reaches beyond the ball, mm */
  readonly deeper: number
}

/** The round from the left to the right contact, in so many flats. */
export function arcOf({ centre, left, right }: Station, { flats, deeper }: Pick<Making, 'flats' | 'deeper'>): Vec3[] {
  const arc = arcBetween(centre, left.at, right.at, flats)
  return deeper === 0 ? arc : arc.map((p) => add(p, scaled(unit(subtract(centre, p)), deeper)))
}

/** From `a` to `b` about a centre, the shorter way; the distance to it runs evenly where they differ in that. */
export function arcBetween(centre: Vec3, a: Vec3, b: Vec3, flats: number): Vec3[] {
  const [from, to] = [subtract(a, centre), subtract(b, centre)]
  const [r, s] = [norm(from), norm(to)]
  const all = [a]
  // Where the surfaces run into each other there is no round to go over.
  if (r < 1e-9 || s < 1e-9) return Array.from({ length: flats + 1 }, (_, i) => (i < flats ? a : b))
  if (flats > 1) {
    const [u, v] = [unit(from), unit(to)]
    const turn = Math.atan2(norm(cross(u, v)), dot(u, v))
    for (let i = 1; i < flats; i++) {
      const t = i / flats
      const [p, q] =
        turn > 1e-9 ? [Math.sin((1 - t) * turn) / Math.sin(turn), Math.sin(t * turn) / Math.sin(turn)] : [1 - t, t]
      all.push(add(centre, scaled(add(scaled(u, p), scaled(v, q)), r + (s - r) * t)))
    }
  }
  return [...all, b]
}

/**
 * The profile of what is cut off or filled in at one place: the round from left to right, and back round the edge through where the
 * surface is no more. Beside a round face it leaves that at a slight angle, so that a contact which is a little off does not
 * leave a step.
 */
export function profileOf(
  station: Station,
  sense: Sense,
  making: Making,
  isFlat: (contact: Contact) => boolean,
): Vec3[] {
  return outlineOf(station, sense, making, isFlat).map(({ at }) => at)
}

/** A corner of a profile, and a place near it that lies within the material, or at an inner edge outside of it. */
export interface ProfileCorner {
  readonly at: Vec3
  readonly within: Vec3
}

/** The corners of `profileOf`. */
export function outlineOf(
  station: Station,
  sense: Sense,
  { flats, clear, deeper }: Making,
  isFlat: (contact: Contact) => boolean,
): ProfileCorner[] {
  const { edge, along, left, right } = station
  const round = arcOf(station, { flats, deeper: 0 })
  const arc = deeper > 0 ? arcOf(station, { flats, deeper }) : round
  const out = (p: Vec3, n: Vec3, by: number) => add(p, scaled(n, sense * by))
  const beside = (contact: Contact, next: Vec3) => {
    const { at, normal } = contact
    const away = contact === left ? cross(normal, along) : cross(along, normal)
    // It rises as much as the first flat of the round goes down: no more of a corner is left than between two flats.
    const slope = slopeOf(contact, next, station)
    const far = isFlat(contact) || slope < 1e-3 ? 0 : Math.min(clear / 2 / slope, station.radius / 2)
    const foot = far > 0 ? add(at, scaled(unit(away), far)) : at
    // Where the surface falls away from its tangent it goes with it, or its end would stand out again.
    const falls = (Math.max(0, -sense * contact.curve) * far ** 2) / 2
    const wing = far > 0 ? out(foot, normal, far * slope + falls) : at
    const within = out(foot, normal, -inset)
    return {
      wing: { at: wing, within },
      over: { at: out(wing, normal, clear), within },
    }
  }
  const onLeft = beside(left, round[1]!)
  const onRight = beside(right, round.at(-2)!)
  const reached = (at: Vec3, { normal }: Contact) => ({ at, within: out(at, normal, -inset) })
  const sum = add(left.normal, right.normal)
  const mitre = Math.min(4, 1 / Math.max(1e-9, 1 + dot(left.normal, right.normal)))
  return [
    reached(arc[0]!, left),
    ...arc.slice(1, -1).map((at) => ({ at, within: at })),
    reached(arc.at(-1)!, right),
    onRight.wing,
    onRight.over,
    { at: out(edge, sum, clear * mitre), within: out(edge, sum, -inset) },
    onLeft.over,
    onLeft.wing,
  ]
}

/** How steeply the first flat of a round leaves the surface. */
function slopeOf({ at, normal }: Contact, next: Vec3, { centre }: Station): number {
  const chord = subtract(next, at)
  const size = norm(chord)
  if (size < 1e-9 || norm(subtract(at, centre)) < 1e-9) return 0
  const down = Math.abs(dot(chord, normal)) / size
  return Math.min(down / Math.sqrt(Math.max(1e-12, 1 - down ** 2)), 1)
}

/** How deep a place lies within the surface that is asked for what it stands at, mm. */
const inset = 1e-4

/** Which corner of a profile all of it can be seen from: the one over the edge. */
export function apexOf(profile: readonly Vec3[]): number {
  return profile.length - 3
}

/**
 * The body between profiles, one behind the other along the edge, round and round where it is closed; `apex` is the corner of
 * the profile that all of it can be seen from.
 */
export function stripOf(
  profiles: readonly (readonly Vec3[])[],
  closed: boolean,
  sense: Sense,
  apex: number,
): ClosedSurface {
  const points = profiles.flat()
  const size = profiles[0]!.length
  const triangles: [number, number, number][] = []
  const face = (a: number, b: number, c: number) => triangles.push(sense > 0 ? [a, b, c] : [a, c, b])
  const count = profiles.length
  for (let k = 0; k < (closed ? count : count - 1); k++) {
    const [one, other] = [k * size, ((k + 1) % count) * size]
    for (let i = 0; i < size; i++) {
      const j = (i + 1) % size
      // Diagonals take turns, or the volume would lean to one side.
      if ((i + k) % 2 === 0) {
        face(one + i, other + i, other + j)
        face(one + i, other + j, one + j)
      } else {
        face(one + i, other + i, one + j)
        face(one + j, other + i, other + j)
      }
    }
  }
  if (!closed) {
    const last = (count - 1) * size
    for (let i = 0; i < size; i++) {
      const j = (i + 1) % size
      if (i === apex || j === apex) continue
      face(apex, i, j)
      face(last + apex, last + j, last + i)
    }
  }
  return { points, triangles }
}

/**
 * How much narrower a body is where it goes on into one beside it, as a share, and how far it goes, as a share of its size: where
 * two bodies only touch, rounding leaves a skin between them.
 */
const [narrower, farther] = [1e-3, 3e-4]

/** A profile moved on in a way, and a little closer to what it goes round, so that it ends within the strip that begins there. */
export function intoStrip(profile: readonly Vec3[], over: Vec3, way: Vec3): Vec3[] {
  const size = Math.max(...profile.map((at) => norm(subtract(at, over))))
  return profile.map((at) => add(add(at, scaled(subtract(over, at), narrower)), scaled(way, farther * size)))
}
