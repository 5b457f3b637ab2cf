import Delaunator from 'delaunator'
import { atOnce, type Paced } from '../pacing/index.ts'
import type { Vec2 } from '../plane/index.ts'

/** A boundary: closed, the material to its left; `tags` says for each of its edges what it is part of. */
export interface Rim {
  readonly points: readonly Vec2[]
  readonly tags: readonly number[]
}

/** Triangles of six nodes: three corners, counter-clockwise, then the middles of the edges after them. */
export interface FlexMesh {
  /** x, y of each node, mm */
  readonly nodes: Float64Array
  readonly elements: Int32Array
  /** edges of the boundary: both ends, the middle, and their tag */
  readonly edges: readonly (readonly [from: number, to: number, middle: number, tag: number])[]
}

const mostRounds = 12

/** How large triangles are to be at a place, mm. */
export type SizeAt = (p: Vec2) => number

/**
 * A region in triangles about as large as `size`, mm, or as that says of each place: corners on its rims and on grids of equilateral
 * triangles within, each twice as wide as the one before, joined after Delaunay (1934). Where an edge of a rim is not among them it is halved, until all are. Undefined where that does not come to an end.
 */
export function* meshing(rims: readonly Rim[], size: number | SizeAt): Paced<FlexMesh | undefined> {
  const sizeAt = typeof size === 'number' ? () => size : size
  let all = rims.map((rim) => spaced(rim, sizeAt))
  for (let round = 0; round < mostRounds; round++) {
    const points = all.flatMap(({ points }) => points)
    const inner = yield* gridWithin(all, sizeAt)
    const corners = [...points, ...inner]
    const triangles = yield* trianglesOf(corners, all)
    const edges = new Set(triangles.flatMap(([a, b, c]) => [key(a, b), key(b, c), key(c, a)]))
    let start = 0
    let isWhole = true
    const next = all.map((rim) => {
      const count = rim.points.length
      const out: { points: Vec2[]; tags: number[] } = { points: [], tags: [] }
      rim.points.forEach((p, i) => {
        const q = rim.points[(i + 1) % count]!
        out.points.push(p)
        out.tags.push(rim.tags[i]!)
        if (edges.has(key(start + i, start + ((i + 1) % count)))) return
        isWhole = false
        out.points.push([(p[0] + q[0]) / 2, (p[1] + q[1]) / 2])
        out.tags.push(rim.tags[i]!)
      })
      start += count
      return out
    })
    if (isWhole) return withMiddles(corners, triangles, all)
    all = next
  }
  return undefined
}

/** The same, in one go. */
export function meshOf(rims: readonly Rim[], size: number | SizeAt): FlexMesh | undefined {
  return atOnce(meshing(rims, size))
}

/** Both ends of an edge, whichever way it runs. */
function key(a: number, b: number): number {
  return a < b ? a * 4_000_000 + b : b * 4_000_000 + a
}

/** The rim with its edges parted so that none is longer than triangles are to be there. */
function spaced({ points, tags }: Rim, sizeAt: SizeAt): Rim {
  const out: { points: Vec2[]; tags: number[] } = { points: [], tags: [] }
  points.forEach((p, i) => {
    const q = points[(i + 1) % points.length]!
    const long = Math.hypot(q[0] - p[0], q[1] - p[1])
    // Evenly over stretches whose sizes are alike.
    const part = (from: number, to: number): void => {
      const at = (share: number): Vec2 => [p[0] + (q[0] - p[0]) * share, p[1] + (q[1] - p[1]) * share]
      const sizes = [from, (from + to) / 2, to].map((share) => sizeAt(at(share)))
      const [least, most] = [Math.min(...sizes), Math.max(...sizes)]
      const length = long * (to - from)
      if (most > 1.5 * least && length > 2 * least) {
        part(from, (from + to) / 2)
        part((from + to) / 2, to)
        return
      }
      const parts = Math.max(1, Math.ceil(length / least - 1e-9))
      for (let k = 0; k < parts; k++) {
        out.points.push(at(from + ((to - from) * k) / parts))
        out.tags.push(tags[i]!)
      }
    }
    part(0, 1)
  })
  return out
}

/** Points of grids that lie within, each as wide as triangles are to be there, not too near to a rim or to one another. */
function* gridWithin(rims: readonly Rim[], sizeAt: SizeAt): Paced<Vec2[]> {
  const points = rims.flatMap(({ points }) => points)
  const sizes = points.map(sizeAt)
  const [least, most] = [sizes.reduce((a, b) => Math.min(a, b)), sizes.reduce((a, b) => Math.max(a, b))]
  const out: Vec2[] = []
  for (let size = least; size <= 2 * most; size *= 2) {
    const isLast = 2 * size > 2 * most
    const own = yield* gridOf(rims, [...points, ...out], size, (p) => {
      const wanted = sizeAt(p)
      return wanted >= size * (1 - 1e-9) && (isLast || wanted < 2 * size)
    })
    for (const p of own) out.push(p)
  }
  return out
}

