import { cross, norm, scaled, subtract, type Vec3 } from '../place/index.ts'
import type { TriangleMesh } from './define.ts'
import { type Near, nearestInto, piercing, sideGoesThrough, type Triangle } from './near.ts'

/** Fewer triangles than this are not parted any more. */
const leaf = 4

/** What a tree is made of, for what looks through two of them. */
export interface TreeNodes {
  readonly mesh: TriangleMesh
  readonly count: number
  /** low and high of each node */
  readonly bounds: Float64Array
  /** the second child of each node, 0 of a leaf; the first one follows it */
  readonly seconds: Uint32Array
  readonly order: Uint32Array
  /** the stretch of `order` that belongs to each node */
  readonly from: Uint32Array
  readonly to: Uint32Array
  /** low and high of each triangle, in the order of the tree */
  readonly boxes: Float64Array
}

/** Corners of a triangle into a list of nine numbers. */
export function cornersOf(
  { mesh: { positions, triangles } }: Pick<TreeNodes, 'mesh'>,
  t: number,
  to: Float64Array,
): void {
  for (let c = 0; c < 3; c++) {
    const v = 3 * triangles[3 * t + c]!
    to[3 * c] = positions[v]!
    to[3 * c + 1] = positions[v + 1]!
    to[3 * c + 2] = positions[v + 2]!
  }
}

/** A box of a list that holds nothing yet. */
export function emptyBox(boxes: Float64Array, at: number): void {
  for (let k = 0; k < 3; k++) {
    boxes[at + k] = Number.POSITIVE_INFINITY
    boxes[at + 3 + k] = Number.NEGATIVE_INFINITY
  }
}

/** Makes a box of a list hold three corners as well. */
export function takeIn(boxes: Float64Array, at: number, corners: Float64Array): void {
  for (let c = 0; c < 9; c++) {
    const x = corners[c]!
    const k = at + (c % 3)
    if (x < boxes[k]!) boxes[k] = x
    if (x > boxes[k + 3]!) boxes[k + 3] = x
  }
}

/**
 * Boxes within boxes round the triangles of a mesh: tells what is near without looking at all of them. A node is six bounds;
 * its first child follows it, its second one begins at `seconds`, which is 0 for a leaf.
 */
export class TriangleTree {
  readonly #mesh: TriangleMesh
  /** triangles, those of a leaf beside one another */
  readonly #order: Uint32Array
  /** corners of two triangles that are looked at, nine numbers each */
  readonly #pair = [new Float64Array(9), new Float64Array(9)] as const
  readonly #bounds: Float64Array
  readonly #seconds: Uint32Array
  /** the stretch of `order` that belongs to each node */
  readonly #from: Uint32Array
  readonly #to: Uint32Array
  #nodes = 0
  #boxes: Float64Array | undefined

  /** `only`: of these triangles; of all where it is left out. */
  constructor(mesh: TriangleMesh, only?: readonly number[]) {
    const count = only?.length ?? mesh.triangles.length / 3
    this.#mesh = mesh
    this.#order = only ? Uint32Array.from(only) : Uint32Array.from({ length: count }, (_, t) => t)
    const most = Math.max(1, 2 * count)
    this.#bounds = new Float64Array(6 * most)
    this.#seconds = new Uint32Array(most)
    this.#from = new Uint32Array(most)
    this.#to = new Uint32Array(most)
    if (count > 0) this.part(middlesOf(mesh), 0, count)
  }

