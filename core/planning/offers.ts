import type { TakenEdge, TakenMeeting, TakenPoint } from '../document/index.ts'
import { compose, dot, type Frame } from '../place/index.ts'
import {
  between2,
  boxesMeet,
  boxOfSegment,
  crossings,
  distance2,
  lengthOf,
  line,
  nearestOn,
  pointAt,
  type Segment,
  stretch,
  type Vec2,
} from '../plane/index.ts'
import type { NamedFace } from '../shapes/index.ts'
import { along, edgesSeen, type SeenEdge } from './edges.ts'
import type { Plan } from './plan.ts'
import { curveFor, takenAt, touching } from './taken.ts'

/** Something of the part that an outline can take over: a point, or an edge as a curve. */
export interface TakenOffer {
  readonly step: string
  /** from 1 */
  readonly copy: number
  /** "middle of top", "front edge of top" or "axis" */
  readonly what: string
  readonly points: readonly TakenPoint[]
  /** where these are in the plane of the outline, mm */
  readonly at: readonly Vec2[]
  /** of an edge: the curve that it is taken over as */
  readonly curve?: {
    readonly kind: string
    readonly segment: Segment
    readonly size?: number | undefined
    /** what its size is taken over from */
    readonly taken?: TakenEdge | undefined
  }
}

/**
 * All that can be taken over on a plane: corners, edges and middles of flat faces along it, axes square to it, and the
 * edges of all steps as they are seen on it, whole and from where one meets another to the next. What lies on one another
 * is offered once. `isDrawn` says whether an edge is one of the finished part, where that is known: others are left out.
 * `without`: steps that nothing is taken from.
 */
export function takenOffers(
  plane: Frame,
  plan: Plan,
  {
    isDrawn = () => true,
    without = new Set(),
  }: { readonly isDrawn?: ((segment: Segment) => boolean) | undefined; readonly without?: ReadonlySet<string> } = {},
): TakenOffer[] {
  const offers = new Offers()
  for (const [step, { faces, frame: own }] of plan.geometry) {
    if (without.has(step)) continue
    for (const face of faces)
      if (face.round === undefined) faceOffers(step, face, own, { plane, plan, isDrawn }, offers)
    if (Math.abs(dot(own.n, plane.n)) < along) continue
    const axis: TakenPoint = { step, face: '', u: 0, v: 0 }
    const at = takenAt(axis, plane, plan)
    if (at) offers.add({ step, copy: 1, what: 'axis', points: [axis], at: [at] })
  }
  const seen = [...plan.geometry.keys()]
    .filter((step) => !without.has(step))
    .flatMap((step) => edgesSeen(plane, plan, step))
  const whole = seen.map((edge): Stretch => ({ edge, segment: edge.segment }))
  for (const each of [...whole, ...stretches(seen)]) {
    // A whole round is something to go by even where nothing but its silhouette is seen of it.
    const round = each.part === undefined && curveFor(each.segment).kind === 'circle'
    if (round || isDrawn(each.segment)) edgeOffers(each, offers)
  }
  return offers.all
}

/** Offers, each place and each edge once. */
class Offers {
  readonly all: TakenOffer[] = []
  readonly #known = new Set<string>()

