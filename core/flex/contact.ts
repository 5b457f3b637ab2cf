import type { FlexMesh } from './region.ts'

/** A node of the boundary, and half of an edge of it that the node may come to lie on. */
export interface Facing {
  readonly node: number
  readonly from: number
  readonly to: number
}

/** Along one rim nothing is looked at that is nearer than so many edges: a corner that closes is no contact. */
const neighbours = 3
/** What lies so far behind an edge, by the size of the triangles, has come through it; what is farther is the other side of a wall. */
const behind = 0.2
/** What of the boundary may touch what. */
export class Contacts {
  readonly #mesh: FlexMesh
  readonly #size: number
  /** of each node of the boundary: its rim, and how far along that it is, in edges */
  readonly #along = new Map<number, readonly [rim: number, at: number]>()
  readonly #rims: readonly number[]

  /** `size`: of the triangles, mm */
  constructor(mesh: FlexMesh, size: number) {
    this.#mesh = mesh
    this.#size = size
    const after = new Map(mesh.edges.map((edge) => [edge[0], edge]))
    const rims: number[] = []
    for (const [first] of mesh.edges) {
      if (this.#along.has(first)) continue
      let [node, at] = [first, 0]
      do {
        const [, to, middle] = after.get(node)!
        this.#along.set(node, [rims.length, at])
        this.#along.set(middle, [rims.length, at + 0.5])
        node = to
        at++
      } while (node !== first && after.has(node))
      rims.push(at)
    }
    this.#rims = rims
  }

  /** What stands within reach of one another, on the outside, where nodes have moved so. */
  near(moved: Float64Array, reach: number): readonly Facing[] {
    const halves = this.#mesh.edges.flatMap(([from, to, middle]) => [
      { from, to: middle },
      { from: middle, to },
    ])
    const placed = halves.map((half) => ({ ...half, ...this.standing(half, moved) }))
    const out: Facing[] = []
    // By x, so that only what may be near is looked at.
    placed.sort((p, q) => p.low - q.low)
    const longest = placed.reduce((most, { low, high }) => Math.max(most, high - low), 0)
    for (const node of this.#along.keys()) {
      const [x, y] = at(this.#mesh, moved, node)
      let start = 0
      for (let end = placed.length; start < end; ) {
        const middle = (start + end) >> 1
        if (placed[middle]!.low < x - reach - longest) start = middle + 1
        else end = middle
      }
      for (let i = start; i < placed.length && placed[i]!.low <= x + reach; i++) {
        const { from, to, a, way, long } = placed[i]!
        const [dx, dy] = [x - a[0], y - a[1]]
        const along = dx * way[0] + dy * way[1]
        const gap = dx * way[1] - dy * way[0]
        if (gap < -behind * this.#size || gap > reach || along < -reach || along > long + reach) continue
        if (!this.areNeighbours(node, from)) out.push({ node, from, to })
      }
    }
    return out
  }

  private standing({ from, to }: Omit<Facing, 'node'>, moved: Float64Array) {
    const [a, b] = [at(this.#mesh, moved, from), at(this.#mesh, moved, to)]
    const long = Math.hypot(b[0] - a[0], b[1] - a[1])
    const way = [(b[0] - a[0]) / long, (b[1] - a[1]) / long] as const
    return { a, way, long, low: Math.min(a[0], b[0]), high: Math.max(a[0], b[0]) }
  }

  private areNeighbours(node: number, other: number): boolean {
    const [[rim, p], [otherRim, q]] = [this.#along.get(node)!, this.#along.get(other)!]
    if (rim !== otherRim) return false
    const apart = Math.abs(p - q)
    return Math.min(apart, this.#rims[rim]! - apart) <= neighbours
  }
}

/** A node that has come through what it faces: how far, mm below 0, square to it, and at which share of it. */
export interface Met {
  readonly facing: Facing
  readonly gap: number
  readonly out: readonly [number, number]
  readonly share: number
}

/** What nodes have come through where they have moved so: each the edge that it is the least behind, since at a corner it is behind two. */
export function metBy(mesh: FlexMesh, moved: Float64Array, facings: readonly Facing[]): readonly Met[] {
  const least = new Map<number, Met>()
  for (const facing of facings) {
    const met = through(mesh, moved, facing)
    const known = least.get(facing.node)
    if (met && (!known || met.gap > known.gap)) least.set(facing.node, met)
  }
  return [...least.values()]
}

function through(mesh: FlexMesh, moved: Float64Array, facing: Facing): Met | undefined {
  const { node, from, to } = facing
  const [p, a, b] = [at(mesh, moved, node), at(mesh, moved, from), at(mesh, moved, to)]
  const [x, y] = [b[0] - a[0], b[1] - a[1]]
  const square = x * x + y * y
  const share = ((p[0] - a[0]) * x + (p[1] - a[1]) * y) / square
  if (share < 0 || share > 1) return undefined
  const long = Math.sqrt(square)
  // The material lies to the left of it.
  const out = [y / long, -x / long] as const
  const gap = (p[0] - a[0]) * out[0] + (p[1] - a[1]) * out[1]
  return gap < 0 ? { facing, gap, out, share } : undefined
}

/** Whether edges of the boundary run through one another, deeper than `little`, mm, where nodes have moved so. */
export function crosses(mesh: FlexMesh, moved: Float64Array, little = 0): boolean {
  const all = mesh.edges.map(([from, to]) => {
    const [a, b] = [at(mesh, moved, from), at(mesh, moved, to)]
    return { from, to, a, b, low: Math.min(a[0], b[0]), high: Math.max(a[0], b[0]) }
  })
  all.sort((one, other) => one.low - other.low)
  // How far r lies to the left of what runs from p to q.
  const side = (p: Point, q: Point, r: Point) =>
    ((q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0])) / Math.hypot(q[0] - p[0], q[1] - p[1])
  for (const [i, one] of all.entries())
    for (let k = i + 1; k < all.length && all[k]!.low <= one.high; k++) {
      const other = all[k]!
      if (one.from === other.to || one.to === other.from || one.from === other.from) continue
      const [p, q] = [side(one.a, one.b, other.a), side(one.a, one.b, other.b)]
      if (p * q >= 0) continue
      const [r, s] = [side(other.a, other.b, one.a), side(other.a, other.b, one.b)]
      if (r * s < 0 && Math.min(...[p, q, r, s].map(Math.abs)) > little) return true
    }
  return false
}

type Point = readonly [number, number]

function at({ nodes }: FlexMesh, moved: Float64Array, node: number): Point {
  return [nodes[2 * node]! + moved[2 * node]!, nodes[2 * node + 1]! + moved[2 * node + 1]!]
}
