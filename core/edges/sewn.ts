import { bordersOf, nextHalfEdge } from '../mesh/index.ts'
import { cross, dot, norm, perpendicular, scaled, subtract, type Vec3 } from '../place/index.ts'
import { type Ring, ringArea } from '../plane/index.ts'
import { ballPatch } from './corner.ts'
import { previous, type Surface } from './surface.ts'

/** What takes the place of edges one after the other: across them at each station, from where it meets the left face to the right. */
export interface Strip {
  /** half-edges that run along them, each from where the one before ends, the left face on their own side */
  readonly halfEdges: readonly number[]
  /** whether the last one ends where the first begins */
  readonly closed: boolean
  /** the number of its stretch and the share of that, ascending from 0: at every vertex one at least, and maybe some between */
  readonly gone: readonly number[]
  /** as many points each; places where strips and patches meet are the same to the last digit */
  readonly arcs: readonly (readonly Vec3[])[]
  /** the edges that what lies between each arc and the next is of, by their places in the list of all */
  readonly edges: readonly (readonly number[])[]
}

/** What takes the place of a vertex that three strips end at: a piece of a ball. */
export interface Patch {
  /** half-edges that leave it along them, counter-clockwise as seen from outside */
  readonly spokes: readonly number[]
  readonly centre: Vec3
  /** across each of them, from the face before it to that after it */
  readonly arcs: readonly (readonly Vec3[])[]
  readonly edges: readonly number[]
}

/** Strips and patches that meet each other: all of them are sewn in, or none. */
export interface Network {
  readonly strips: readonly Strip[]
  readonly patches: readonly Patch[]
}

/** A closed surface in which strips and patches have taken the place of edges. */
export interface Sewn {
  /** x, y, z of each */
  readonly points: Float64Array
  readonly triangles: Uint32Array
  /** for each triangle the one of the old surface that it comes from; below 0: of part −1 − from */
  readonly from: Int32Array
  /** the parts of what was sewn in, by the edges that they are of */
  readonly parts: readonly (readonly number[])[]
  readonly networks: readonly Network[]
}

/** Fills the region between rings, by the places of their points in order. */
export type Filling = (rings: readonly Ring[]) => readonly (readonly [number, number, number])[]

/**
 * A surface with networks sewn in: without a boolean, so at no more than the cost of its triangles. Faces beside them end where they begin.
 * That can be done where each corner of an edge slides along an edge of the mesh, or within a flat, so that all triangles stay in their planes, or where the
 * face is flat and is filled anew; networks beside which neither is so somewhere are left out. Undefined where none is left.
 */
export function sewnIn(surface: Surface, networks: readonly Network[], filling: Filling): Sewn | undefined {
  const taken = new Set<number>()
  let all = networks.filter((network) => {
    const vertices = verticesOf(surface, network)
    if (vertices.some((vertex) => taken.has(vertex)) || !network.strips.every(isSound)) return false
    for (const vertex of vertices) taken.add(vertex)
    return true
  })
  while (all.length > 0) {
    const made = new Sewing(surface, all).made(filling)
    if (!('faults' in made)) return made
    // What goes with a face that cannot be filled, or a triangle that turns over, goes by a boolean.
    const left = all.filter((network) => !made.faults.has(network))
    all = left.length < all.length ? left : []
  }
  return undefined
}

function verticesOf(surface: Surface, { strips, patches }: Network): number[] {
  const inner = strips.flatMap(({ halfEdges, closed }) => (closed ? halfEdges : halfEdges.slice(1)))
  return [...inner, ...patches.map(({ spokes }) => spokes[0]!)].map((h) => surface.from(h))
}

/** Whether there is a station at every vertex, and none so near to the next that they would fall together. */
function isSound({ halfEdges, closed, gone, arcs }: Strip): boolean {
  const firsts = firstsOf(gone)
  if (firsts.length !== halfEdges.length + (closed ? 0 : 1) || (closed && halfEdges.length < 3)) return false
  return [0, -1].every((side) =>
    arcs.every((arc, k) => {
      const next = arcs[k + 1] ?? (closed ? arcs[0]! : undefined)
      const step = next ? norm(subtract(next.at(side)!, arc.at(side)!)) : 0
      return step === 0 || step > shortest
    }),
  )
}

