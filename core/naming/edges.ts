import { nextHalfEdge } from '../mesh/index.ts'
import { add, cross, dot, type Frame, norm, scaled, subtract, type Vec3 } from '../place/index.ts'

/** A face of the finished solid: of one copy of a step, and what it is called there. */
export interface SolidFace {
  /** the same from build to build, whatever its size */
  readonly key: string
  /** the frame that its copy stands in */
  readonly frame: Frame
}

/** Where two faces of the finished solid meet, or one of them folds. */
export interface SolidEdge {
  /** the keys of both faces, of those at its ends, and which of several that are alike in this: "a|b|c, d+e|2" */
  readonly key: string
  /** places of both in the list of faces, in the order of their keys */
  readonly faces: readonly [number, number]
  /** of the faces that bound it at either end, in the order of their keys; none where it goes round */
  readonly ends: readonly (readonly number[])[]
  /** which of several that are alike in both, from 1 */
  readonly number: number
  /** x, y, z of each in order; of a closed one the first is not repeated */
  readonly points: Float32Array
  readonly closed: boolean
  /** how far the surface turns over it, degrees: above 0 where it is convex, below where it is concave */
  readonly bend: number
  /** places of the edges that go on from its ends without a corner */
  readonly next: readonly number[]
}

export interface SolidVertex {
  readonly at: Vec3
  /** places of the edges that end there */
  readonly edges: readonly number[]
}

/** The course of an edge over the triangles. */
export interface EdgeChain {
  /** one of each two; any may run against the chain */
  readonly halfEdges: readonly number[]
  /** one more than half-edges; the first again at the end of one that is closed */
  readonly vertices: readonly number[]
}

export interface SolidEdges {
  readonly edges: readonly SolidEdge[]
  /** where each of them runs */
  readonly chains: readonly EdgeChain[]
  readonly vertices: readonly SolidVertex[]
  /** for each half-edge, the place of the edge that it is of; −1 where it is within a face */
  readonly of: Int32Array
}

/** An edge that turns less than this is one in name only: two faces go on into each other there, degrees. */
export const smoothBend = 20

export function isSmooth({ bend }: SolidEdge): boolean {
  return Math.abs(bend) < smoothBend
}

/** Edges whose directions differ by less than this where they meet go on into each other, degrees. */
const goesOn = Math.cos((15 * Math.PI) / 180)

/**
 * The edge that is called `key`; where none is, the only one between the same two faces: what it ends at may have changed.
 * Undefined where it cannot be told which one is meant.
 */
export function edgeCalled(edges: readonly SolidEdge[], key: string): SolidEdge | undefined {
  const exact = edges.find((edge) => edge.key === key)
  if (exact) return exact
  const pair = pairOf(key)
  const [only, ...more] = edges.filter((edge) => pairOf(edge.key) === pair)
  return more.length === 0 ? only : undefined
}

function pairOf(key: string): string {
  return key.split('|').slice(0, 2).join('|')
}

/** A surface in triangles, and what each of these is of. */
export interface NamedSurface {
  /** x, y, z for each vertex */
  readonly positions: ArrayLike<number>
  readonly triangles: Uint32Array
  readonly twins: Int32Array
  /** unit normals, x y z for each triangle */
  readonly normals: ArrayLike<number>
  /** for each triangle, the place of its face */
  readonly faceOf: Uint32Array
  readonly faces: readonly SolidFace[]
  /** the cosine below which one face folds */
  readonly folded: number
}

/** A solid in triangles with all its faces and edges. */
export interface NamedSolid extends NamedSurface, SolidEdges {}

/** The edges of a solid, each a stretch between the same two faces, and the vertices that they end at. */
export function edgesOf(surface: NamedSurface): SolidEdges {
  return numbered(surface, chainsOf(surface))
}

/** The stretches between the same two faces, from one vertex where that changes to the next. */
function chainsOf(surface: NamedSurface): EdgeChain[] {
  const halves = halvesOnEdges(surface)
  const { first, meeting } = meetingAt(surface, halves)
  const pairOf = (h: number) => {
    const [a, b] = facesOver(surface, h)
    return Math.min(a, b) * surface.faces.length + Math.max(a, b)
  }
  /** Whether an edge ends at a vertex: not exactly two stretches between the same faces meet there. */
  const ends = (v: number) => {
    const from = first[v]!
    return first[v + 1]! - from !== 2 || pairOf(meeting[from]!) !== pairOf(meeting[from + 1]!)
  }
  const chains: EdgeChain[] = []
  const taken = new Uint8Array(surface.triangles.length)
  const follow = (h: number, from: number) => {
    const halfEdges: number[] = []
    const vertices = [from]
    let [edge, v] = [h, from]
    while (edge >= 0) {
      taken[edge] = 1
      halfEdges.push(edge)
      const a = surface.triangles[edge]!
      v = a === v ? surface.triangles[nextHalfEdge(edge)]! : a
      vertices.push(v)
      edge = ends(v) ? -1 : untaken(v)
    }
    chains.push({ halfEdges, vertices })
  }
  /** The half-edge at a vertex that no chain has yet. */
  const untaken = (v: number) => {
    for (let i = first[v]!; i < first[v + 1]!; i++) if (!taken[meeting[i]!]) return meeting[i]!
    return -1
  }
  const seen = new Uint8Array(first.length)
  for (const h of halves)
    for (const v of endsOf(surface, h)) {
      if (seen[v]) continue
      seen[v] = 1
      if (ends(v)) for (let i = first[v]!; i < first[v + 1]!; i++) if (!taken[meeting[i]!]) follow(meeting[i]!, v)
    }
  // What is left goes round.
  for (const h of halves) if (!taken[h]) follow(h, surface.triangles[h]!)
  return chains
}