  get nodes(): TreeNodes {
    return {
      ...{ mesh: this.#mesh, count: this.#nodes, bounds: this.#bounds, seconds: this.#seconds },
      ...{ order: this.#order, from: this.#from, to: this.#to, boxes: this.boxes() },
    }
  }

  /** Marks of the nodes that hold a marked triangle. */
  nodesWith(marked: Uint8Array): Uint8Array {
    const out = new Uint8Array(this.#nodes)
    // Children come after their node.
    for (let node = this.#nodes - 1; node >= 0; node--)
      if (this.#seconds[node] !== 0) out[node] = out[node + 1]! | out[this.#seconds[node]!]!
      else for (let i = this.#from[node]!; i < this.#to[node]!; i++) out[node]! |= marked[this.#order[i]!]!
    return out
  }

  /** Told when they are first asked for. */
  private boxes(): Float64Array {
    if (this.#boxes) return this.#boxes
    const boxes = new Float64Array(6 * this.#order.length)
    const corners = new Float64Array(9)
    for (const [i, t] of this.#order.entries()) {
      emptyBox(boxes, 6 * i)
      cornersOf({ mesh: this.#mesh }, t, corners)
      takeIn(boxes, 6 * i, corners)
    }
    this.#boxes = boxes
    return boxes
  }

  private part(middles: Float64Array, from: number, to: number): number {
    const node = this.#nodes++
    this.#from[node] = from
    this.#to[node] = to
    if (to - from <= leaf) {
      this.boundLeaf(node)
      return node
    }
    const half = (from + to) >>> 1
    partedAt(this.#order, middles, this.longest(middles, from, to), from, to - 1, half)
    const first = this.part(middles, from, half)
    const second = this.part(middles, half, to)
    this.#seconds[node] = second
    const bounds = this.#bounds
    for (let k = 0; k < 3; k++) {
      bounds[6 * node + k] = Math.min(bounds[6 * first + k]!, bounds[6 * second + k]!)
      bounds[6 * node + 3 + k] = Math.max(bounds[6 * first + 3 + k]!, bounds[6 * second + 3 + k]!)
    }
    return node
  }

  private boundLeaf(node: number): void {
    const { positions, triangles } = this.#mesh
    for (let axis = 0; axis < 3; axis++) {
      let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]
      for (let i = this.#from[node]!; i < this.#to[node]!; i++)
        for (let c = 0; c < 3; c++) {
          const at = positions[3 * triangles[3 * this.#order[i]! + c]! + axis]!
          if (at < low) low = at
          if (at > high) high = at
        }
      this.#bounds[6 * node + axis] = low
      this.#bounds[6 * node + 3 + axis] = high
    }
  }

  /** The direction in which middles lie farthest apart. */
  private longest(middles: Float64Array, from: number, to: number): number {
    let [best, most] = [0, -1]
    for (let axis = 0; axis < 3; axis++) {
      let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]
      for (let i = from; i < to; i++) {
        const at = middles[3 * this.#order[i]! + axis]!
        if (at < low) low = at
        if (at > high) high = at
      }
      if (high - low > most) [best, most] = [axis, high - low]
    }
    return best
  }

  /**
   * The place on the surface that is nearest to a point, and its triangle; undefined where all of it is farther away than
   * `within`, mm.
   */
  nearest(p: Vec3, within = Number.POSITIVE_INFINITY): (Near & { readonly triangle: number }) | undefined {
    let best: (Near & { readonly triangle: number }) | undefined
    let reach = within
    const bounds = this.#bounds
    const corners = new Float64Array(9)
    const to = new Float64Array(3)
    const own = { mesh: this.#mesh }
    const away = (node: number) => {
      let sum = 0
      for (let k = 0; k < 3; k++) {
        const apart = Math.max(0, bounds[6 * node + k]! - p[k]!, p[k]! - bounds[6 * node + 3 + k]!)
        sum += apart * apart
      }
      return Math.sqrt(sum)
    }
    const look = (node: number) => {
      if (this.#seconds[node] === 0) {
        for (let i = this.#from[node]!; i < this.#to[node]!; i++) {
          cornersOf(own, this.#order[i]!, corners)
          nearestInto(corners, p, to)
          const x = to[0]! - p[0]
          const y = to[1]! - p[1]
          const z = to[2]! - p[2]
          const distance = Math.sqrt(x * x + y * y + z * z)
          if (distance > reach || (best && distance >= best.distance)) continue
          best = { distance, from: p, to: [to[0]!, to[1]!, to[2]!], triangle: this.#order[i]! }
          reach = distance
        }
        return
      }
      let [one, other] = [node + 1, this.#seconds[node]!]
      let [near, far] = [away(one), away(other)]
      if (far < near) [one, other, near, far] = [other, one, far, near]
      if (near <= reach) look(one)
      if (far <= reach) look(other)
    }
    if (this.#nodes > 0 && away(0) <= reach) look(0)
    return best
  }

  /** Which way a triangle looks, unit; zeros where it encloses nothing. */
  normal(triangle: number): Vec3 {
    const [a, b, c] = this.corners(triangle)
    const n = cross(subtract(b, a), subtract(c, a))
    const size = norm(n)
    return size > 0 ? scaled(n, 1 / size) : [0, 0, 0]
  }

  /** Where a stretch first goes through the surface, farther than `least` mm from its beginning. */
  first(from: Vec3, to: Vec3, least: number): { readonly far: number; readonly triangle: number } | undefined {
    const bounds = this.#bounds
    const low = from.map((x, k) => Math.min(x, to[k]!))
    const high = from.map((x, k) => Math.max(x, to[k]!))
    let best: { readonly far: number; readonly triangle: number } | undefined
    const look = (node: number) => {
      for (let k = 0; k < 3; k++) if (bounds[6 * node + k]! > high[k]! || bounds[6 * node + 3 + k]! < low[k]!) return
      if (this.#seconds[node] !== 0) {
        look(node + 1)
        look(this.#seconds[node]!)
        return
      }
      for (let i = this.#from[node]!; i < this.#to[node]!; i++) {
        const triangle = this.#order[i]!
        const at = piercing(from, to, this.corners(triangle))
        const far = at && norm(subtract(at, from))
        if (far !== undefined && far > least && (!best || far < best.far)) best = { far, triangle }
      }
    }
    if (this.#nodes > 0) look(0)
    return best
  }

  /** Whether two triangles go through each other by more than `by`, mm; those that share a side do not. */
  crossesItself(by: number): boolean {
    return this.someCross(by, () => true)
  }

  /** Tells of all triangles that go through each other by more than `by`, mm, until one is enough; whether one was. */
  someCross(by: number, isEnough: (one: number, other: number) => boolean): boolean {
    for (const pair of this.crossings(by)) if (pair && isEnough(...pair)) return true
    return false
  }

  /**
   * Pairs of triangles that go through each other by more than `by`, mm; undefined now and then, where others may have a turn. Those
   * that share a corner meet there anyhow; with `places`, also those whose corners lie in one place, though they are two of the mesh.
   * `fresh`: marks of triangles; pairs of others are passed by.
   */
  *crossings(
    by: number,
    { places = false, fresh }: { readonly places?: boolean; readonly fresh?: Uint8Array | undefined } = {},
  ): Generator<readonly [number, number] | undefined> {
    const planes = this.planes()
    const freshNodes = fresh && this.nodesWith(fresh)
    const bounds = this.#bounds
    const meet = (a: number, b: number) => {
      for (let i = 0; i < 3; i++) {
        if (bounds[6 * a + i]! > bounds[6 * b + 3 + i]!) return false
        if (bounds[6 * b + i]! > bounds[6 * a + 3 + i]!) return false
      }
      return true
    }
    const boxes = this.boxes()
    const near = (i: number, k: number) => {
      for (let c = 0; c < 3; c++) {
        if (boxes[6 * i + c]! > boxes[6 * k + 3 + c]!) return false
        if (boxes[6 * k + c]! > boxes[6 * i + 3 + c]!) return false
      }
      return true
    }
    const crosses = (t: number, u: number) =>
      this.passes(planes, t, u, by) && this.passes(planes, u, t, by) && this.goesThrough(t, u, places)
    // Pairs of nodes that are still to be looked into.
    const open: number[] = this.#nodes > 0 ? [0, 0] : []
    for (let looked = 1; open.length > 0; looked++) {
      if (looked % betweenTurns === 0) yield undefined
      const b = open.pop()!
      const a = open.pop()!
      if (freshNodes && !freshNodes[a] && !freshNodes[b]) continue
      if (a !== b && !meet(a, b)) continue
      const [partA, partB] = [this.#seconds[a]!, this.#seconds[b]!]
      if (partA === 0 && partB === 0) {
        for (let i = this.#from[a]!; i < this.#to[a]!; i++)
          for (let k = a === b ? i + 1 : this.#from[b]!; k < this.#to[b]!; k++) {
            const [one, other] = [this.#order[i]!, this.#order[k]!]
            if (fresh && !fresh[one] && !fresh[other]) continue
            if (near(i, k) && crosses(one, other)) yield [one, other]
          }
      } else if (a === b) open.push(a + 1, partA, partA, partA, a + 1, a + 1)
      else if (partB === 0 || (partA !== 0 && this.#to[a]! - this.#from[a]! >= this.#to[b]! - this.#from[b]!))
        open.push(partA, b, a + 1, b)
      else open.push(a, partB, a, b + 1)
    }
  }

  /** Whether corners of a triangle lie on both sides of another one's plane, farther from it than `by`. */
  private passes(planes: Float64Array, t: number, of: number, by: number): boolean {
    const { positions, triangles } = this.#mesh
    let [low, high] = [0, 0]
    for (let c = 0; c < 3; c++) {
      const v = 3 * triangles[3 * t + c]!
      const away =
        planes[4 * of]! * positions[v]! +
        planes[4 * of + 1]! * positions[v + 1]! +
        planes[4 * of + 2]! * positions[v + 2]! -
        planes[4 * of + 3]!
      if (away < low) low = away
      if (away > high) high = away
    }
    return low < -by && high > by
  }

  private goesThrough(t: number, other: number, places: boolean): boolean {
    const { triangles } = this.#mesh
    let [shared, i, k] = [0, 0, 0]
    for (let c = 0; c < 9; c++)
      if (triangles[3 * t + Math.floor(c / 3)] === triangles[3 * other + (c % 3)])
        [shared, i, k] = [shared + 1, Math.floor(c / 3), c % 3]
    if (shared > 1) return false
    const [one, two] = this.#pair
    this.cornersInto(one, t)
    this.cornersInto(two, other)
    for (let c = 0; places && shared === 0 && c < 9; c++)
      if (isSamePlace(one, 3 * Math.floor(c / 3), two, 3 * (c % 3))) [shared, i, k] = [1, Math.floor(c / 3), c % 3]
    if (shared === 0)
      return [0, 1, 2].some((side) => sideGoesThrough(one, side, two) || sideGoesThrough(two, side, one))
    // At a corner they meet anyhow: what counts is the side across from it.
    return sideGoesThrough(one, (i + 1) % 3, two) || sideGoesThrough(two, (k + 1) % 3, one)
  }

  private cornersInto(to: Float64Array, t: number): void {
    const { positions, triangles } = this.#mesh
    for (let c = 0; c < 9; c++) to[c] = positions[3 * triangles[3 * t + Math.floor(c / 3)]! + (c % 3)]!
  }

  /** Unit normals and how far they are from the origin; zeros of triangles that enclose nothing. */
  private planes(): Float64Array {
    const count = this.#mesh.triangles.length / 3
    const out = new Float64Array(4 * count)
    const c = new Float64Array(9)
    for (let t = 0; t < count; t++) {
      this.cornersInto(c, t)
      const [ux, uy, uz] = [c[3]! - c[0]!, c[4]! - c[1]!, c[5]! - c[2]!]
      const [vx, vy, vz] = [c[6]! - c[0]!, c[7]! - c[1]!, c[8]! - c[2]!]
      const [x, y, z] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
      const size = Math.hypot(x, y, z)
      if (size === 0) continue
      out[4 * t] = x / size
      out[4 * t + 1] = y / size
      out[4 * t + 2] = z / size
      out[4 * t + 3] = (x * c[0]! + y * c[1]! + z * c[2]!) / size
    }
    return out
  }

  private corners(t: number): Triangle {
    const { positions, triangles } = this.#mesh
    const at = (c: number): Vec3 => {
      const v = 3 * triangles[3 * t + c]!
      return [positions[v]!, positions[v + 1]!, positions[v + 2]!]
    }
    return [at(0), at(1), at(2)]
  }
}

/** So many pairs of boxes are looked into between two turns of others: some ms. */
const betweenTurns = 20_000

/** Whether what stands from `i` and from `k` on in two lists of coordinates is one place. */
function isSamePlace(p: Float64Array, i: number, q: Float64Array, k: number): boolean {
  return (
    Math.abs(p[i]! - q[k]!) < onePlace &&
    Math.abs(p[i + 1]! - q[k + 1]!) < onePlace &&
    Math.abs(p[i + 2]! - q[k + 2]!) < onePlace
  )
}
/** Less than numbers of single precision tell apart in a part, mm. */
const onePlace = 1e-6

function middlesOf({ positions, triangles }: TriangleMesh): Float64Array {
  const middles = new Float64Array(triangles.length)
  for (let t = 0; t < triangles.length; t += 3)
    for (let axis = 0; axis < 3; axis++)
      middles[t + axis] =
        (positions[3 * triangles[t]! + axis]! +
          positions[3 * triangles[t + 1]! + axis]! +
          positions[3 * triangles[t + 2]! + axis]!) /
        3
  return middles
}

/** Puts triangles whose middles lie lower along an axis before place `half`, the others behind it (quickselect, Hoare 1961). */
function partedAt(
  order: Uint32Array,
  middles: Float64Array,
  axis: number,
  from: number,
  to: number,
  half: number,
): void {
  let [low, high] = [from, to]
  while (low < high) {
    const pivot = middles[3 * order[(low + high) >>> 1]! + axis]!
    let [i, k] = [low, high]
    while (i <= k) {
      while (middles[3 * order[i]! + axis]! < pivot) i++
      while (middles[3 * order[k]! + axis]! > pivot) k--
      if (i > k) break
      const before = order[i]!
      order[i++] = order[k]!
      order[k--] = before
    }
    if (half <= k) high = k
    else if (half >= i) low = i
    else return
  }
}
