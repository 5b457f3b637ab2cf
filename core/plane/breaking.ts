import { type CrossedAt, type DrawnCurve, type Edge, joinWithin } from './arrangement.ts'
import { boxOfSegment, type Crossing, crossings, meetingPairs } from './crossings.ts'
import { PointsNear } from './pointsNear.ts'
import { endOf, line, nearestOn, pointAt, type Segment, startOf, stretch } from './segments.ts'
import { cross2, distance2, dot2, minus, type Vec2 } from './vectors.ts'

/** A drawing with more crossings than this is refused. */
export const mostEdges = 20_000

/** Stretches between the same two nodes that lie nearer to one another than this are one, mm. */
const sameWithin = 1e-5

/** A cubic that turns by more than half a turn may cross itself; in parts it is seen to. */
function unlooped(s: Segment): Segment[] {
  if (s.kind !== 'cubic') return [s]
  const legs = s.points.slice(1).map((p, i) => minus(p, s.points[i]!))
  const turn = legs.slice(1).reduce((sum, leg, i) => {
    const before = legs[i]!
    return sum + Math.abs(Math.atan2(cross2(before, leg), dot2(before, leg)))
  }, 0)
  return turn > Math.PI ? Array.from({ length: 8 }, (_, i) => stretch(s, i / 8, (i + 1) / 8)) : [s]
}

/** All curves broken where they meet one another, between numbered nodes. */
export function broken(curves: readonly DrawnCurve[]) {
  const nodes = new Nodes()
  const pieces = curves.flatMap(({ id, segments }) =>
    segments.flatMap(unlooped).map((segment) => {
      const marks = [
        { t: 0, node: nodes.at(startOf(segment)) },
        { t: 1, node: nodes.at(endOf(segment)) },
      ]
      return { id, segment, marks }
    }),
  )
  const crossed: CrossedAt[] = []
  const boxes = pieces.map(({ segment }) => boxOfSegment(segment))
  for (const [i, k] of meetingPairs(boxes, joinWithin)) {
    const [a, b] = [pieces[i]!, pieces[k]!]
    for (const { t, u, at } of joins(a.segment, b.segment)) {
      // One node for both, however far within the tolerance each of them passes it.
      const node = nodes.at(at)
      a.marks.push({ t, node })
      b.marks.push({ t: u, node })
      const ends = [startOf(a.segment), endOf(a.segment), startOf(b.segment), endOf(b.segment)]
      if (!ends.some((end) => distance2(end, at) <= joinWithin)) crossed.push({ at, curves: [a.id, b.id] })
    }
  }
  const edges: Edge[] = []
  const between = new Map<string, Segment[]>()
  for (const { id, segment, marks } of pieces) {
    const sorted = marks.sort((m, n) => m.t - n.t)
    for (let i = 1; i < sorted.length; i++) {
      const [{ t, node: from }, { t: u, node: to }] = [sorted[i - 1]!, sorted[i]!]
      const short = distance2(pointAt(segment, t), pointAt(segment, (t + u) / 2)) <= sameWithin
      if (from === to && short) continue
      const part = short && u - t < 1e-12 ? line(nodes.points[from]!, nodes.points[to]!) : stretch(segment, t, u)
      // Curves drawn over one another bound nothing between them: one of them counts.
      const ends = from < to ? `${from} ${to}` : `${to} ${from}`
      const others = between.get(ends) ?? []
      if (others.some((other) => liesOn(part, other))) continue
      between.set(ends, [...others, part])
      edges.push({ curve: id, segment: part, from, to })
    }
    if (edges.length > mostEdges) throw new RangeError(`more than ${mostEdges} stretches`)
  }
  return { edges, nodes: nodes.points, crossed }
}

/** Whether a stretch runs where another one with the same ends does. */
function liesOn(a: Segment, b: Segment): boolean {
  return [0.25, 0.5, 0.75].every((t) => nearestOn(b, pointAt(a, t)).distance <= sameWithin)
}

const knownJoins = new WeakMap<Segment, WeakMap<Segment, readonly Crossing[]>>()

/** Where two segments meet. Of bent ones it is kept: most are the same as in the drawing before. */
function joins(a: Segment, b: Segment): readonly Crossing[] {
  const cheap = (s: Segment) => s.kind === 'line' || s.kind === 'arc'
  if (cheap(a) && cheap(b)) return crossings(a, b, joinWithin)
  const own = knownJoins.get(a) ?? new WeakMap<Segment, readonly Crossing[]>()
  knownJoins.set(a, own)
  const found = own.get(b) ?? crossings(a, b, joinWithin)
  own.set(b, found)
  return found
}

/** Points numbered by place; those within `joinWithin` are one. */
class Nodes {
  readonly points: Vec2[] = []
  readonly #near = new PointsNear<number>(joinWithin)

  at(p: Vec2): number {
    const known = this.#near.near(p)
    if (known !== undefined) return known
    const index = this.points.push(p) - 1
    this.#near.put(p, index)
    return index
  }
}
