import { nextHalfEdge } from '../mesh/index.ts'
import { add, cross, dot, norm, scaled, sineCosine, subtract, unit, type Vec3 } from '../place/index.ts'
import { flatsForTurn, flatsInUse } from '../plane/index.ts'
import type { LevelCorner } from './level.ts'
import { previous, type Surface } from './surface.ts'
import { type Footing, footing, type Keeping, type Walk, walkOver, wayOut } from './walk.ts'

/** 1: an outer edge, which the ball touches from within the material; −1: an inner one, which it touches from outside. */
export type Sense = 1 | -1

/** Where a ball touches one of the two surfaces. */
export interface Contact {
  readonly at: Vec3
  /** outward and unit */
  readonly normal: Vec3
  /** the face that it lies on, or that was left for it */
  readonly face: number
  /** how far the surface stands out beyond the straight line from the edge to here, mm */
  readonly bulge: number
  /** how the surface curves across the edge, 1/mm: above 0 where it falls away from its tangent */
  readonly curve: number
  /** the half-edge that the surface ends at before it gets here; −1 where it does not */
  readonly past: number
}

/** A ball at one place of an edge. */
export interface Station {
  /** on the edge */
  readonly edge: Vec3
  /** unit, along the edge; the left face lies to the left of it as seen from outside */
  readonly along: Vec3
  readonly centre: Vec3
  readonly radius: number
  readonly left: Contact
  readonly right: Contact
}

/** One place of an edge: the half-edges that its two sides begin at. */
export type EdgePlace =
  /** at a vertex: half-edges that leave it, one on each side */
  | { readonly left: number; readonly right: number; readonly direction: Vec3 }
  /** within a stretch: its half-edge on the left, and the share of it that is gone */
  | { readonly left: number; readonly share: number; readonly direction: Vec3 }

/** What is made along edges: a ball that rolls there, or a bevel. */
export interface EdgeForm {
  /** How it lies at a place; undefined where it does not fit. */
  at(surface: Surface, place: EdgePlace, sense: Sense, sizes: FormSizes): Station | undefined
  /** The least flats from one face to the other over a turn in radians, at a fineness in mm. */
  flats(turnRad: number, radius: number, fineness: number): number
  /**
   * Its corners beside a wall that is square to a flat face, from that to the wall; undefined where it is not the same all along.
   */
  level?(scale: number, fineness: number): readonly LevelCorner[] | undefined
  /** how it goes round corners: with a ball in them, or in a mitre */
  readonly corners: 'ball' | 'mitre'
  /** how far beyond the ball its bodies reach into the material, mm: to where the walls of what they leave end */
  readonly deeper?: number
}

export interface FormSizes {
  /** how much of its course is gone, from 0 to 1 */
  readonly share: number
  /** what all its sizes are times */
  readonly scale: number
  /** whether what is said of the first face is meant of the left one */
  readonly firstLeft: boolean
}

/** Flats from one face to the other, so that none is farther from the round than the fineness. */
export function flatsOver(turn: number, radius: number, fineness: number): number {
  const chord = (turn / 2) * Math.sqrt(radius / (2 * fineness))
  return flatsInUse(Math.max(chord, flatsForTurn(turn, fineness)))
}

/** A ball that rolls along edges, as large at their end as `to`, mm. */
export function ballForm(radius: number, to = radius): EdgeForm {
  return {
    corners: 'ball',
    flats: flatsOver,
    level: (scale, fineness) => (to === radius ? quarterRound(scale * radius, fineness) : undefined),
    at: (surface, place, sense, { share, scale }) =>
      ballAt(surface, place, scale * (radius + (to - radius) * share), sense),
  }
}

/**
 * The same with all that lies within `deeper` mm, less than its radius, of what it makes, where it goes past everything at its ends. Along
 * the rim of a flat face that is a smaller round as far in and under: how near a place is to the wall changes by no more than the way to it.
 */
export function deeperBall(radius: number, deeper: number): EdgeForm {
  return {
    ...ballForm(radius),
    deeper,
    level: (scale, fineness) => (scale * radius > deeper ? quarterRound(scale * radius, fineness, deeper) : undefined),
  }
}