/** One half-edge of each two that part two faces or fold one. */
function halvesOnEdges({ triangles, twins, faceOf, normals, folded }: NamedSurface): number[] {
  const halves: number[] = []
  for (let h = 0; h < triangles.length; h++) {
    const twin = twins[h]!
    if (twin < 0 || twin > h) continue
    const [t, other] = [(h / 3) | 0, (twin / 3) | 0]
    if (faceOf[t] !== faceOf[other] || cosine(normals, t, other) < folded) halves.push(h)
  }
  return halves
}

/** Half-edges listed by the vertices that they join, those of vertex v from `first[v]` on. */
function meetingAt({ positions, triangles }: NamedSurface, halves: readonly number[]) {
  const first = new Uint32Array(positions.length / 3 + 1)
  for (const h of halves) {
    first[triangles[h]! + 1]!++
    first[triangles[nextHalfEdge(h)]! + 1]!++
  }
  for (let v = 1; v < first.length; v++) first[v] = first[v]! + first[v - 1]!
  const meeting = new Uint32Array(2 * halves.length)
  const filled = first.slice()
  for (const h of halves) {
    meeting[filled[triangles[h]!]!++] = h
    meeting[filled[triangles[nextHalfEdge(h)]!]!++] = h
  }
  return { first, meeting }
}

/** The faces on both sides of a half-edge. */
function facesOver({ faceOf, twins }: NamedSurface, h: number): readonly [number, number] {
  return [faceOf[(h / 3) | 0]!, faceOf[(twins[h]! / 3) | 0]!]
}

function cosine(normals: ArrayLike<number>, t: number, other: number): number {
  const [a, b] = [3 * t, 3 * other]
  return normals[a]! * normals[b]! + normals[a + 1]! * normals[b + 1]! + normals[a + 2]! * normals[b + 2]!
}

function endsOf({ triangles }: NamedSurface, h: number): [number, number] {
  return [triangles[h]!, triangles[nextHalfEdge(h)]!]
}

/** A chain on its way to being an edge. */
interface Begun extends Pick<SolidEdge, 'points' | 'closed' | 'faces' | 'ends'> {
  readonly chain: EdgeChain
  /** what its key says but for the number */
  readonly about: string
  /** degrees, as of a solid's edge */
  readonly bend: number
  /** where it is as its first face's own copy sees it, so that turning that changes nothing */
  place(): readonly number[]
}

/** Chains as edges, in an order that the order of the triangles has no part in. */
function numbered(surface: NamedSurface, chains: readonly EdgeChain[]): SolidEdges {
  const round = facesRound(surface, chains)
  const made = chains.map((chain) => begun(surface, chain, round))
  made.sort((a, b) => (a.about === b.about ? inTheirOrder(a, b) : a.about < b.about ? -1 : 1))
  const of = new Int32Array(surface.triangles.length).fill(-1)
  const ending = new Map<number, number[]>()
  made.forEach(({ chain: { halfEdges, vertices }, closed }, i) => {
    for (const h of halfEdges) of[h] = of[surface.twins[h]!] = i
    if (closed) return
    for (const v of [vertices[0]!, vertices.at(-1)!]) {
      const list = ending.get(v)
      if (list) list.push(i)
      else ending.set(v, [i])
    }
  })
  let number = 0
  const edges = made.map(({ about, faces, ends, points, closed, bend }, i): SolidEdge => {
    number = made[i - 1]?.about === about ? number + 1 : 1
    return {
      ...{ key: `${about}|${number}`, faces, ends, number, points, closed, bend },
      next: closed ? [] : nextTo(i, made, ending),
    }
  })
  const vertices = [...ending].map(([v, all]) => ({ at: pointOf(surface.positions, v), edges: [...new Set(all)] }))
  return { edges, chains: made.map(({ chain }) => chain), vertices, of }
}

/** Of edges that are alike. Which of two copies of a face has a place where both lie in one plane is chance: seams there come last, so that they number no edge that is seen. */
function inTheirOrder(a: Begun, b: Begun): number {
  return Number(isSeam(a)) - Number(isSeam(b)) || inOrder(a.place(), b.place())
}

/** degrees */
const seamBend = 0.01
const isSeam = ({ bend }: Begun) => Math.abs(bend) < seamBend

