import { type Box2, boxesMeet, boxOfSegment, crossings } from './crossings.ts'
import { flattenedChain } from './flatten.ts'
import {
  areaUnder,
  curvatureAt,
  directionAt,
  endOf,
  nearestOn,
  pointAt,
  reversed,
  type Segment,
  startOf,
  stretch,
} from './segments.ts'
import { cross2, distance2, dot2, insideRings, minus, type Ring, type Vec2 } from './vectors.ts'

/** Ends nearer than this are one point, mm. */
export const joinWithin = 1e-6

/** A drawn curve: its segments one behind the other, as they run. */
export interface DrawnCurve {
  readonly id: string
  readonly segments: readonly Segment[]
}

/** Segments one behind the other. Closed: the last one ends where the first one starts. */
export interface Chain {
  readonly segments: readonly Segment[]
  /** the drawn curve of each segment */
  readonly curves: readonly string[]
  readonly closed: boolean
}

/** A closed region: what bounds it (material on the left of `outer` and of each hole), and what it is called by. */
export interface Face {
  /** the curves round it with the way they are run through; the same as long as the same curves bound it */
  readonly key: string
  readonly outer: Chain
  readonly holes: readonly Chain[]
  /** mm², without the holes */
  readonly area: number
  /** how many closed drawings lie round the one that it is of */
  readonly depth: number
}

export interface Arrangement {
  readonly faces: readonly Face[]
  /** drawn curves that end nowhere */
  readonly loose: readonly LooseEnd[]
  /** where curves cross other than at their ends */
  readonly crossed: readonly CrossedAt[]
  /** stretches that bound no region, one behind the other */
  readonly open: readonly Chain[]
  readonly edges: readonly Edge[]
}
export interface LooseEnd {
  readonly at: Vec2
  readonly curve: string
  /** what it nearly meets, and how far that is, mm; undefined where nothing is near */
  readonly near: { readonly at: Vec2; readonly distance: number; readonly curve: string } | undefined
}
export interface CrossedAt {
  readonly at: Vec2
  readonly curves: readonly [string, string]
}

/** A stretch between two nodes, as it was drawn. */
export interface Edge {
  readonly curve: string
  readonly segment: Segment
  readonly from: number
  readonly to: number
}

/** A curve that ends within this of another one was hardly meant to end there, mm. */
const nearMiss = 0.6

/** A drawing with more crossings than this is refused. */
export const mostEdges = 20_000

/**
 * Finds the regions that curves close off. They are broken where they meet; at each node the way goes on by the next
 * edge clockwise, so that each face is run round with it on the left.
 *
 * @throws RangeError where there are more than `mostEdges` stretches
 */
export function arranged(curves: readonly DrawnCurve[]): Arrangement {
  const { edges, nodes, crossed } = broken(curves)
  const used = withoutDangling(edges, nodes.length)
  const halves = halfEdges(edges, used)
  const loops = tracedLoops(edges, halves, () => true)
  const faces = facesOf(edges, loops)
  return {
    faces,
    crossed,
    loose: looseEnds(curves, edges, nodes),
    open: openChains(edges, used, nodes.length),
    edges,
  }
}

/** The loops round everything that is `filled`, without the edges between two faces that are. */
export function outlineOf(arrangement: Arrangement, filled: readonly Face[]): readonly Chain[] {
  // Each half-edge by its curve and middle: faces are made of the very same segments.
  const kept = new Set(
    filled.flatMap(({ outer, holes }) => [outer, ...holes].flatMap(({ segments }) => segments.map(nameOf))),
  )
  const inner = new Set([...kept].filter((name) => kept.has(otherWay(name))))
  const { edges } = arrangement
  const nodes = Math.max(0, ...edges.flatMap(({ from, to }) => [from + 1, to + 1]))
  const halves = halfEdges(edges, withoutDangling(edges, nodes))
  const on = (half: Half) => {
    const name = nameOf(half.segment)
    return kept.has(name) && !inner.has(name)
  }
  return tracedLoops(edges, halves, on).map(({ halves: run }) => chainOf(edges, run))
}