/** A quarter of a circle, from the face to the wall; smaller by `deeper` about the same centre. */
function quarterRound(radius: number, fineness: number, deeper = 0): LevelCorner[] {
  const flats = flatsOver(Math.PI / 2, radius, fineness)
  return Array.from({ length: flats + 1 }, (_, i) => {
    const [sine, cosine] = sineCosine((90 * i) / flats)
    return { in: radius - (radius - deeper) * sine, under: radius - (radius - deeper) * cosine }
  })
}

interface Start {
  readonly edge: Vec3
  readonly normal: Vec3
}

export function startAt(surface: Surface, place: EdgePlace, side: 'left' | 'right'): Start {
  if ('right' in place) {
    const h = place[side]
    return { edge: surface.at(surface.from(h)), normal: surface.normal(h) }
  }
  const h = side === 'left' ? place.left : surface.twin(place.left)
  const share = side === 'left' ? place.share : 1 - place.share
  const mixed = (p: Vec3, q: Vec3) => add(p, scaled(subtract(q, p), share))
  const next = nextHalfEdge(h)
  return {
    edge: mixed(surface.at(surface.from(h)), surface.at(surface.from(next))),
    normal: unit(mixed(surface.normal(h), surface.normal(next))),
  }
}

/** Normals that differ by less than this make no edge that a ball could roll along, as the sine of the angle. */
export const noEdge = 1e-3

/**
 * The ball of `radius` that touches both surfaces at a place of their edge: its centre is where the surfaces that lie so deep
 * under them (over them, at an inner edge) cross in the plane across the edge. Undefined where they do not.
 */
export function ballAt(surface: Surface, place: EdgePlace, radius: number, sense: Sense): Station | undefined {
  const [left, right] = [startAt(surface, place, 'left'), startAt(surface, place, 'right')]
  const across = scaled(cross(left.normal, right.normal), sense)
  const turn = norm(across)
  if (turn < noEdge || dot(across, place.direction) <= 0) return closed(left, right, surface, place, radius)
  const along = scaled(across, 1 / turn)
  const offset = sense * radius
  // On flats it is as far as this from under the edge to the centre.
  const far = radius * Math.tan(Math.atan2(turn, dot(left.normal, right.normal)) / 2)
  for (let reach = 1.5 * far + 0.3 * radius; ; reach *= 2.5) {
    const ways = [
      wayFrom(surface, place, 'left', left, { along, offset, turn: 'left' }, reach),
      wayFrom(surface, place, 'right', right, { along, offset, turn: 'right' }, reach),
    ] as const
    const met = crossing(ways[0], ways[1], along)
    if (met)
      return {
        ...{ edge: left.edge, along, radius, centre: met.centre },
        left: contactOf(ways[0], met.first, sense),
        right: contactOf(ways[1], met.second, sense),
      }
    if (reach > 40 * (radius + far) || (ways[0].walk.end >= 0 && ways[1].walk.end >= 0)) return undefined
  }
}

/** Where the surfaces go on into each other the ball touches both at the edge. */
export function closed(left: Start, right: Start, surface: Surface, place: EdgePlace, radius: number): Station {
  const contact = (side: 'left' | 'right', { edge, normal }: Start): Contact => ({
    ...{ at: edge, normal, bulge: 0, curve: 0, past: -1 },
    face: surface.face(halfEdgeOf(surface, place, side)),
  })
  return {
    ...{ edge: left.edge, along: unit(place.direction), radius },
    centre: left.edge,
    left: contact('left', left),
    right: contact('right', right),
  }
}

function halfEdgeOf(surface: Surface, place: EdgePlace, side: 'left' | 'right'): number {
  if ('right' in place) return place[side]
  return side === 'left' ? place.left : surface.twin(place.left)
}

export interface Way {
  readonly walk: Walk
  /** unit, in which it goes on where the surface has ended */
  readonly onwards: Vec3
  readonly face: number
}

export function wayFrom(
  surface: Surface,
  place: EdgePlace,
  side: 'left' | 'right',
  { edge, normal }: Start,
  { along, offset, turn }: Omit<Keeping, 'through'>,
  reach: number,
): Way {
  const start = footing(edge, normal, offset)
  const keeping: Keeping = { through: start.under, along, offset, turn }
  const h = halfEdgeOf(surface, place, side)
  const out = 'right' in place ? wayOut(surface, h, keeping) : wayOutWithin(surface, h, keeping)
  const inwards = turn === 'left' ? cross(normal, along) : cross(along, normal)
  if (out < 0) return { walk: { steps: [start], end: h }, onwards: inwards, face: surface.face(h) }
  const walk = walkOver(surface, start, out, keeping, reach)
  const last = walk.end < 0 ? h : walk.end
  const { normal: n } = walk.steps.at(-1)!
  const on = turn === 'left' ? cross(n, along) : cross(along, n)
  return { walk, onwards: unit(on), face: surface.face(last) }
}