function begun(surface: NamedSurface, chain: EdgeChain, round: ReadonlyMap<number, readonly number[]>): Begun {
  const { faces, positions } = surface
  const keyOf = (face: number) => faces[face]!.key
  const [one, other] = facesOver(surface, chain.halfEdges[0]!)
  const pair = keyOf(one) <= keyOf(other) ? ([one, other] as const) : ([other, one] as const)
  const { vertices } = chain
  const closed = vertices[0] === vertices.at(-1) && vertices.length > 2
  const points = new Float32Array(3 * (vertices.length - (closed ? 1 : 0)))
  for (let i = 0; i < points.length; i++) points[i] = positions[3 * vertices[(i / 3) | 0]! + (i % 3)]!
  const ends = closed
    ? []
    : [vertices[0]!, vertices.at(-1)!]
        .map((v) =>
          round
            .get(v)!
            .filter((face) => !pair.includes(face))
            .sort(inKeys(keyOf)),
        )
        .map((all) => ({ all, text: all.map(keyOf).join('+') }))
        .sort(inKeys(({ text }) => text))
  let place: readonly number[] | undefined
  return {
    ...{ chain, faces: pair, points, closed, bend: bendOver(surface, chain), ends: ends.map(({ all }) => all) },
    about: `${keyOf(pair[0])}|${keyOf(pair[1])}|${ends.map(({ text }) => text).join(', ')}`,
    place() {
      place ??= placeIn(faces[pair[0]]!.frame, points, closed)
      return place
    },
  }
}

/** The faces that meet at each vertex where an edge ends. */
function facesRound({ positions, triangles, faceOf }: NamedSurface, chains: readonly EdgeChain[]) {
  const isEnd = new Uint8Array(positions.length / 3)
  const round = new Map<number, number[]>()
  for (const { vertices } of chains)
    for (const v of [vertices[0]!, vertices.at(-1)!]) {
      isEnd[v] = 1
      round.set(v, [])
    }
  for (let i = 0; i < triangles.length; i++) {
    if (!isEnd[triangles[i]!]) continue
    const list = round.get(triangles[i]!)!
    const face = faceOf[(i / 3) | 0]!
    if (!list.includes(face)) list.push(face)
  }
  return round
}

function inKeys<T>(keyOf: (thing: T) => string): (a: T, b: T) => number {
  return (a, b) => (keyOf(a) < keyOf(b) ? -1 : keyOf(a) > keyOf(b) ? 1 : 0)
}

function pointOf(points: ArrayLike<number>, i: number): Vec3 {
  return [points[3 * i]!, points[3 * i + 1]!, points[3 * i + 2]!]
}

/** The middle of a line of points, by its length, and how long that is, in a frame. */
function placeIn(frame: Frame, points: Float32Array, closed: boolean): readonly number[] {
  let [sum, long]: [Vec3, number] = [[0, 0, 0], 0]
  const count = points.length / 3
  for (let i = 0; i < (closed ? count : count - 1); i++) {
    const [p, q] = [pointOf(points, i), pointOf(points, (i + 1) % count)]
    const size = norm(subtract(q, p))
    sum = add(sum, scaled(add(p, q), size / 2))
    long += size
  }
  const middle = subtract(long > 0 ? scaled(sum, 1 / long) : pointOf(points, 0), frame.origin)
  return [dot(middle, frame.n), dot(middle, frame.u), dot(middle, frame.v), long]
}

/** Nearer than this, two places count as level with each other, mm. */
const level = 1e-3

function inOrder(a: readonly number[], b: readonly number[]): number {
  for (const [i, x] of a.entries()) if (Math.abs(x - b[i]!) > level) return x - b[i]!
  return 0
}

/** How far the surface turns over a chain, in the mean by its length, degrees. */
function bendOver(surface: NamedSurface, { halfEdges }: EdgeChain): number {
  const { twins, normals, positions } = surface
  let [sum, long] = [0, 0]
  for (const h of halfEdges) {
    const [a, b] = endsOf(surface, h)
    const along = subtract(pointOf(positions, b), pointOf(positions, a))
    const size = norm(along)
    const [one, two] = [pointOf(normals, (h / 3) | 0), pointOf(normals, (twins[h]! / 3) | 0)]
    // The half-edge runs counter-clockwise round its own triangle: turning right about it is turning outwards.
    sum += Math.atan2(dot(cross(one, two), along) / (size || 1), dot(one, two)) * size
    long += size
  }
  return ((sum / (long || 1)) * 180) / Math.PI
}

/** The edges that go on from the ends of one without a corner. */
function nextTo(i: number, all: readonly Begun[], ending: ReadonlyMap<number, readonly number[]>): number[] {
  const { vertices } = all[i]!.chain
  return [vertices[0]!, vertices.at(-1)!].flatMap((v) => {
    const away = awayFrom(all[i]!, v)
    return ending.get(v)!.filter((other) => other !== i && dot(away, awayFrom(all[other]!, v)) < -goesOn)
  })
}

/** The direction in which an edge leaves one of its ends. */
function awayFrom({ chain, points }: Begun, v: number): Vec3 {
  const last = points.length / 3 - 1
  const [from, to] = chain.vertices[0] === v ? [0, 1] : [last, last - 1]
  const along = subtract(pointOf(points, to), pointOf(points, from))
  return scaled(along, 1 / (norm(along) || 1))
}
