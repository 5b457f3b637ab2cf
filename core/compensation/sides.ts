import { nextHalfEdge } from '../mesh/index.ts'

/** What a stretch of a surface is to the printer, layer by layer: round a hole, or the outside. Level ones are neither. */
export type Side = 'hole' | 'outside' | 'level'

interface Mesh {
  /** x, y, z of each vertex, mm */
  readonly corners: ArrayLike<number>
  readonly triangles: ArrayLike<number>
  readonly twins: ArrayLike<number>
}

/** Heights nearer to each other than this are one, mm. */
const sameHeight = 1e-6
/** More crossings of triangles by levels than these are not looked at; levels are left out evenly then. */
const mostCrossings = 4e6

/**
 * The side that each stretch of a closed surface is of: whether the outlines of the layers run round a hole there or round material,
 * by which of both more of its area does. Between two heights at which vertices lie, all sections have the same outlines; one
 * of each is followed from triangle to triangle. `stretchOf` gives the stretch of each triangle, from 0.
 */
export function sidesOf({ corners, triangles, twins }: Mesh, stretchOf: ArrayLike<number>): Side[] {
  const z = (h: number) => corners[3 * triangles[h]! + 2]!
  const count = triangles.length / 3
  const levels = thinnedOut(levelsOf(corners, triangles), (all) => {
    let crossings = 0
    for (let t = 0; t < count; t++) crossings += spanOf(all, z, t).count
    return crossings
  })
  const crossing: number[][] = levels.map(() => [])
  for (let t = 0; t < count; t++) {
    const { first, count: own } = spanOf(levels, z, t)
    for (let i = first; i < first + own; i++) crossing[i]!.push(t)
  }
  const sums: { hole: number; outside: number }[] = []
  const done = new Int32Array(count).fill(-1)
  levels.forEach(({ at, high }, level) => {
    for (const start of crossing[level]!) {
      if (done[start] === level) continue
      const lengths: [stretch: number, long: number][] = []
      let area = 0
      for (let t = start; done[t] !== level; ) {
        done[t] = level
        const [up, down] = crossedEdges(t, z, at)
        if (up < 0 || down < 0) break
        const [from, to] = [pointOn(down, at), pointOn(up, at)]
        // With material on its left, an outline goes counter-clockwise round it.
        area += (from[0] * to[1] - from[1] * to[0]) / 2
        lengths.push([stretchOf[t]!, Math.hypot(to[0] - from[0], to[1] - from[1])])
        t = Math.floor(twins[up]! / 3)
        if (t < 0) break
      }
      const side = area < 0 ? 'hole' : 'outside'
      for (const [stretch, long] of lengths) {
        const sum = sums[stretch] ?? { hole: 0, outside: 0 }
        sum[side] += long * high
        sums[stretch] = sum
      }
    }
  })
  const stretches = 1 + Array.from(stretchOf).reduce((most, each) => Math.max(most, each), -1)
  return Array.from({ length: stretches }, (_, i): Side => {
    const sum = sums[i]
    return !sum ? 'level' : sum.hole > sum.outside ? 'hole' : 'outside'
  })

  function pointOn(h: number, at: number): readonly [number, number] {
    const [a, b] = [3 * triangles[h]!, 3 * triangles[nextHalfEdge(h)]!]
    const share = (at - corners[a + 2]!) / (corners[b + 2]! - corners[a + 2]!)
    return [
      corners[a]! + (corners[b]! - corners[a]!) * share,
      corners[a + 1]! + (corners[b + 1]! - corners[a + 1]!) * share,
    ]
  }
}

/** A height between those of vertices, and how far these are apart. */
interface Level {
  readonly at: number
  readonly high: number
}

function levelsOf(corners: ArrayLike<number>, triangles: ArrayLike<number>): Level[] {
  const used = new Float64Array(triangles.length)
  for (let h = 0; h < triangles.length; h++) used[h] = corners[3 * triangles[h]! + 2]!
  used.sort()
  const levels: Level[] = []
  for (let i = 1; i < used.length; i++) {
    const high = used[i]! - used[i - 1]!
    if (high > sameHeight) levels.push({ at: (used[i]! + used[i - 1]!) / 2, high })
  }
  return levels
}

function thinnedOut(levels: Level[], crossings: (of: readonly Level[]) => number): readonly Level[] {
  const every = Math.ceil(crossings(levels) / mostCrossings)
  return every <= 1 ? levels : levels.filter((_, i) => i % every === 0)
}

/** The levels that go through a triangle. */
function spanOf(levels: readonly Level[], z: (h: number) => number, t: number) {
  const [a, b, c] = [z(3 * t), z(3 * t + 1), z(3 * t + 2)]
  const first = firstAbove(levels, Math.min(a, b, c))
  return { first, count: firstAbove(levels, Math.max(a, b, c)) - first }
}

function firstAbove(levels: readonly Level[], z: number): number {
  let [low, high] = [0, levels.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (levels[middle]!.at > z) high = middle
    else low = middle + 1
  }
  return low
}

/** The half-edges of a triangle that go up and down through a level; −1 where there is none. */
function crossedEdges(t: number, z: (h: number) => number, at: number): readonly [up: number, down: number] {
  let [up, down] = [-1, -1]
  for (let h = 3 * t; h < 3 * t + 3; h++) {
    const [from, to] = [z(h) > at, z(nextHalfEdge(h)) > at]
    if (!from && to) up = h
    if (from && !to) down = h
  }
  return [up, down]
}
