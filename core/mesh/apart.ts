import { type Frame, type Vec3, world } from '../place/index.ts'
import type { Near } from './near.ts'
import { cornersOf, emptyBox, type TreeNodes, type TriangleTree, takeIn } from './tree.ts'

/** Where two surfaces are nearest to each other, and between which of their triangles. */
export interface Apart extends Near {
  readonly triangles: readonly [number, number]
}

interface Wanted {
  /** where the second one stands in the frame of the first */
  readonly frame?: Frame
  /** only what is nearer than this is looked for, mm */
  readonly within?: number
  /** triangles that were nearest before they moved: near ones let all others be passed by sooner */
  readonly start?: readonly [number, number] | undefined
}

/**
 * Where two surfaces are nearest to each other, in the frame of the first; undefined where they are not nearer than `within`. At
 * distance 0 where they meet: of one within the other that is how far their surfaces are apart. Pairs of boxes are looked into
 * nearest first, and passed by where they are farther apart than what was found (Larsen and others, "Fast proximity queries with
 * swept sphere volumes", 1999, with boxes).
 */
export function apart(a: TriangleTree, b: TriangleTree, wanted: Wanted = {}): Apart | undefined {
  const { frame = world, within = Number.POSITIVE_INFINITY, start } = wanted
  const search = new Search(a.nodes, b.nodes, frame, within)
  if (start) search.look(...start)
  search.run()
  return search.found()
}

/** How far one surface may go on before anything of it could come too near to another one. */
export interface Ahead {
  /** mm; 0 where something is too near already */
  readonly clear: number
  /** a place of the first one that something is too near to, in its frame */
  readonly met?: Vec3
}

interface Going {
  /** where the second one stands in the frame of the first */
  readonly frame: Frame
  /** of length 1, in the frame of the first */
  readonly way: Vec3
  /** what is nearer than this is too near, mm */
  readonly tight: number
  /** farther than this it does not go, mm */
  readonly most: number
}

/**
 * How far the second surface may be moved straight on. Whatever parts two triangles across the way parts them all along it, as the flats of
 * a pin and its bore do: only what they go towards each other by counts (after conservative advancement: Mirtich 1996). No less than
 * `tight` where nothing is too near: that far it runs into nothing.
 */
export function ahead(a: TriangleTree, b: TriangleTree, { frame, way, tight, most }: Going): Ahead {
  return new Search(a.nodes, b.nodes, frame, Number.POSITIVE_INFINITY).ahead(way, tight, most)
}

class Search {
  readonly #a: TreeNodes
  readonly #b: TreeNodes
  readonly #isMoved: boolean
  /** rows of the turn, and where the second's origin lies */
  readonly #turn: Float64Array
  readonly #boxes: Float64Array
  readonly #isKnown: Uint8Array
  /** of the second one's triangles where it has moved, in the order of its tree */
  readonly #triangleBoxes: Float64Array
  /** corners of one triangle of each, in the frame of the first */
  readonly #p = new Float64Array(9)
  readonly #q = new Float64Array(9)
  /** where both are nearest */
  readonly #near = new Float64Array(6)
  #best: number
  #one = -1
  #other = -1

  constructor(a: TreeNodes, b: TreeNodes, { u, v, n, origin }: Frame, within: number) {
    this.#a = a
    this.#b = b
    const columns = [u, v, n, origin] as const
    this.#turn = Float64Array.from([0, 1, 2].flatMap((row) => columns.map((column) => column[row]!)))
    this.#isMoved = columns.some((column, i) => column.some((x, k) => x !== (i === k ? 1 : 0)))
    this.#boxes = this.#isMoved ? new Float64Array(6 * b.count) : b.bounds
    this.#isKnown = new Uint8Array(this.#isMoved ? b.count : 0)
    this.#triangleBoxes = new Float64Array(this.#isMoved ? 6 * b.order.length : 0)
    this.#best = within * within
  }