/** A stretch and the way it is run through, by points along it. */
function nameOf(s: Segment): string {
  return [0, 0.25, 0.75, 1].map((t) => cell(pointAt(s, t))).join('>')
}
function otherWay(name: string): string {
  return name.split('>').reverse().join('>')
}
const cell = ([x, y]: Vec2) => `${Math.round(x * 1e5)},${Math.round(y * 1e5)}`

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
function broken(curves: readonly DrawnCurve[]) {
  const pieces = curves.flatMap(({ id, segments }) =>
    segments.flatMap(unlooped).map((segment) => ({ id, segment, box: boxOfSegment(segment), marks: [0, 1] })),
  )
  const crossed: CrossedAt[] = []
  for (let i = 0; i < pieces.length; i++)
    for (let k = i + 1; k < pieces.length; k++) {
      const [a, b] = [pieces[i]!, pieces[k]!]
      if (!boxesMeet(a.box, b.box, joinWithin)) continue
      for (const { t, u, at } of crossings(a.segment, b.segment, joinWithin)) {
        a.marks.push(t)
        b.marks.push(u)
        const ends = [startOf(a.segment), endOf(a.segment), startOf(b.segment), endOf(b.segment)]
        if (!ends.some((end) => distance2(end, at) <= joinWithin)) crossed.push({ at, curves: [a.id, b.id] })
      }
    }
  const nodes = new Nodes()
  const edges: Edge[] = []
  for (const { id, segment, marks } of pieces) {
    const sorted = [...marks].sort((m, n) => m - n)
    // Marks that stand for one point fall together; the ends stay.
    const kept = sorted.filter(
      (t, i) =>
        i === 0 ||
        distance2(pointAt(segment, t), pointAt(segment, sorted[i - 1]!)) > joinWithin ||
        (t === 1 && sorted[i - 1]! < 0.5),
    )
    if (kept.at(-1) !== 1) kept[kept.length - 1] = 1
    for (let i = 1; i < kept.length; i++) {
      const part = stretch(segment, kept[i - 1]!, kept[i]!)
      edges.push({ curve: id, segment: part, from: nodes.at(startOf(part)), to: nodes.at(endOf(part)) })
    }
    if (edges.length > mostEdges) throw new RangeError(`more than ${mostEdges} stretches`)
  }
  // Curves drawn over one another bound nothing between them: one of them counts.
  const seen = new Set<string>()
  const single = edges.filter(({ segment }) => {
    const name = nameOf(segment)
    if (seen.has(name) || seen.has(otherWay(name))) return false
    seen.add(name)
    return true
  })
  return { edges: single, nodes: nodes.points, crossed }
}

/** Points numbered by place; those within `joinWithin` are one. */
class Nodes {
  readonly points: Vec2[] = []
  private readonly cells = new Map<string, number[]>()

  at(p: Vec2): number {
    const size = joinWithin * 2
    const [x, y] = [Math.floor(p[0] / size), Math.floor(p[1] / size)]
    for (const i of [-1, 0, 1])
      for (const k of [-1, 0, 1])
        for (const known of this.cells.get(`${x + i},${y + k}`) ?? [])
          if (distance2(this.points[known]!, p) <= joinWithin) return known
    const index = this.points.push(p) - 1
    const key = `${x},${y}`
    this.cells.set(key, [...(this.cells.get(key) ?? []), index])
    return index
  }
}

/** Which edges are part of something closed: those that hang by one end are taken off until none is left. */
function withoutDangling(edges: readonly Edge[], nodes: number): readonly boolean[] {
  const used = edges.map(() => true)
  const at = Array.from({ length: nodes }, (): number[] => [])
  edges.forEach(({ from, to }, i) => {
    at[from]!.push(i)
    at[to]!.push(i)
  })
  const degree = at.map((list) => list.length)
  const open = degree.flatMap((count, node) => (count === 1 ? [node] : []))
  for (let node = open.pop(); node !== undefined; node = open.pop())
    for (const i of at[node]!) {
      if (!used[i]) continue
      used[i] = false
      const { from, to } = edges[i]!
      for (const end of [from, to]) if (--degree[end]! === 1) open.push(end)
    }
  return used
}

interface Half {
  readonly edge: number
  readonly forward: boolean
  readonly segment: Segment
  readonly from: number
  readonly to: number
  /** place in the order round its start, counter-clockwise */
  rank: number
}