/** The place of the first station at each vertex. */
function firstsOf(gone: readonly number[]): number[] {
  const firsts: number[] = []
  gone.forEach((each, k) => {
    if (each === firsts.length) firsts.push(k)
  })
  return firsts
}

/** Nearer to each other than this corners fall together in single precision, mm. */
const shortest = 1e-4
/** What is nearer to a line than this is on it, mm. */
const onLine = 1e-6

/** Corners round a vertex that a network leaves together, as half-edges that leave it, and where they go. */
interface Sector {
  readonly network: Network
  readonly corners: readonly number[]
  readonly to: number
}

/** A half-edge that a strip takes the place of: the points that it begins at beside it, without the last. */
interface Border {
  readonly network: Network
  readonly points: readonly number[]
}

class Sewing {
  readonly #surface: Surface
  readonly #networks: readonly Network[]
  readonly #points: number[] = []
  readonly #ends = new Map<string, number>()
  readonly #sectors: Sector[] = []
  readonly #borders = new Map<number, Border>()
  /** what is put in, three corners a triangle, and the edges that each is of */
  readonly #put: number[] = []
  readonly #putOf: (readonly number[])[] = []

  constructor(surface: Surface, networks: readonly Network[]) {
    this.#surface = surface
    this.#networks = networks
    for (const coordinate of surface.corners) this.#points.push(coordinate)
    for (const network of networks) {
      for (const strip of network.strips) this.putStrip(network, strip)
      for (const patch of network.patches) this.putPatch(network, patch)
    }
  }

