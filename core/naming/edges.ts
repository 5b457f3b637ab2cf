import { nextHalfEdge } from '../mesh/index.ts'
import { add, dot, type Frame, norm, scaled, subtract, type Vec3 } from '../place/index.ts'

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

export interface SolidEdges {
  readonly edges: readonly SolidEdge[]
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

/** The edges of a solid, each a stretch between the same two faces, and the vertices that they end at. */
export function edgesOf(surface: NamedSurface): SolidEdges {
  const { triangles, twins, faceOf, faces } = surface
  const pairs = new Map<number, string>()
  /** half-edges of edges, one of each two, by the vertices that they join */
  const at = new Map<number, number[]>()
  for (let h = 0; h < triangles.length; h++) {
    if (!isOnEdge(surface, h)) continue
    const [one, other] = [faceOf[Math.floor(h / 3)]!, faceOf[Math.floor(twins[h]! / 3)]!]
    const keys = [faces[one]!.key, faces[other]!.key].sort()
    pairs.set(h, keys.join('|'))
    for (const v of endsOf(surface, h)) {
      const list = at.get(v)
      if (list) list.push(h)
      else at.set(v, [h])
    }
  }
  /** Whether an edge ends at a vertex: not exactly two stretches between the same faces meet there. */
  const ends = (v: number) => {
    const [a, b, ...more] = at.get(v)!
    return b === undefined || more.length > 0 || pairs.get(a!) !== pairs.get(b)
  }
  const chains: Chain[] = []
  const taken = new Set<number>()
  const follow = (h: number, from: number) => {
    const chain: Chain = { halfEdges: [], vertices: [from], pair: pairs.get(h)! }
    let [edge, v] = [h as number | undefined, from]
    while (edge !== undefined && !taken.has(edge)) {
      taken.add(edge)
      chain.halfEdges.push(edge)
      const [a, b] = endsOf(surface, edge)
      v = a === v ? b : a
      chain.vertices.push(v)
      edge = ends(v) ? undefined : at.get(v)!.find((other) => !taken.has(other))
    }
    chains.push(chain)
  }
  for (const [v, list] of at) if (ends(v)) for (const h of list) if (!taken.has(h)) follow(h, v)
  // What is left goes round.
  for (const h of pairs.keys()) if (!taken.has(h)) follow(h, endsOf(surface, h)[0])
  return numbered(surface, chains)
}

interface Chain {
  readonly halfEdges: number[]
  readonly vertices: number[]
  readonly pair: string
}

/** One half-edge of each two, where they part two faces or fold one. */
function isOnEdge({ twins, faceOf, normals, folded }: NamedSurface, h: number): boolean {
  const twin = twins[h]!
  if (twin < 0 || twin > h) return false
  const [t, other] = [Math.floor(h / 3), Math.floor(twin / 3)]
  return faceOf[t] !== faceOf[other] || cosine(normals, t, other) < folded
}

function cosine(normals: ArrayLike<number>, t: number, other: number): number {
  const [a, b] = [3 * t, 3 * other]
  return normals[a]! * normals[b]! + normals[a + 1]! * normals[b + 1]! + normals[a + 2]! * normals[b + 2]!
}

function endsOf({ triangles }: NamedSurface, h: number): [number, number] {
  return [triangles[h]!, triangles[nextHalfEdge(h)]!]
}

function pointOf({ positions }: NamedSurface, v: number): Vec3 {
  return [positions[3 * v]!, positions[3 * v + 1]!, positions[3 * v + 2]!]
}

/** Chains as edges, in an order that the order of the triangles has no part in. */
function numbered(surface: NamedSurface, chains: readonly Chain[]): SolidEdges {
  const { faceOf, twins, faces } = surface
  const round = facesRound(surface, chains)
  const keyOf = (face: number) => faces[face]!.key
  const made = chains.map((chain) => {
    const h = chain.halfEdges[0]!
    const pair = [faceOf[Math.floor(h / 3)]!, faceOf[Math.floor(twins[h]! / 3)]!] as const
    const [one, other] = pair
    const sorted = faces[one]!.key <= faces[other]!.key ? pair : ([other, one] as const)
    const points = chain.vertices.map((v) => pointOf(surface, v))
    const closed = chain.vertices[0] === chain.vertices.at(-1) && points.length > 2
    if (closed) points.pop()
    const ends = closed
      ? []
      : [chain.vertices[0]!, chain.vertices.at(-1)!]
          .map((v) => [...round.get(v)!].filter((face) => !pair.includes(face)).sort(inKeys(keyOf)))
          .map((all) => ({ all, text: all.map(keyOf).join('+') }))
          .sort(inKeys(({ text }) => text))
    // Seen from the first face's own copy, so that turning that changes nothing.
    const place = placeIn(faces[sorted[0]]!.frame, points, closed)
    const about = `${chain.pair}|${ends.map(({ text }) => text).join(', ')}`
    return { chain, faces: sorted, points, closed, ends: ends.map(({ all }) => all), about, place }
  })
  made.sort((a, b) => (a.about === b.about ? inOrder(a.place, b.place) : a.about < b.about ? -1 : 1))
  const of = new Int32Array(surface.triangles.length).fill(-1)
  const ending = new Map<number, number[]>()
  made.forEach(({ chain, closed }, i) => {
    for (const h of chain.halfEdges) of[h] = of[twins[h]!] = i
    if (!closed)
      for (const v of [chain.vertices[0]!, chain.vertices.at(-1)!]) ending.set(v, [...(ending.get(v) ?? []), i])
  })
  let number = 0
  const edges = made.map(({ chain, faces: pair, ends, about, points, closed }, i): SolidEdge => {
    number = made[i - 1]?.about === about ? number + 1 : 1
    return {
      ...{ key: `${about}|${number}`, faces: pair, ends, number, closed },
      points: Float32Array.from(points.flat()),
      bend: bendOver(surface, chain),
      next: closed ? [] : nextTo(i, made, ending),
    }
  })
  const vertices = [...ending].map(([v, all]) => ({ at: pointOf(surface, v), edges: [...new Set(all)] }))
  return { edges, vertices, of }
}

/** The faces that meet at each vertex where an edge ends. */
function facesRound({ triangles, faceOf }: NamedSurface, chains: readonly Chain[]): ReadonlyMap<number, Set<number>> {
  const round = new Map<number, Set<number>>()
  for (const { vertices } of chains) for (const v of [vertices[0]!, vertices.at(-1)!]) round.set(v, new Set())
  for (let i = 0; i < triangles.length; i++) round.get(triangles[i]!)?.add(faceOf[Math.floor(i / 3)]!)
  return round
}

function inKeys<T>(keyOf: (thing: T) => string): (a: T, b: T) => number {
  return (a, b) => (keyOf(a) < keyOf(b) ? -1 : keyOf(a) > keyOf(b) ? 1 : 0)
}

/** The middle of a line of points, by its length, and how long that is, in a frame. */
function placeIn(frame: Frame, points: readonly Vec3[], closed: boolean): readonly number[] {
  let [sum, long]: [Vec3, number] = [[0, 0, 0], 0]
  points.forEach((p, i) => {
    const q = points[i + 1] ?? (closed ? points[0]! : p)
    const size = norm(subtract(q, p))
    sum = add(sum, scaled(add(p, q), size / 2))
    long += size
  })
  const middle = subtract(long > 0 ? scaled(sum, 1 / long) : points[0]!, frame.origin)
  return [dot(middle, frame.n), dot(middle, frame.u), dot(middle, frame.v), long]
}

/** Nearer than this, two places count as level with each other, mm. */
const level = 1e-3

function inOrder(a: readonly number[], b: readonly number[]): number {
  for (const [i, x] of a.entries()) if (Math.abs(x - b[i]!) > level) return x - b[i]!
  return 0
}

/** How far the surface turns over a chain, in the mean by its length, degrees. */
function bendOver(surface: NamedSurface, { halfEdges }: Chain): number {
  const { twins, normals } = surface
  let [sum, long] = [0, 0]
  for (const h of halfEdges) {
    const [t, other] = [Math.floor(h / 3), Math.floor(twins[h]! / 3)]
    const [a, b] = endsOf(surface, h).map((v) => pointOf(surface, v)) as [Vec3, Vec3]
    const along = subtract(b, a)
    const size = norm(along)
    const one: Vec3 = [normals[3 * t]!, normals[3 * t + 1]!, normals[3 * t + 2]!]
    const two: Vec3 = [normals[3 * other]!, normals[3 * other + 1]!, normals[3 * other + 2]!]
    // The half-edge runs counter-clockwise round its own triangle: turning right about it is turning outwards.
    const turned = [
      one[1] * two[2] - one[2] * two[1],
      one[2] * two[0] - one[0] * two[2],
      one[0] * two[1] - one[1] * two[0],
    ] as const
    sum += Math.atan2(dot(turned, along) / (size || 1), dot(one, two)) * size
    long += size
  }
  return ((sum / (long || 1)) * 180) / Math.PI
}

/** The edges that go on from the ends of one without a corner. */
function nextTo(
  i: number,
  all: readonly { readonly chain: Chain; readonly points: readonly Vec3[] }[],
  ending: ReadonlyMap<number, readonly number[]>,
): number[] {
  const { vertices } = all[i]!.chain
  return [vertices[0]!, vertices.at(-1)!].flatMap((v) =>
    ending.get(v)!.filter((other) => other !== i && dot(awayFrom(all[i]!, v), awayFrom(all[other]!, v)) < -goesOn),
  )
}

/** The direction in which an edge leaves one of its ends. */
function awayFrom({ chain, points }: { readonly chain: Chain; readonly points: readonly Vec3[] }, v: number): Vec3 {
  const [from, to] = chain.vertices[0] === v ? [points[0]!, points[1]!] : [points.at(-1)!, points.at(-2)!]
  const along = subtract(to, from)
  return scaled(along, 1 / (norm(along) || 1))
}