/** Half-edges by the node they start from, counter-clockwise. */
function halfEdges(edges: readonly Edge[], used: readonly boolean[]): ReadonlyMap<number, readonly Half[]> {
  const at = new Map<number, Half[]>()
  const put = (half: Half) => at.set(half.from, [...(at.get(half.from) ?? []), half])
  edges.forEach(({ segment, from, to }, edge) => {
    if (!used[edge]) return
    put({ edge, forward: true, segment, from, to, rank: 0 })
    put({ edge, forward: false, segment: reversed(segment), from: to, to: from, rank: 0 })
  })
  for (const list of at.values()) {
    const angle = new Map(
      list.map((half) => {
        const [x, y] = directionAt(half.segment, 0)
        return [half, Math.atan2(y, x)]
      }),
    )
    // Those that leave in one direction are told apart by which way they bend.
    list.sort((a, b) => {
      const apart = angle.get(a)! - angle.get(b)!
      const whole = 2 * Math.PI
      const near = Math.abs(apart) < 1e-7 || Math.abs(Math.abs(apart) - whole) < 1e-7
      return near ? curvatureAt(a.segment, 0) - curvatureAt(b.segment, 0) : apart
    })
    list.forEach((half, i) => {
      half.rank = i
    })
  }
  return at
}

interface Loop {
  readonly halves: readonly Half[]
  /** negative where it runs round the outside of something */
  readonly area: number
}

/** Runs round everything that `on` holds, each half-edge once. */
function tracedLoops(
  edges: readonly Edge[],
  at: ReadonlyMap<number, readonly Half[]>,
  on: (half: Half) => boolean,
): Loop[] {
  const done = new Set<Half>()
  const loops: Loop[] = []
  const halfOf = (edge: number, forward: boolean) =>
    at
      .get(forward ? edges[edge]!.from : edges[edge]!.to)!
      .find((half) => half.edge === edge && half.forward === forward)!
  for (const list of at.values())
    for (const first of list) {
      if (done.has(first) || !on(first)) continue
      const halves: Half[] = []
      let half: Half | undefined = first
      while (half && !done.has(half)) {
        done.add(half)
        halves.push(half)
        const back: Half = halfOf(half.edge, !half.forward)
        const round: readonly Half[] = at.get(half.to)!
        // The next one clockwise from the way back that bounds something.
        half = Array.from(
          { length: round.length },
          (_, i) => round[(back.rank - 1 - i + 2 * round.length) % round.length]!,
        ).find(on)
      }
      loops.push({ halves, area: halves.reduce((sum, { segment }) => sum + areaUnder(segment), 0) })
    }
  return loops
}

function chainOf(edges: readonly Edge[], halves: readonly Half[]): Chain {
  return {
    segments: halves.map(({ segment }) => segment),
    curves: halves.map(({ edge }) => edges[edge]!.curve),
    closed: true,
  }
}

/** Bounded faces with the holes that lie in them, and how deep they are nested. */
function facesOf(edges: readonly Edge[], loops: readonly Loop[]): Face[] {
  // A run there and back encloses nothing.
  const bounded = loops.filter(({ area }) => area > 1e-9)
  const outside = loops.filter(({ area }) => area < -1e-9)
  const size = Math.max(1e-3, ...bounded.map(({ area }) => Math.sqrt(area)))
  const ringOf = (loop: Loop): Ring =>
    flattenedChain(
      loop.halves.map(({ segment }) => segment),
      true,
      size / 5000,
      false,
    )
  const rings = new Map(bounded.map((loop) => [loop, ringOf(loop)]))
  const boxes = new Map(bounded.map((loop) => [loop, boxAround(loop)]))
  const edgesOf = new Map(loops.map((loop) => [loop, new Set(loop.halves.map(({ edge }) => edge))]))
  // A component is what one outside loop runs round: the faces that share edges with it, directly or through others.
  const component = componentsOf(loops, edgesOf)
  const holders = new Map<Loop, Loop[]>()
  for (const hole of outside) {
    const at = pointAt(hole.halves[0]!.segment, 0.5)
    const around = bounded.filter((face) => {
      if (component.get(face) === component.get(hole)) return false
      const box = boxes.get(face)!
      return (
        at[0] >= box.min[0] &&
        at[0] <= box.max[0] &&
        at[1] >= box.min[1] &&
        at[1] <= box.max[1] &&
        insideRings([rings.get(face)!], at)
      )
    })
    holders.set(hole, around)
  }
  const depthOf = (face: Loop): number => {
    const own = outside.find((loop) => component.get(loop) === component.get(face))
    return own ? new Set(holders.get(own)!.map((holder) => component.get(holder))).size : 0
  }
  return bounded.map((face) => {
    // Directly inside: of all faces round it, this is the smallest.
    const holes = outside.filter((hole) => {
      const around = holders.get(hole)!
      return around.includes(face) && around.every((other) => other.area >= face.area)
    })
    return {
      key: keyOf(edges, face),
      outer: chainOf(edges, face.halves),
      holes: holes.map((hole) => chainOf(edges, hole.halves)),
      area: face.area + holes.reduce((sum, { area }) => sum + area, 0),
      depth: depthOf(face),
    }
  })
}