/** From within a half-edge the way goes out over one of the two others. */
function wayOutWithin(surface: Surface, h: number, { through, along, offset }: Keeping): number {
  const third = previous(h)
  const { under } = footing(surface.at(surface.from(third)), surface.normal(third), offset)
  const { under: from } = footing(surface.at(surface.from(h)), surface.normal(h), offset)
  const side = dot(subtract(under, through), along) >= 0
  return dot(subtract(from, through), along) >= 0 === side ? nextHalfEdge(h) : third
}

interface Met {
  readonly centre: Vec3
  /** places on both ways: the number of the step before it, and the share of the next one */
  readonly first: number
  readonly second: number
}

/** Where two ways in one plane cross first, as seen from their common start; they go straight on where their surfaces end. */
export function crossing(one: Way, other: Way, along: Vec3): Met | undefined {
  const [p, q] = [pointsOf(one), pointsOf(other)]
  let best: (Met & { readonly gone: number }) | undefined
  for (let i = 0; i + 1 < p.length; i++)
    for (let k = 0; k + 1 < q.length; k++) {
      const [a, b] = [p[i]!, q[k]!]
      const [u, v] = [subtract(p[i + 1]!, a), subtract(q[k + 1]!, b)]
      const whole = dot(cross(u, v), along)
      if (Math.abs(whole) < 1e-12 * norm(u) * norm(v)) continue
      const apart = subtract(b, a)
      const s = dot(cross(apart, v), along) / whole
      const t = dot(cross(apart, u), along) / whole
      // What folds up under a surface gives no number.
      if (!(s >= -1e-9 && s <= 1 + 1e-9 && t >= -1e-9 && t <= 1 + 1e-9)) continue
      const gone = i + s + k + t
      if (best && best.gone <= gone) continue
      best = { centre: add(a, scaled(u, s)), first: i + s, second: k + t, gone }
    }
  return best
}

/** Farther than anything in a part, mm: one step more than the last of a way is so far straight on. */
export const far = 1e5

function pointsOf({ walk, onwards }: Way): Vec3[] {
  const points = walk.steps.map(({ under }) => under)
  return walk.end < 0 ? points : [...points, add(points.at(-1)!, scaled(onwards, far))]
}

export function contactOf(way: Way, place: number, sense: Sense): Contact {
  const { steps, end } = way.walk
  const i = Math.max(0, Math.min(Math.floor(place), steps.length - 1))
  const beyond = i === steps.length - 1 && place > i
  const one = steps[i]!
  const share = place - i
  const mixed = (p: Vec3, q: Vec3) => add(p, scaled(subtract(q, p), share))
  const last = steps[i + 1]
  const at = beyond || !last ? add(one.on, scaled(way.onwards, beyond ? share * far : 0)) : mixed(one.on, last.on)
  const normal = unit(beyond || !last ? one.normal : mixed(one.normal, last.normal))
  return {
    at,
    normal,
    bulge: bulgeOf(steps, i + 1, at, normal, sense),
    curve: curveOf(steps[0]!, at, normal),
    past: beyond ? end : -1,
    face: way.face,
  }
}

/** How much the normal turns for each mm from a place of the surface to another one. */
function curveOf(from: Footing, to: Vec3, normal: Vec3): number {
  const way = subtract(to, from.on)
  const size = dot(way, way)
  return size > 1e-12 ? dot(subtract(normal, from.normal), way) / size : 0
}

/** How far the first places of a way stand out beyond the straight line from its start to `to`. */
function bulgeOf(steps: readonly Footing[], count: number, to: Vec3, normal: Vec3, sense: Sense): number {
  const from = steps[0]!.on
  const line = subtract(to, from)
  const size = dot(line, line)
  if (size === 0) return 0
  const out = add(steps[0]!.normal, normal)
  let most = 0
  for (let i = 1; i < count; i++) {
    const away = subtract(steps[i]!.on, from)
    most = Math.max(most, (sense * dot(subtract(away, scaled(line, dot(away, line) / size)), out)) / norm(out))
  }
  return most
}