  found(): Apart | undefined {
    if (this.#one < 0) return undefined
    const [x, y, z, i, j, k] = this.#near as unknown as [number, number, number, number, number, number]
    const distance = Math.sqrt(this.#best)
    return { distance, from: [x, y, z], to: [i, j, k], triangles: [this.#one, this.#other] }
  }

  run(): void {
    const a = this.#a
    const b = this.#b
    if (a.count === 0 || b.count === 0) return
    // Pairs of nodes with the square of how far they are apart, those to be looked into next at the end.
    const open: number[] = [0, 0, this.away(0, 0)]
    while (open.length > 0) {
      const away = open.pop()!
      const other = open.pop()!
      const one = open.pop()!
      if (away > this.#best || this.#best === 0) continue
      const partOne = a.seconds[one]!
      const partOther = b.seconds[other]!
      if (partOne === 0 && partOther === 0) {
        this.leaves(one, other)
        continue
      }
      // The larger one is opened.
      const opensOne = partOther === 0 || (partOne !== 0 && size(a.bounds, one) >= size(b.bounds, other))
      const [m, n] = opensOne ? [one + 1, other] : [one, other + 1]
      const [k, l] = opensOne ? [partOne, other] : [one, partOther]
      const first = this.away(m, n)
      const second = this.away(k, l)
      if (first <= second) open.push(k, l, second, m, n, first)
      else open.push(m, n, first, k, l, second)
    }
  }

  ahead(way: Vec3, tight: number, most: number): Ahead {
    const [a, b] = [this.#a, this.#b]
    if (a.count === 0 || b.count === 0) return { clear: most }
    let clear = Math.max(most, tight)
    const clearOf = (one: number, other: number) => {
      if (this.#isMoved && this.#isKnown[other] === 0) this.moveBox(other)
      return clearOfBoxes(a.bounds, 6 * one, this.#boxes, 6 * other, way, tight)
    }
    // As above, but by how far they may go.
    const open: number[] = [0, 0, clearOf(0, 0)]
    while (open.length > 0) {
      const own = open.pop()!
      const other = open.pop()!
      const one = open.pop()!
      if (own >= clear) continue
      const partOne = a.seconds[one]!
      const partOther = b.seconds[other]!
      if (partOne === 0 && partOther === 0) {
        const found = this.leavesAhead(one, other, { way, tight, clear })
        if (found.met) return found
        clear = Math.max(tight, found.clear)
        continue
      }
      const opensOne = partOther === 0 || (partOne !== 0 && size(a.bounds, one) >= size(b.bounds, other))
      const [m, n] = opensOne ? [one + 1, other] : [one, other + 1]
      const [k, l] = opensOne ? [partOne, other] : [one, partOther]
      const first = clearOf(m, n)
      const second = clearOf(k, l)
      if (first <= second) open.push(k, l, second, m, n, first)
      else open.push(m, n, first, k, l, second)
    }
    return { clear }
  }

  private leavesAhead(
    one: number,
    other: number,
    { way, tight, clear: most }: Omit<Going, 'frame' | 'most'> & Ahead,
  ): Ahead {
    const [a, b] = [this.#a, this.#b]
    const [boxes, others] = [a.boxes, this.#isMoved ? this.#triangleBoxes : b.boxes]
    const [p, q] = [this.#p, this.#q]
    let clear = most
    for (let i = a.from[one]!; i < a.to[one]!; i++)
      for (let k = b.from[other]!; k < b.to[other]!; k++) {
        if (clearOfBoxes(boxes, 6 * i, others, 6 * k, way, tight) >= clear) continue
        cornersOf(a, a.order[i]!, p)
        cornersOf(b, b.order[k]!, q)
        if (this.#isMoved) this.move(q)
        const byPlanes = Math.max(clearOfPlane(q, p, way, 1, tight), clearOfPlane(p, q, way, -1, tight))
        if (byPlanes >= clear || passesBy(p, q, way, tight) || passesBy(q, p, way, tight)) continue
        this.#best = Number.POSITIVE_INFINITY
        this.nearestOf()
        const [x, y, z, u, v, w] = this.#near as unknown as [number, number, number, number, number, number]
        const distance = Math.sqrt(this.#best)
        if (distance < tight) return { clear: 0, met: [x, y, z] }
        // By the way from one to the other where they are nearest, square to which nothing lies between them.
        const towards = -((u - x) * way[0] + (v - y) * way[1] + (w - z) * way[2]) / distance
        const byNearest = towards > 0 ? (distance - tight) / towards : Number.POSITIVE_INFINITY
        clear = Math.max(tight, Math.min(clear, Math.max(byPlanes, byNearest)))
      }
    return { clear }
  }

  private leaves(one: number, other: number): void {
    const a = this.#a
    const b = this.#b
    const [boxes, others] = [a.boxes, this.#isMoved ? this.#triangleBoxes : b.boxes]
    for (let i = a.from[one]!; i < a.to[one]!; i++)
      for (let k = b.from[other]!; k < b.to[other]!; k++)
        this.lookAt(a.order[i]!, b.order[k]!, awayOf(boxes, 6 * i, others, 6 * k))
  }

  /** The square of how far the boxes of two nodes are apart. */
  private away(one: number, other: number): number {
    if (this.#isMoved && this.#isKnown[other] === 0) this.moveBox(other)
    return awayOf(this.#a.bounds, 6 * one, this.#boxes, 6 * other)
  }

  /** The box about a turned one; about its triangles themselves at the end of a branch, where that is what tells them apart. */
  private moveBox(node: number): void {
    this.#isKnown[node] = 1
    const { bounds, seconds } = this.#b
    const at = 6 * node
    if (seconds[node] === 0) {
      this.boundTriangles(node, at)
      return
    }
    for (let row = 0; row < 3; row++) {
      let middle = this.#turn[4 * row + 3]!
      let half = 0
      for (let k = 0; k < 3; k++) {
        const share = this.#turn[4 * row + k]!
        const low = bounds[at + k]!
        const high = bounds[at + 3 + k]!
        middle += (share * (low + high)) / 2
        half += (Math.abs(share) * (high - low)) / 2
      }
      this.#boxes[at + row] = middle - half
      this.#boxes[at + 3 + row] = middle + half
    }
  }

  private boundTriangles(node: number, at: number): void {
    const { from, to, order } = this.#b
    emptyBox(this.#boxes, at)
    for (let i = from[node]!; i < to[node]!; i++) {
      cornersOf(this.#b, order[i]!, this.#q)
      this.move(this.#q)
      emptyBox(this.#triangleBoxes, 6 * i)
      takeIn(this.#triangleBoxes, 6 * i, this.#q)
      takeIn(this.#boxes, at, this.#q)
    }
  }

  /** Takes a pair of triangles for the nearest one where it is nearer than what was found. */
  look(one: number, other: number): void {
    this.lookAt(one, other, 0)
  }

  /** `away`: the square of how far their boxes are apart, or less. */
  private lookAt(one: number, other: number, away: number): void {
    if (away > this.#best || this.#best === 0) return
    const p = this.#p
    const q = this.#q
    cornersOf(this.#a, one, p)
    cornersOf(this.#b, other, q)
    if (this.#isMoved) this.move(q)
    if (beyond(p, q, this.#best) || beyond(q, p, this.#best)) return
    const before = this.#best
    this.nearestOf(away === 0)
    if (this.#best < before) {
      this.#one = one
      this.#other = other
    }
  }

  /** Takes where both triangles are nearest, where that is nearer than what was found; at 0 where they go through each other. */
  private nearestOf(mayMeet = true): void {
    const [p, q] = [this.#p, this.#q]
    for (let i = 0; i < 3 && mayMeet; i++) {
      if (this.pierces(p, 3 * i, 3 * ((i + 1) % 3), q) || this.pierces(q, 3 * i, 3 * ((i + 1) % 3), p)) {
        this.#best = 0
        return
      }
    }
    for (let i = 0; i < 3; i++) {
      this.corner(p, 3 * i, q, false)
      this.corner(q, 3 * i, p, true)
      for (let k = 0; k < 3; k++) this.stretches(3 * i, 3 * ((i + 1) % 3), 3 * k, 3 * ((k + 1) % 3))
    }
  }

  private move(q: Float64Array): void {
    const t = this.#turn
    for (let c = 0; c < 9; c += 3) {
      const x = q[c]!
      const y = q[c + 1]!
      const z = q[c + 2]!
      q[c] = t[0]! * x + t[1]! * y + t[2]! * z + t[3]!
      q[c + 1] = t[4]! * x + t[5]! * y + t[6]! * z + t[7]!
      q[c + 2] = t[8]! * x + t[9]! * y + t[10]! * z + t[11]!
    }
  }

  private take(x: number, y: number, z: number, i: number, j: number, k: number): void {
    const far = (i - x) * (i - x) + (j - y) * (j - y) + (k - z) * (k - z)
    if (far >= this.#best) return
    this.#best = far
    const near = this.#near
    near[0] = x
    near[1] = y
    near[2] = z
    near[3] = i
    near[4] = j
    near[5] = k
  }

  /** The nearest of a triangle to a corner of the other one (Ericson, Real-Time Collision Detection, 2005, 5.1.5). */
  private corner(of: Float64Array, at: number, t: Float64Array, isSecond: boolean): void {
    const x = of[at]!
    const y = of[at + 1]!
    const z = of[at + 2]!
    const ax = t[0]!
    const ay = t[1]!
    const az = t[2]!
    const ux = t[3]! - ax
    const uy = t[4]! - ay
    const uz = t[5]! - az
    const vx = t[6]! - ax
    const vy = t[7]! - ay
    const vz = t[8]! - az
    const wx = x - ax
    const wy = y - ay
    const wz = z - az
    const uu = ux * ux + uy * uy + uz * uz
    const uv = ux * vx + uy * vy + uz * vz
    const vv = vx * vx + vy * vy + vz * vz
    const uw = ux * wx + uy * wy + uz * wz
    const vw = vx * wx + vy * wy + vz * wz
    const whole = uu * vv - uv * uv
    const s = vv * uw - uv * vw
    const r = uu * vw - uv * uw
    // Where it lies beside the triangle, one of the stretches is nearer.
    if (!(whole > 0) || s < 0 || r < 0 || s + r > whole) return
    const cx = ax + (s * ux + r * vx) / whole
    const cy = ay + (s * uy + r * vy) / whole
    const cz = az + (s * uz + r * vz) / whole
    if (isSecond) this.take(cx, cy, cz, x, y, z)
    else this.take(x, y, z, cx, cy, cz)
  }

  /** The nearest of a side of the first to a side of the second (Ericson 2005, 5.1.9). */
  private stretches(a: number, b: number, c: number, d: number): void {
    const p = this.#p
    const q = this.#q
    const ux = p[b]! - p[a]!
    const uy = p[b + 1]! - p[a + 1]!
    const uz = p[b + 2]! - p[a + 2]!
    const vx = q[d]! - q[c]!
    const vy = q[d + 1]! - q[c + 1]!
    const vz = q[d + 2]! - q[c + 2]!
    const wx = p[a]! - q[c]!
    const wy = p[a + 1]! - q[c + 1]!
    const wz = p[a + 2]! - q[c + 2]!
    const uu = ux * ux + uy * uy + uz * uz
    const uv = ux * vx + uy * vy + uz * vz
    const vv = vx * vx + vy * vy + vz * vz
    const uw = ux * wx + uy * wy + uz * wz
    const vw = vx * wx + vy * wy + vz * wz
    // Of parallel ones any place will do to begin with.
    const across = uu * vv - uv * uv
    let s = across > 1e-14 * uu * vv ? within1((uv * vw - uw * vv) / across) : 0
    let t = vv > 0 ? (uv * s + vw) / vv : 0
    if (t < 0 || t > 1) {
      t = within1(t)
      s = uu > 0 ? within1((uv * t - uw) / uu) : 0
    }
    this.take(
      p[a]! + s * ux,
      p[a + 1]! + s * uy,
      p[a + 2]! + s * uz,
      q[c]! + t * vx,
      q[c + 1]! + t * vy,
      q[c + 2]! + t * vz,
    )
  }

  /** Whether a side of one goes through the other, and where. */
  private pierces(of: Float64Array, a: number, b: number, t: Float64Array): boolean {
    const ux = t[3]! - t[0]!
    const uy = t[4]! - t[1]!
    const uz = t[5]! - t[2]!
    const vx = t[6]! - t[0]!
    const vy = t[7]! - t[1]!
    const vz = t[8]! - t[2]!
    const nx = uy * vz - uz * vy
    const ny = uz * vx - ux * vz
    const nz = ux * vy - uy * vx
    const from = nx * (of[a]! - t[0]!) + ny * (of[a + 1]! - t[1]!) + nz * (of[a + 2]! - t[2]!)
    const to = nx * (of[b]! - t[0]!) + ny * (of[b + 1]! - t[1]!) + nz * (of[b + 2]! - t[2]!)
    if (from > 0 === to > 0 || from === to) return false
    const share = from / (from - to)
    const x = of[a]! + share * (of[b]! - of[a]!)
    const y = of[a + 1]! + share * (of[b + 1]! - of[a + 1]!)
    const z = of[a + 2]! + share * (of[b + 2]! - of[a + 2]!)
    for (let c = 0; c < 9; c += 3) {
      const d = (c + 3) % 9
      const sx = t[d]! - t[c]!
      const sy = t[d + 1]! - t[c + 1]!
      const sz = t[d + 2]! - t[c + 2]!
      const wx = x - t[c]!
      const wy = y - t[c + 1]!
      const wz = z - t[c + 2]!
      if (nx * (sy * wz - sz * wy) + ny * (sz * wx - sx * wz) + nz * (sx * wy - sy * wx) < 0) return false
    }
    this.#near.set([x, y, z, x, y, z])
    return true
  }
}

const within1 = (value: number) => (value < 0 ? 0 : Math.min(value, 1))

/** The longest side of a node's box. */
function size(bounds: Float64Array, node: number): number {
  const at = 6 * node
  return Math.max(bounds[at + 3]! - bounds[at]!, bounds[at + 4]! - bounds[at + 1]!, bounds[at + 5]! - bounds[at + 2]!)
}

/**
 * Whether one triangle lies as far to one side of the plane of another as is asked for, as a square: of faces that run along each
 * other, as a pin and its bore do, that tells nearly all apart.
 */
function beyond(of: Float64Array, t: Float64Array, square: number): boolean {
  const ax = t[0]!
  const ay = t[1]!
  const az = t[2]!
  const ux = t[3]! - ax
  const uy = t[4]! - ay
  const uz = t[5]! - az
  const vx = t[6]! - ax
  const vy = t[7]! - ay
  const vz = t[8]! - az
  const nx = uy * vz - uz * vy
  const ny = uz * vx - ux * vz
  const nz = ux * vy - uy * vx
  const a = nx * (of[0]! - ax) + ny * (of[1]! - ay) + nz * (of[2]! - az)
  const b = nx * (of[3]! - ax) + ny * (of[4]! - ay) + nz * (of[5]! - az)
  const c = nx * (of[6]! - ax) + ny * (of[7]! - ay) + nz * (of[8]! - az)
  const low = Math.min(a, b, c)
  const high = Math.max(a, b, c)
  const far = low > 0 ? low : Math.min(high, 0)
  return far * far >= square * (nx * nx + ny * ny + nz * nz) && far !== 0
}

/** How far the second one may go before its box comes nearer to the first than `tight` along each axis, mm; 0 where it is so now. */
function clearOfBoxes(a: Float64Array, at: number, b: Float64Array, other: number, way: Vec3, tight: number): number {
  let clear = 0
  for (let k = 0; k < 3; k++) {
    const below = b[other + k]! - a[at + 3 + k]!
    const above = a[at + k]! - b[other + 3 + k]!
    if (below >= tight) clear = Math.max(clear, until(below - tight, -way[k]!))
    else if (above >= tight) clear = Math.max(clear, until(above - tight, way[k]!))
  }
  return clear
}

/**
 * The same by the plane of a triangle, of which the other one lies to one side. `sign`: 1 where the other one goes along the way, −1 where the
 * triangle itself does.
 */
function clearOfPlane(of: Float64Array, t: Float64Array, way: Vec3, sign: 1 | -1, tight: number): number {
  const ax = t[0]!
  const ay = t[1]!
  const az = t[2]!
  const ux = t[3]! - ax
  const uy = t[4]! - ay
  const uz = t[5]! - az
  const vx = t[6]! - ax
  const vy = t[7]! - ay
  const vz = t[8]! - az
  const nx = uy * vz - uz * vy
  const ny = uz * vx - ux * vz
  const nz = ux * vy - uy * vx
  const square = nx * nx + ny * ny + nz * nz
  if (!(square > 0)) return 0
  const a = nx * (of[0]! - ax) + ny * (of[1]! - ay) + nz * (of[2]! - az)
  const b = nx * (of[3]! - ax) + ny * (of[4]! - ay) + nz * (of[5]! - az)
  const c = nx * (of[6]! - ax) + ny * (of[7]! - ay) + nz * (of[8]! - az)
  const size = Math.sqrt(square)
  const along = (sign * (nx * way[0] + ny * way[1] + nz * way[2])) / size
  const low = Math.min(a, b, c) / size
  if (low >= tight) return until(low - tight, -along)
  const high = Math.max(a, b, c) / size
  return -high >= tight ? until(-high - tight, along) : 0
}

/** Whether one triangle lies beside a side of another one, seen along the way, by at least `tight`: neither gets nearer than that. */
function passesBy(of: Float64Array, t: Float64Array, way: Vec3, tight: number): boolean {
  for (let i = 0; i < 9; i += 3) {
    const j = (i + 3) % 9
    const ux = t[j]! - t[i]!
    const uy = t[j + 1]! - t[i + 1]!
    const uz = t[j + 2]! - t[i + 2]!
    const nx = uy * way[2] - uz * way[1]
    const ny = uz * way[0] - ux * way[2]
    const nz = ux * way[1] - uy * way[0]
    const from = nx * t[i]! + ny * t[i + 1]! + nz * t[i + 2]!
    const k = (i + 6) % 9
    const third = nx * t[k]! + ny * t[k + 1]! + nz * t[k + 2]! - from
    const a = nx * of[0]! + ny * of[1]! + nz * of[2]! - from
    const b = nx * of[3]! + ny * of[4]! + nz * of[5]! - from
    const c = nx * of[6]! + ny * of[7]! + nz * of[8]! - from
    const least = tight * Math.sqrt(nx * nx + ny * ny + nz * nz)
    if (!(least > 0)) continue
    if (Math.min(a, b, c) - Math.max(0, third) >= least || Math.min(0, third) - Math.max(a, b, c) >= least) return true
  }
  return false
}

/** How far until what is so far away is gone, where each mm takes so much of it. */
function until(away: number, taken: number): number {
  return taken > 0 ? away / taken : Number.POSITIVE_INFINITY
}

/** The square of how far two boxes of two lists are apart. */
function awayOf(a: Float64Array, at: number, b: Float64Array, other: number): number {
  let sum = 0
  for (let k = 0; k < 3; k++) {
    const below = b[other + k]! - a[at + 3 + k]!
    const above = a[at + k]! - b[other + 3 + k]!
    const far = Math.max(below, above)
    if (far > 0) sum += far * far
  }
  return sum
}