function boxAround({ halves }: Loop): Box2 {
  const all = halves.map(({ segment }) => boxOfSegment(segment))
  return {
    min: [Math.min(...all.map(({ min }) => min[0])), Math.min(...all.map(({ min }) => min[1]))],
    max: [Math.max(...all.map(({ max }) => max[0])), Math.max(...all.map(({ max }) => max[1]))],
  }
}

function componentsOf(
  loops: readonly Loop[],
  edgesOf: ReadonlyMap<Loop, ReadonlySet<number>>,
): ReadonlyMap<Loop, number> {
  const byEdge = new Map<number, Loop[]>()
  for (const [loop, own] of edgesOf) for (const edge of own) byEdge.set(edge, [...(byEdge.get(edge) ?? []), loop])
  const byNode = new Map<number, Loop[]>()
  for (const loop of loops) for (const { from } of loop.halves) byNode.set(from, [...(byNode.get(from) ?? []), loop])
  const component = new Map<Loop, number>()
  let count = 0
  for (const start of loops) {
    if (component.has(start)) continue
    const open = [start]
    component.set(start, count)
    for (let loop = open.pop(); loop; loop = open.pop())
      for (const half of loop.halves)
        for (const other of [...byEdge.get(half.edge)!, ...byNode.get(half.from)!])
          if (!component.has(other)) {
            component.set(other, count)
            open.push(other)
          }
    count++
  }
  return component
}

function keyOf(edges: readonly Edge[], { halves }: Loop): string {
  const names = new Set(halves.map(({ edge, forward }) => `${forward ? '+' : '-'}${edges[edge]!.curve}`))
  return [...names].sort().join(' ')
}

/** Ends of curves at which nothing goes on, with what they nearly meet. */
function looseEnds(curves: readonly DrawnCurve[], edges: readonly Edge[], nodes: readonly Vec2[]): LooseEnd[] {
  const degree = new Uint32Array(nodes.length)
  for (const { from, to } of edges) {
    degree[from]!++
    degree[to]!++
  }
  return edges.flatMap(({ curve, segment, from, to }) =>
    ([from, to] as const).flatMap((node, i): LooseEnd[] => {
      if (degree[node]! !== 1 || from === to) return []
      const at = i === 0 ? startOf(segment) : endOf(segment)
      let near: LooseEnd['near']
      for (const other of curves)
        for (const s of other.segments) {
          // Its own curve counts only by its other end.
          const candidates = other.id === curve ? [startOf(s), endOf(s)] : [pointAt(s, nearestOn(s, at).t)]
          for (const place of candidates) {
            const distance = distance2(place, at)
            if (distance <= joinWithin || distance > nearMiss || (near && near.distance <= distance)) continue
            near = { at: place, distance, curve: other.id }
          }
        }
      return [{ at, curve, near }]
    }),
  )
}

/** What bounds nothing, as chains through nodes at which exactly two such edges meet. */
function openChains(edges: readonly Edge[], used: readonly boolean[], nodes: number): Chain[] {
  const at = Array.from({ length: nodes }, (): number[] => [])
  edges.forEach(({ from, to }, i) => {
    if (used[i]) return
    at[from]!.push(i)
    at[to]!.push(i)
  })
  const done = new Set<number>()
  const walk = (start: number, first: number): Chain => {
    const segments: Segment[] = []
    const curves: string[] = []
    let [node, index]: [number, number | undefined] = [start, first]
    while (index !== undefined) {
      done.add(index)
      const { segment, curve, from, to }: Edge = edges[index]!
      const forward: boolean = from === node
      segments.push(forward ? segment : reversed(segment))
      curves.push(curve)
      node = forward ? to : from
      index = at[node]!.length === 2 ? at[node]!.find((i) => !done.has(i)) : undefined
    }
    return { segments, curves, closed: false }
  }
  const chains: Chain[] = []
  at.forEach((list, node) => {
    if (list.length === 2) return
    for (const i of list) if (!done.has(i)) chains.push(walk(node, i))
  })
  // A chain begins where it was drawn from.
  return chains.map((chain) => {
    const first = edges.findIndex(
      ({ curve, segment }) => curve === chain.curves[0] && nameOf(segment) === nameOf(chain.segments[0]!),
    )
    return first >= 0
      ? chain
      : { ...chain, segments: chain.segments.map(reversed).reverse(), curves: [...chain.curves].reverse() }
  })
}