  add(offer: TakenOffer): void {
    const { curve, at } = offer
    const places = curve ? [0, 0.5, 1].map((t) => pointAt(curve.segment, t)) : at
    const text = ([x, y]: Vec2) => `${Math.round(x * 100) + 0} ${Math.round(y * 100) + 0}`
    // An edge is the same one whichever way it is run along, and a circle wherever it begins.
    const parts = curve?.kind === 'circle' ? [text(at[0]!), `⌀ ${curve.size!.toFixed(3)}`] : places.map(text).sort()
    const key = parts.join()
    if (this.#known.has(key)) return
    this.#known.add(key)
    this.all.push(offer)
  }
}

/** Corners, sides and the middle of a flat face along the plane, as those of the rectangle round it. */
function faceOffers(
  step: string,
  face: NamedFace,
  own: Frame,
  { plane, plan, isDrawn }: { readonly plane: Frame; readonly plan: Plan; isDrawn(segment: Segment): boolean },
  offers: Offers,
): void {
  if (Math.abs(dot(compose(own, face.frame).n, plane.n)) < along) return
  const corner = (u: -1 | 0 | 1, v: -1 | 0 | 1): TakenPoint => ({ step, face: face.name, u, v })
  const offer = (what: string, ...points: readonly TakenPoint[]) => {
    const at = points.map((point) => takenAt(point, plane, plan)!)
    const [from, to] = at
    offers.add({
      step,
      copy: 1,
      what,
      points,
      at,
      ...(to ? { curve: { kind: 'line', segment: line(from!, to) } } : {}),
    })
  }
  offer(`middle of ${face.name}`, corner(0, 0))
  const [left, right] = face.sides.across
  const [front, back] = face.sides.along
  const corners = [
    { at: corner(-1, -1), name: `${left} ${front}` },
    { at: corner(1, -1), name: `${right} ${front}` },
    { at: corner(1, 1), name: `${right} ${back}` },
    { at: corner(-1, 1), name: `${left} ${back}` },
  ]
  // Of a face that is no rectangle the sides are not there; where only its corners are rounded, their middles are.
  const there = [front, right, back, left].map((side, i) => {
    const ends = [corners[i]!.at, corners[(i + 1) % 4]!.at] as const
    const [from, to] = ends.map((end) => takenAt(end, plane, plan)!) as [Vec2, Vec2]
    const middle = [0.2, 0.8].map((t) => between2(from, to, t)) as [Vec2, Vec2]
    return isDrawn(line(...middle)) ? { side, ends } : undefined
  })
  corners.forEach(({ at, name }, i) => {
    if (there[i] || there[(i + 3) % 4]) offer(`corner ${name} of ${face.name}`, at)
  })
  for (const each of there) if (each) offer(`${each.side} edge of ${face.name}`, ...each.ends)
}

/** An edge as a curve, and the points of that which are the part's. */
function edgeOffers({ edge, segment, ends, part }: Stretch, offers: Offers): void {
  const { step, copy, face } = edge
  const curve = curveFor(segment)
  const name = nameOf(edge)
  const points = curve.points.map((_, point): TakenPoint => ends?.[point] ?? { ...name, point })
  offers.add({
    step,
    copy,
    what: part === undefined ? `${face} edge` : `part ${part} of the ${face} edge`,
    points,
    at: curve.points,
    curve: { kind: curve.kind, segment, size: curve.size, taken: curve.size === undefined ? undefined : name },
  })
  const isMiddle = (i: number) => i === 0 && curve.kind !== 'line' && curve.kind !== 'near'
  points.forEach((point, i) => {
    // What pulls a curve between its ends is no point of the part.
    if (curve.kind === 'near' && (i === 1 || i === 2)) return
    const meets = ends?.[i]?.edges[1].face
    const end = meets === undefined ? `end of the ${face} edge` : `where the ${face} edge meets ${meets}`
    offers.add({
      step,
      copy,
      what: isMiddle(i) ? `middle of the ${face} edge` : end,
      points: [point],
      at: [curve.points[i]!],
    })
  })
}

function nameOf({ step, face, copy }: SeenEdge): TakenEdge {
  return { step, face, ...(copy > 1 ? { copy } : {}) }
}

/** An edge or a stretch of one. */
interface Stretch {
  readonly edge: SeenEdge
  readonly segment: Segment
  /** which one along its edge, from 1 */
  readonly part?: number
  /** in the place of some points of its curve: where others meet the edge */
  readonly ends?: Readonly<Record<number, TakenMeeting | undefined>>
}

/** The stretches of lines and rounds between the places where others meet them. */
function stretches(seen: readonly SeenEdge[]): Stretch[] {
  const boxes = seen.map(({ segment }) => boxOfSegment(segment))
  return seen.flatMap((edge, i): Stretch[] => {
    const { segment } = edge
    if (segment.kind !== 'line' && segment.kind !== 'arc') return []
    const closed = segment.kind === 'arc' && Math.abs(segment.sweepRad) > 2 * Math.PI - 1e-9
    const apart = 1e-4 / (lengthOf(segment) || 1)
    const inner = seen
      .flatMap((other, k) =>
        k !== i && boxesMeet(boxes[i]!, boxes[k]!, touching)
          ? crossings(segment, other.segment, touching).map(({ t }, nth) => ({
              t,
              meets: { edges: [nameOf(edge), nameOf(other)], nth } as TakenMeeting,
            }))
          : [],
      )
      .filter(({ t }) => closed || (t > apart && t < 1 - apart))
      .sort((a, b) => a.t - b.t)
      .filter(({ t }, k, all) => k === 0 || t - all[k - 1]!.t > apart)
    if (inner.length < (closed ? 2 : 1)) return []
    const marks = closed ? inner : [{ t: 0, meets: undefined }, ...inner, { t: 1, meets: undefined }]
    return marks.flatMap((from, k): Stretch[] => {
      const to = marks[k + 1] ?? (closed ? { ...marks[0]!, t: marks[0]!.t + 1 } : undefined)
      if (!to) return []
      // A line's points are its ends; an arc's come behind its middle, and run counter-clockwise.
      const [start, end] = segment.kind === 'line' ? [0, 1] : segment.sweepRad > 0 ? [1, 2] : [2, 1]
      const ends = { [start!]: from.meets, [end!]: to.meets }
      return [{ edge, segment: stretch(segment, from.t, to.t), part: k + 1, ends }]
    })
  })
}

/**
 * Tells edges of the finished part from others: `edges` are its drawn ones as flat stretches, two ends each, in the plane.
 * Those of rounds lie up to the fineness off their true curves.
 */
export function drawnEdges(edges: readonly (readonly [Vec2, Vec2])[], fineness: number): (segment: Segment) => boolean {
  const within = 2 * fineness + 0.01
  const cell = 2
  const cells = new Map<string, (readonly [Vec2, Vec2])[]>()
  for (const edge of edges) {
    const [a, b] = edge
    const steps = Math.ceil(distance2(a, b) / cell) + 1
    for (let i = 0; i <= steps; i++) {
      const p = between2(a, b, i / steps)
      const key = `${Math.floor(p[0] / cell)} ${Math.floor(p[1] / cell)}`
      const list = cells.get(key)
      if (!list) cells.set(key, [edge])
      else if (list.at(-1) !== edge) list.push(edge)
    }
  }
  const isNear = (p: Vec2) => {
    const [x, y] = [Math.floor(p[0] / cell), Math.floor(p[1] / cell)]
    for (let i = x - 1; i <= x + 1; i++)
      for (let k = y - 1; k <= y + 1; k++)
        for (const [a, b] of cells.get(`${i} ${k}`) ?? []) if (nearestOn(line(a, b), p).distance <= within) return true
    return false
  }
  return (segment) => [0.15, 0.5, 0.85].every((t) => isNear(pointAt(segment, t)))
}