/** Points of one grid, where they are wanted, not too near to what is there. */
function* gridOf(
  rims: readonly Rim[],
  there: readonly Vec2[],
  size: number,
  wanted: (p: Vec2) => boolean,
): Paced<Vec2[]> {
  const cells = new Map<string, Vec2[]>()
  const cell = (x: number, y: number) => `${Math.floor(x / size)},${Math.floor(y / size)}`
  for (const p of there) {
    const known = cells.get(cell(...p))
    if (known) known.push(p)
    else cells.set(cell(...p), [p])
  }
  const near = ([x, y]: Vec2): boolean => {
    for (const dx of [-size, 0, size])
      for (const dy of [-size, 0, size])
        for (const [px, py] of cells.get(cell(x + dx, y + dy)) ?? [])
          if (Math.hypot(px - x, py - y) < 0.7 * size) return true
    return false
  }
  const points = rims.flatMap(({ points }) => points)
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)]
  const [left, right] = [xs.reduce((a, b) => Math.min(a, b)), xs.reduce((a, b) => Math.max(a, b))]
  const [low, high] = [ys.reduce((a, b) => Math.min(a, b)), ys.reduce((a, b) => Math.max(a, b))]
  const out: Vec2[] = []
  const rise = (size * Math.sqrt(3)) / 2
  for (let row = 0, y = low + rise / 2; y < high; row++, y += rise) {
    yield
    const crossings = crossingsAt(rims, y)
    for (let x = left + (row % 2 ? size / 2 : 0); x < right; x += size)
      if (countBelow(crossings, x) % 2 === 1 && wanted([x, y]) && !near([x, y])) out.push([x, y])
  }
  return out
}

/** Where rims cross a height, from left to right. */
function crossingsAt(rims: readonly Rim[], y: number): number[] {
  const out: number[] = []
  for (const { points } of rims)
    points.forEach(([x0, y0], i) => {
      const [x1, y1] = points[(i + 1) % points.length]!
      if (y0 > y !== y1 > y) out.push(x0 + ((y - y0) / (y1 - y0)) * (x1 - x0))
    })
  return out.sort((a, b) => a - b)
}

const countBelow = (sorted: readonly number[], x: number) => sorted.reduce((count, at) => count + (at < x ? 1 : 0), 0)

/** Between turns of others so many triangles are looked at. */
const atATime = 200

function* trianglesOf(corners: readonly Vec2[], rims: readonly Rim[]): Paced<(readonly [number, number, number])[]> {
  const { triangles } = Delaunator.from(corners as [number, number][])
  const out: (readonly [number, number, number])[] = []
  for (let t = 0; t < triangles.length; t += 3) {
    if (t % (3 * atATime) === 0) yield
    const own = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!] as const
    const [a, b, c] = own.map((i) => corners[i]!) as [Vec2, Vec2, Vec2]
    const twice = (b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1])
    const longest = Math.max(
      ...[
        [a, b],
        [b, c],
        [c, a],
      ].map(([p, q]) => Math.hypot(q![0] - p![0], q![1] - p![1])),
    )
    // Three corners of one straight rim are no triangle.
    if (Math.abs(twice) < 1e-6 * longest * longest) continue
    const middle: Vec2 = [(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3]
    if (countBelow(crossingsAt(rims, middle[1]), middle[0]) % 2 === 0) continue
    out.push(twice > 0 ? own : [own[0], own[2], own[1]])
  }
  return out
}

function withMiddles(
  corners: readonly Vec2[],
  triangles: readonly (readonly [number, number, number])[],
  rims: readonly Rim[],
): FlexMesh {
  const nodes = corners.flat()
  const middles = new Map<number, number>()
  const middleOf = (a: number, b: number): number => {
    const known = middles.get(key(a, b))
    if (known !== undefined) return known
    const made = nodes.length / 2
    nodes.push((corners[a]![0] + corners[b]![0]) / 2, (corners[a]![1] + corners[b]![1]) / 2)
    middles.set(key(a, b), made)
    return made
  }
  const elements = triangles.flatMap(([a, b, c]) => [a, b, c, middleOf(a, b), middleOf(b, c), middleOf(c, a)])
  let start = 0
  const edges = rims.flatMap(({ points, tags }) => {
    const own = tags.map((tag, i) => {
      const [from, to] = [start + i, start + ((i + 1) % points.length)]
      return [from, to, middleOf(from, to), tag] as const
    })
    start += points.length
    return own
  })
  return { nodes: Float64Array.from(nodes), elements: Int32Array.from(elements), edges }
}
