import { type Box2, boxAround, boxesMeet, boxOfSegment, type Crossing, crossings, meetingPairs } from './crossings.ts'
import { flattenedChain } from './flatten.ts'
import {
  areaUnder,
  curvatureAt,
  directionAt,
  endOf,
  line,
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

/** Stretches between the same two nodes that lie nearer to one another than this are one, mm. */
const sameWithin = 1e-5

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
  /** the curves round it with the way they are run through; the same as long as the same curves bound it. No two are alike */
  readonly key: string
  readonly outer: Chain
  readonly holes: readonly Chain[]
  /** mm², without the holes */
  readonly area: number
  /** how many closed drawings lie round the one that it is of */
  readonly depth: number
  /** all that bounds it, as numbers of edges; an edge that is run through backwards as `~number` */
  readonly sides: readonly number[]
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
  const kept = new Set(filled.flatMap(({ sides }) => sides))
  const { edges } = arrangement
  const nodes = edges.reduce((most, { from, to }) => Math.max(most, from + 1, to + 1), 0)
  const halves = halfEdges(edges, withoutDangling(edges, nodes))
  const on = (half: Half) => kept.has(sideOf(half)) && !kept.has(~sideOf(half))
  return tracedLoops(edges, halves, on).map(({ halves: run }) => chainOf(edges, run))
}

const sideOf = ({ edge, forward }: Half) => (forward ? edge : ~edge)

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
  private readonly cells = new Map<string, number[]>()

  at(p: Vec2): number {
    const size = joinWithin * 2
    const [x, y] = [Math.floor(p[0] / size), Math.floor(p[1] / size)]
    // A point within half a cell's size lies in this cell or in one on the nearer sides.
    const [besides, above] = [p[0] / size - x < 0.5 ? -1 : 1, p[1] / size - y < 0.5 ? -1 : 1]
    for (const i of [0, besides])
      for (const k of [0, above])
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
  const edgesOf = new Map(loops.map((loop) => [loop, new Set(loop.halves.map(({ edge }) => edge))]))
  // A component is what one outside loop runs round: the faces that share edges with it, directly or through others.
  const component = componentsOf(loops, edgesOf)
  const candidates = bounded.map((loop) => ({
    loop,
    of: component.get(loop)!,
    box: boxAround(loop.halves.map(({ segment }) => boxOfSegment(segment)))!,
    ring: undefined as Ring | undefined,
  }))
  const depths = new Map<number, number>()
  const holesOf = new Map<Loop, Loop[]>()
  for (const hole of outside) {
    const at = pointAt(hole.halves[0]!.segment, 0.5)
    const own = component.get(hole)!
    const around = candidates.filter((face) => {
      const { of, box, loop } = face
      if (of === own || at[0] < box.min[0] || at[0] > box.max[0] || at[1] < box.min[1] || at[1] > box.max[1])
        return false
      face.ring ??= ringOf(loop)
      return insideRings([face.ring], at)
    })
    depths.set(own, new Set(around.map(({ of }) => of)).size)
    // Directly inside: of all faces round it, this is the smallest.
    const [holder] = around.sort((m, n) => m.loop.area - n.loop.area)
    if (holder) holesOf.set(holder.loop, [...(holesOf.get(holder.loop) ?? []), hole])
  }
  const keys = keysOf(edges, bounded)
  return bounded.map((face) => {
    const holes = holesOf.get(face) ?? []
    return {
      key: keys.get(face)!,
      outer: chainOf(edges, face.halves),
      holes: holes.map((hole) => chainOf(edges, hole.halves)),
      area: face.area + holes.reduce((sum, { area }) => sum + area, 0),
      depth: depths.get(component.get(face)!) ?? 0,
      sides: [face, ...holes].flatMap((loop) => loop.halves.map(sideOf)),
    }
  })
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

/** Keys longer than this are shortened to a number that stands for them. */
const longestKey = 2000

/**
 * What each region is called by. Those that the same curves bound in the same way, as between a wave and a line across it,
 * are numbered as they come along the first of these curves.
 */
function keysOf(edges: readonly Edge[], loops: readonly Loop[]): ReadonlyMap<Loop, string> {
  const alike = new Map<string, Loop[]>()
  for (const loop of loops) {
    const key = boundsOf(edges, loop)
    alike.set(key, [...(alike.get(key) ?? []), loop])
  }
  const keys = new Map<Loop, string>()
  for (const [key, same] of alike) {
    const short = key.length > longestKey ? `many ${hashOf(key)}` : key
    const first = new Map(
      same.map((loop) => [loop, loop.halves.reduce((least, { edge }) => Math.min(least, edge), Infinity)]),
    )
    same.sort((a, b) => first.get(a)! - first.get(b)!)
    same.forEach((loop, i) => {
      keys.set(loop, i === 0 ? short : `${short} #${i + 1}`)
    })
  }
  return keys
}

function boundsOf(edges: readonly Edge[], { halves }: Loop): string {
  const names = new Set(halves.map(({ edge, forward }) => `${forward ? '+' : '-'}${edges[edge]!.curve}`))
  return [...names].sort().join(' ')
}

/** 64 bits of FNV-1a (Fowler, Noll, Vo), as text. */
function hashOf(text: string): string {
  let hash = 0xcbf29ce484222325n
  for (let i = 0; i < text.length; i++) hash = BigInt.asUintN(64, (hash ^ BigInt(text.charCodeAt(i))) * 0x100000001b3n)
  return hash.toString(36)
}

/** Ends of curves at which nothing goes on, with what they nearly meet. */
function looseEnds(curves: readonly DrawnCurve[], edges: readonly Edge[], nodes: readonly Vec2[]): LooseEnd[] {
  const degree = new Uint32Array(nodes.length)
  for (const { from, to } of edges) {
    degree[from]!++
    degree[to]!++
  }
  const boxed = curves.flatMap(({ id, segments }) => segments.map((s) => ({ id, s, box: boxOfSegment(s) })))
  return edges.flatMap(({ curve, segment, from, to }) =>
    ([from, to] as const).flatMap((node, i): LooseEnd[] => {
      if (degree[node]! !== 1 || from === to) return []
      const at = i === 0 ? startOf(segment) : endOf(segment)
      let near: LooseEnd['near']
      const here: Box2 = { min: at, max: at }
      for (const { id, s, box } of boxed) {
        if (!boxesMeet(box, here, nearMiss)) continue
        // Its own curve counts only by its other end.
        const candidates = id === curve ? [startOf(s), endOf(s)] : [pointAt(s, nearestOn(s, at).t)]
        for (const place of candidates) {
          const distance = distance2(place, at)
          if (distance <= joinWithin || distance > nearMiss || (near && near.distance <= distance)) continue
          near = { at: place, distance, curve: id }
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
  const drawn = new Set(edges.map(({ segment }) => segment))
  return chains.map((chain) =>
    drawn.has(chain.segments[0]!)
      ? chain
      : { ...chain, segments: chain.segments.map(reversed).reverse(), curves: [...chain.curves].reverse() },
  )
}