  made(filling: Filling): Sewn | { readonly faults: ReadonlySet<Network> } {
    const surface = this.#surface
    const { triangles: old } = surface.solid
    const faults = new Set<Network>()
    const filled = this.facesToFill(faults)
    /** where each corner of the old surface is now */
    const corners = Uint32Array.from(old)
    const owners = new Map<number, Network>()
    for (const { network, corners: own, to } of this.#sectors)
      for (const corner of own) {
        corners[corner] = to
        owners.set((corner / 3) | 0, network)
      }
    const triangles: number[] = []
    const from: number[] = []
    const add = (a: number, b: number, c: number, of: number) => {
      triangles.push(a, b, c)
      from.push(of)
    }
    for (let t = 0; t < old.length / 3; t++) {
      if (filled.has(surface.face(3 * t))) continue
      const owner = owners.get(t)
      if (owner === undefined) {
        add(old[3 * t]!, old[3 * t + 1]!, old[3 * t + 2]!, t)
        continue
      }
      const split = [3 * t, 3 * t + 1, 3 * t + 2].filter((h) => (this.#borders.get(h)?.points.length ?? 0) > 1)
      const h = split[0] ?? 3 * t
      const rim = [...(this.#borders.get(h)?.points ?? [corners[h]!]), corners[nextHalfEdge(h)]!]
      const tip = corners[previous(h)]!
      for (let k = 0; k + 1 < rim.length; k++) {
        const looks = [rim[k]!, rim[k + 1]!, tip].map((place) => this.at(place)) as [Vec3, Vec3, Vec3]
        if (split.length > 1 || !looksAlike(looks, surface.flat(t))) faults.add(owner)
        add(rim[k]!, rim[k + 1]!, tip, t)
      }
    }
    for (const [face, own] of filled) {
      const made = this.filledAnew(face, corners, filling)
      if (!made) for (const network of own) faults.add(network)
      for (const [a, b, c] of made ?? []) add(a, b, c, surface.trianglesOf(face)[0]!)
    }
    if (faults.size > 0) return { faults }
    const parts = new Map<readonly number[], number>()
    const put = this.#put
    this.#putOf.forEach((edges, t) => {
      const part = parts.get(edges) ?? parts.size
      parts.set(edges, part)
      add(put[3 * t]!, put[3 * t + 1]!, put[3 * t + 2]!, -1 - part)
    })
    return {
      points: Float64Array.from(this.#points),
      triangles: Uint32Array.from(triangles),
      from: Int32Array.from(from),
      parts: [...parts.keys()],
      networks: this.#networks,
    }
  }

  private at(place: number): Vec3 {
    const all = this.#points
    return [all[3 * place]!, all[3 * place + 1]!, all[3 * place + 2]!]
  }

  private point([x, y, z]: Vec3): number {
    return this.#points.push(x, y, z) / 3 - 1
  }

  /** A point that others may be at as well. */
  private end(p: Vec3): number {
    const key = p.join(' ')
    const known = this.#ends.get(key) ?? this.point(p)
    this.#ends.set(key, known)
    return known
  }

  private row(arc: readonly Vec3[], shared: boolean): number[] {
    return arc.map((p, j) => (shared || j === 0 || j === arc.length - 1 ? this.end(p) : this.point(p)))
  }

  private putStrip(network: Network, { halfEdges, closed, gone, arcs, edges }: Strip): void {
    const surface = this.#surface
    // Patches begin with the same points.
    const rows = arcs.map((arc, k) => this.row(arc, !closed && (k === 0 || k === arcs.length - 1)))
    const firsts = firstsOf(gone)
    halfEdges.forEach((h, i) => {
      const [from, to] = [firsts[i]!, firsts[i + 1] ?? rows.length]
      const back = surface.twin(i > 0 ? halfEdges[i - 1]! : halfEdges.at(-1)!)
      for (const side of [0, -1]) {
        const place = (k: number) => rows[k % rows.length]!.at(side)!
        const along = [...new Set(Array.from({ length: to - from }, (_, k) => place(from + k)))].filter(
          (each) => each !== place(to),
        )
        const points = side === 0 ? along : [place(to), ...along.slice(1).reverse()]
        this.#borders.set(side === 0 ? h : surface.twin(h), { network, points })
        if (i === 0 && !closed) continue
        const corners = side === 0 ? cornersFrom(surface, h, back) : cornersFrom(surface, back, h)
        this.#sectors.push({ network, corners, to: place(from) })
      }
    })
    rows.forEach((row, k) => {
      const next = rows[k + 1] ?? (closed ? rows[0]! : undefined)
      for (let j = 0; next && j + 1 < row.length; j++) {
        const [a, b, c, d] = [next[j]!, row[j]!, row[j + 1]!, next[j + 1]!]
        const put = (p: number, q: number, r: number) => this.put(p, q, r, edges[k]!)
        // It goes round a corner of the face on one side, or diagonals take turns, or the volume would lean to one side.
        if (a === b) put(a, c, d)
        else if (c === d) put(a, b, c)
        else if ((j + k) % 2 === 0) {
          put(a, b, c)
          put(a, c, d)
        } else {
          put(a, b, d)
          put(b, c, d)
        }
      }
    })
  }

  private putPatch(network: Network, { spokes, centre, arcs, edges }: Patch): void {
    const own = arcs.map((arc) => this.row(arc, true))
    spokes.forEach((h, j) => {
      const corners = cornersFrom(this.#surface, h, spokes[(j + 1) % 3]!)
      this.#sectors.push({ network, corners, to: own[j]!.at(-1)! })
    })
    const loop = [own[1]!, own[2]!, own[0]!]
    const points: Vec3[] = []
    const places = loop.flat()
    // The patch numbers its points from 0.
    const number = new Map([...new Set(places)].map((place) => [place, points.push(this.at(place)) - 1] as const))
    const known = [...number.keys()]
    const triangles = ballPatch(
      centre,
      loop.map((arc) => arc.map((place) => number.get(place)!)),
      points,
    )
    for (const p of points.slice(known.length)) known.push(this.point(p))
    for (const [a, b, c] of triangles) this.put(known[a]!, known[b]!, known[c]!, edges)
  }

  private put(a: number, b: number, c: number, edges: readonly number[]): void {
    this.#put.push(a, b, c)
    this.#putOf.push(edges)
  }

  /** Flat faces that have to be filled anew, and the networks beside them; what is beside no such face and does not slide is a fault. */
  private facesToFill(faults: Set<Network>): Map<number, Set<Network>> {
    const surface = this.#surface
    const filled = new Map<number, Set<Network>>()
    const fill = (face: number, network: Network) => {
      if (!surface.flatFace(face)) faults.add(network)
      else filled.set(face, (filled.get(face) ?? new Set()).add(network))
    }
    for (const { network, corners, to } of this.#sectors) {
      if (this.slides(corners, to)) continue
      const face = surface.face(corners[0]!)
      const isOne = corners.every((h) => surface.face(h) === face)
      if (isOne && surface.flatFace(face)) fill(face, network)
      else if (!this.staysWithin(corners, to)) faults.add(network)
    }
    const ends = new Map(this.#sectors.flatMap(({ corners, to }) => corners.map((h) => [h, to] as const)))
    for (const [h, { network, points }] of this.#borders)
      if (!this.isStraight([...points, ends.get(nextHalfEdge(h)) ?? points[0]!])) fill(surface.face(h), network)
    return filled
  }

  /** Whether where corners go lies on an edge of the mesh between them. */
  private slides([first, ...inner]: readonly number[], to: number): boolean {
    const vertex = this.#surface.at(this.#surface.from(first!))
    const away = subtract(this.at(to), vertex)
    return inner.some((h) => {
      const along = subtract(this.#surface.at(this.#surface.from(nextHalfEdge(h))), vertex)
      const share = dot(away, along) / dot(along, along)
      return share > 0 && share < 1 && norm(subtract(away, scaled(along, share))) < onLine
    })
  }

  /** Whether where corners go lies in the planes of all their triangles: they may begin amid a flat, where a cut left a corner. */
  private staysWithin(corners: readonly number[], to: number): boolean {
    const away = subtract(this.at(to), this.#surface.at(this.#surface.from(corners[0]!)))
    return corners.every((h) => Math.abs(dot(this.#surface.flat((h / 3) | 0), away)) < onLine)
  }

  private isStraight(places: readonly number[]): boolean {
    if (places.length < 3) return true
    const from = this.at(places[0]!)
    const straight = subtract(this.at(places.at(-1)!), from)
    return places.slice(1, -1).every((place) => {
      const p = subtract(this.at(place), from)
      const share = dot(p, straight) / dot(straight, straight)
      return share > 0 && share < 1 && norm(subtract(p, scaled(straight, share))) < onLine
    })
  }

  /** The triangles of a flat face between what borders it now; undefined where these lines run into each other. */
  private filledAnew(
    face: number,
    corners: Uint32Array,
    filling: Filling,
  ): readonly (readonly [number, number, number])[] | undefined {
    const surface = this.#surface
    const n = surface.flatFace(face)!
    const rings = bordersOf(surface, surface.trianglesOf(face)).map((ring) =>
      ring.flatMap((h) => this.#borders.get(h)?.points ?? [corners[h]!]),
    )
    const u = perpendicular(n)
    const v = cross(n, u)
    const flat = rings.map((ring) =>
      ring.map((place): [number, number] => [dot(this.at(place), u), dot(this.at(place), v)]),
    )
    const all = rings.flat()
    const seen = flat.flat()
    const triangles = filling(flat)
    let sum = 0
    for (const [a, b, c] of triangles) {
      const [[ax, ay], [bx, by], [cx, cy]] = [seen[a]!, seen[b]!, seen[c]!]
      const area = ((bx - ax) * (cy - ay) - (cx - ax) * (by - ay)) / 2
      if (area < -1e-9) return undefined
      sum += area
    }
    const wanted = flat.reduce((total, ring) => total + ringArea(ring), 0)
    if (Math.abs(sum - wanted) > 1e-7 * (1 + Math.abs(wanted))) return undefined
    return triangles.map(([a, b, c]) => [all[a]!, all[b]!, all[c]!])
  }
}

/** The corners round a vertex from one half-edge that leaves it to another, counter-clockwise as seen from outside. */
function cornersFrom(surface: Surface, from: number, to: number): number[] {
  const all: number[] = []
  for (let h = from; h !== to && all.length < 10_000; h = surface.twin(previous(h))) all.push(h)
  return all
}

/** Whether a triangle still looks the way it did, as far as that can be told. */
function looksAlike([a, b, c]: readonly [Vec3, Vec3, Vec3], normal: Vec3): boolean {
  const [u, v] = [subtract(b, a), subtract(c, a)]
  const n = cross(u, v)
  const longest = Math.max(norm(u), norm(v), norm(subtract(c, b)))
  return norm(n) < sliverHeight * longest || dot(n, normal) > 0.5 * norm(n)
}

/** Flatter than this a triangle may look anywhere, mm. */
const sliverHeight = 2e-4
