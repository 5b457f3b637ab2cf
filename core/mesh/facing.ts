import type { Vec3 } from '../place/index.ts'
import { halfEdgeTwins } from './halfEdges.ts'
import type { ToldBefore } from './known.ts'
import { nearestInto } from './near.ts'
import { cornersOf, type TreeNodes, TriangleTree } from './tree.ts'

/** Nine numbers: x, y, z of three corners, mm. */
type Corners = Float64Array<ArrayBuffer>

/** Part of a triangle, with the ball that touches it in its middle and comes up against what faces it. */
export interface FacingSpot {
  readonly triangle: number
  readonly corners: Corners
  /** mm² */
  readonly area: number
  readonly middle: Vec3
  /** unit, out of the solid; of a round the round's own, not its flat's */
  readonly normal: Vec3
  /** how thick it is there: twice the radius of the ball, mm */
  readonly across: number
  /** the triangle that the ball comes up against, and where */
  readonly against: number
  readonly at: Vec3
  /** how thick it is at its corners, mm; where that is asked for */
  readonly ends?: readonly number[]
}

interface FacingOptions {
  /** only what is nearer is looked at closely, and told, mm */
  readonly below: number
  /** parts are no longer than this where what they face is not as far away all over them, mm */
  readonly fine: number
  /** it is as far all over a part, where it differs by no more than this share */
  readonly alike?: number
  /** whether what is at the corners of each part is told as well */
  readonly withEnds?: boolean
  /** so many parts more than there are triangles are looked at at most */
  readonly most?: number
  readonly pause?: (() => Promise<void>) | undefined
  /** those that nothing of an earlier mesh was near to */
  readonly before?: ToldBefore | undefined
}

/**
 * What looks at least this far away from a place faces it, as a cosine: of any bar's sides some do, at the least 120° of a three-sided one's,
 * whose corners are rounded to single precision.
 */
const facing = -0.499
/** Flats that turn by less are flats of one round, as a cosine. */
const oneRound = Math.cos((30 * Math.PI) / 180)
/** It is as far all over a part, where it differs by no more than this, mm. */
const alikeMm = 0.004
/** A ball that comes no closer than this has come to rest, as a share of its radius. */
const atRest = 1e-6
/** A ball has come to rest after so many places that it came up against; twenty are never needed. */
const mostPlaces = 60
/** So many parts are looked at between two turns of others: some ms. */
const betweenTurns = 400
const mostParts = 400_000

/**
 * How far it is from a surface to what faces it: through the solid, its thickness, or through the air before it, its gaps. As wide as the
 * largest ball that touches a place and reaches nothing that faces it (J. Ma, S. W. Bae and S. Choi, "3D medial axis point approximation
 * using nearest neighbors and the normal field", 2012: a ball is shrunk until nothing lies in it), but of faces that look at least 120°
 * away alone: towards each edge a ball that touched both its sides would go to nothing.
 */
export class Facing {
  readonly #nodes: TreeNodes
  /** 1 through the solid, -1 through the air */
  readonly way: 1 | -1
  /** unit normals, zeros of slivers; of the flats themselves */
  readonly #flats: Float64Array
  readonly #surface: Surface
  readonly #corners = new Float64Array(9)
  readonly #found = new Float64Array(3)
  /** where a ball comes up against something, and where the last one did */
  readonly #touched = new Float64Array(3)
  readonly #at = new Float64Array(3)
  /** what comes to a ball, and how many that are */
  readonly #reached: number[] = []
  #reaches = 0
  readonly #range = new Float64Array(2)
  readonly #box = new Float64Array(6)
  /** nodes that are still to be looked into: no tree is deeper */
  readonly #open = new Uint32Array(256)

  constructor(tree: TriangleTree, through: 'solid' | 'air') {
    this.#nodes = tree.nodes
    this.way = through === 'solid' ? 1 : -1
    const known = surfaces.get(tree) ?? surfaceOf(this.#nodes)
    surfaces.set(tree, known)
    this.#surface = known
    this.#flats = known.flats
  }

  /** How far it is from a place of a triangle, mm; undefined where that is not nearer than `below`. */
  across(
    place: Vec3,
    triangle: number,
    below: number,
  ): Pick<FacingSpot, 'across' | 'against' | 'at' | 'normal'> | undefined {
    const near = this.facedBy(triangle, Float64Array.of(...place, ...place, ...place), below)
    const normal = this.normalAt(place, triangle)
    const ball = this.ballAt(place, normal, near, below)
    return ball && { ...ball, normal }
  }

  /**
   * All parts of the surface that are nearer than `below` to what faces them. `isWhole`: whether all of it was looked at, as it is but
   * where `most` parts were not enough. `alone`: marks of the triangles that nothing is near to.
   */
  async spots({
    below,
    fine,
    alike = 0.02,
    withEnds = false,
    most = mostParts,
    pause,
    before,
  }: FacingOptions): Promise<{
    readonly spots: readonly FacingSpot[]
    readonly isWhole: boolean
    readonly alone: Uint8Array
  }> {
    const spots: FacingSpot[] = []
    const asked = { below, fine, alike, withEnds }
    let looked = 0
    const count = this.#nodes.mesh.triangles.length / 3
    const alone = new Uint8Array(count)
    const isLeftAlone = before && this.leftAlone(before, below)
    for (let t = 0; t < count; t++) {
      if (isLeftAlone?.(t)) {
        alone[t] = 1
        if (looked++ % betweenTurns === 0) await pause?.()
        continue
      }
      const whole = new Float64Array(9)
      cornersOf(this.#nodes, t, whole)
      const near = this.facedBy(t, whole, below)
      if (near.length === 0) alone[t] = 1
      const open: { readonly corners: Corners; readonly near: readonly number[] }[] = [{ corners: whole, near }]
      while (open.length > 0) {
        if (looked++ % betweenTurns === 0) await pause?.()
        if (looked > t + 1 + most) return { spots, isWhole: false, alone }
        const { corners, near } = open.pop()!
        if (near.length === 0) continue
        // Of a strip either half may be near to something.
        const nearTo = (part: Corners) => {
          const halves = part.length === 9 ? [part] : trianglesOf(part)
          return near.filter((other) => halves.some((half) => this.faces(t, half, other, below)))
        }
        if (corners.length === 9) {
          const own = this.told(t, corners, near, asked)
          if (own === 'differs') for (const part of partsOf(corners)) open.push({ corners: part, near: nearTo(part) })
          else if (own) spots.push(own)
          continue
        }
        const told = trianglesOf(corners).map((half) => this.told(t, half, nearTo(half), asked))
        if (told.some((own) => own === 'differs'))
          for (const part of stripsOf(corners)) open.push({ corners: part, near })
        else for (const own of told) if (own && own !== 'differs') spots.push(own)
      }
    }
    return { spots, isWhole: true, alone }
  }

  /** Whether nothing was near to a triangle before, and nothing fresh is. */
  private leftAlone({ told, fresh }: ToldBefore, below: number): (t: number) => boolean {
    const { mesh } = this.#nodes
    const { nodes } = new TriangleTree(
      mesh,
      [...fresh.keys()].filter((t) => fresh[t]),
    )
    const among = { nodes, looks: looksOf(nodes, this.#flats) }
    const corners = new Float64Array(9)
    return (t) => {
      if (!told[t]) return false
      cornersOf(this.#nodes, t, corners)
      return this.facedBy(t, corners, below, among).length === 0
    }
  }

  /** What is told of a part of a triangle; that it differs over it where smaller parts are to be asked; undefined where nothing is near. */
  private told(
    t: number,
    corners: Corners,
    near: readonly number[],
    { below, fine, alike, withEnds }: Required<Pick<FacingOptions, 'below' | 'fine' | 'alike' | 'withEnds'>>,
  ): FacingSpot | 'differs' | undefined {
    if (near.length === 0) return undefined
    const middle: Vec3 = [
      (corners[0]! + corners[3]! + corners[6]!) / 3,
      (corners[1]! + corners[4]! + corners[7]!) / 3,
      (corners[2]! + corners[5]! + corners[8]!) / 3,
    ]
    const normal = this.normalAt(middle, t)
    const ball = this.ballAt(middle, normal, near, below)
    const widest = ball?.across ?? below
    const isAlike = (across: number) => Math.abs(across - widest) <= alike * widest + alikeMm
    const isFine = longestOf(corners).squared <= fine * fine
    if (isFine && !ball) return undefined
    if (!isFine && !isAlike(this.least(t, corners, near))) return 'differs'
    const ends = isFine && !withEnds ? [] : this.endsOf(t, corners, middle, near, below, isFine ? () => true : isAlike)
    if (!ends) return 'differs'
    return (
      ball && { ...{ triangle: t, corners, area: areaOf(corners), middle, normal }, ...ball, ...(withEnds && { ends }) }
    )
  }

  /**
   * How far it is across at the corners of a part, drawn in a little: there a triangle beside it may tell something else. Undefined as soon
   * as one is not as wanted.
   */
  private endsOf(
    t: number,
    corners: Corners,
    middle: Vec3,
    near: readonly number[],
    below: number,
    isWanted: (across: number) => boolean,
  ): readonly number[] | undefined {
    const out: number[] = []
    for (const c of [0, 3, 6]) {
      const place: Vec3 = [
        corners[c]! + drawnIn * (middle[0] - corners[c]!),
        corners[c + 1]! + drawnIn * (middle[1] - corners[c + 1]!),
        corners[c + 2]! + drawnIn * (middle[2] - corners[c + 2]!),
      ]
      const across = this.ballAt(place, this.normalAt(place, t), near, below)?.across ?? below
      if (!isWanted(across)) return undefined
      out.push(across)
    }
    return out
  }

  /** The triangles that face a part of one, and may be nearer to it than `below`; `among`: of a tree of some of them. */
  private facedBy(
    t: number,
    corners: Corners,
    below: number,
    { nodes, looks }: { readonly nodes: TreeNodes; readonly looks: Float64Array } = {
      nodes: this.#nodes,
      looks: this.#surface.looks,
    },
  ): readonly number[] {
    const { bounds, seconds, order, from, to, boxes, count } = nodes
    if (this.isSliver(t) || count === 0) return []
    const box = this.#box
    boxInto(corners, box)
    const [x0, y0, z0, x1, y1, z1] = [
      box[0]! - below,
      box[1]! - below,
      box[2]! - below,
      box[3]! + below,
      box[4]! + below,
      box[5]! + below,
    ]
    const isAway = (list: Float64Array, i: number) =>
      list[i]! > x1 ||
      list[i + 3]! < x0 ||
      list[i + 1]! > y1 ||
      list[i + 4]! < y0 ||
      list[i + 2]! > z1 ||
      list[i + 5]! < z0
    const [nx, ny, nz] = [this.#flats[3 * t]!, this.#flats[3 * t + 1]!, this.#flats[3 * t + 2]!]
    /** Whether nothing in a node looks far enough away. */
    const looksAlike = (i: number) =>
      nx * (nx > 0 ? looks[i]! : looks[i + 3]!) +
        ny * (ny > 0 ? looks[i + 1]! : looks[i + 4]!) +
        nz * (nz > 0 ? looks[i + 2]! : looks[i + 5]!) >
      facing
    const out: number[] = []
    const open = this.#open
    let last = 0
    open[0] = 0
    while (last >= 0) {
      const node = open[last--]!
      if (isAway(bounds, 6 * node) || looksAlike(6 * node)) continue
      if (seconds[node] !== 0) {
        open[++last] = node + 1
        open[++last] = seconds[node]!
        continue
      }
      for (let i = from[node]!; i < to[node]!; i++) {
        const other = order[i]!
        if (this.looksAt(t, other) && !isAway(boxes, 6 * i) && this.faces(t, corners, other, below)) out.push(other)
      }
    }
    return out
  }

  /** Whether a triangle looks far enough away from another one to face it. */
  private looksAt(t: number, other: number): boolean {
    const flats = this.#flats
    const [i, k] = [3 * t, 3 * other]
    return flats[i]! * flats[k]! + flats[i + 1]! * flats[k + 1]! + flats[i + 2]! * flats[k + 2]! <= facing
  }

  /** Whether a triangle that looks at a part of another one lies before it, and may be nearer to it than `below`. */
  private faces(t: number, corners: Corners, other: number, below: number): boolean {
    const others = this.#corners
    cornersOf(this.#nodes, other, others)
    // Each lies before the other one, on the side that is looked through.
    const range = this.#range
    this.before(t, corners, others)
    if (range[1]! <= 0 || range[0]! >= below) return false
    this.before(other, others, corners)
    if (range[1]! <= 0 || range[0]! >= below) return false
    return boxesApart(corners, others) < below
  }

  /** How far corners are before a triangle's plane, on the side that is looked through, mm: the least and the most, into `#range`. */
  private before(t: number, own: Float64Array, corners: Float64Array): void {
    const flats = this.#flats
    const [i, way] = [3 * t, -this.way]
    const [nx, ny, nz] = [way * flats[i]!, way * flats[i + 1]!, way * flats[i + 2]!]
    const off = nx * own[0]! + ny * own[1]! + nz * own[2]!
    const a = nx * corners[0]! + ny * corners[1]! + nz * corners[2]! - off
    const b = nx * corners[3]! + ny * corners[4]! + nz * corners[5]! - off
    const c = nx * corners[6]! + ny * corners[7]! + nz * corners[8]! - off
    this.#range[0] = Math.min(a, b, c)
    this.#range[1] = Math.max(a, b, c)
  }

  /** No places of two parts are nearer to each other, mm: by their boxes and their planes. */
  private apart(t: number, corners: Corners, other: number, others: Float64Array): number {
    const range = this.#range
    this.before(t, corners, others)
    const one = range[0]!
    this.before(other, others, corners)
    return Math.max(boxesApart(corners, others), one, range[0]!)
  }

  /** It is nowhere nearer from a part to any of these, mm: the ball that touches two places is as wide as these are apart at least. */
  private least(t: number, corners: Corners, near: readonly number[]): number {
    let least = Number.POSITIVE_INFINITY
    for (const other of near) {
      cornersOf(this.#nodes, other, this.#corners)
      least = Math.min(least, this.apart(t, corners, other, this.#corners))
    }
    return least
  }

  private ballAt(
    place: Vec3,
    normal: Vec3,
    near: readonly number[],
    below: number,
  ): Pick<FacingSpot, 'across' | 'against' | 'at'> | undefined {
    const [way, at] = [this.way, this.#touched]
    let radius = below / 2
    let against = -1
    // Each ball lies in the one before: what that did not reach is not asked again.
    let left = near
    let count = near.length
    for (let i = 0; i < mostPlaces; i++) {
      const off = way * radius
      const centre: Vec3 = [place[0] - off * normal[0], place[1] - off * normal[1], place[2] - off * normal[2]]
      const next = this.nearestOf(centre, left, count, radius)
      count = this.#reaches
      left = this.#reached
      if (next < 0) break
      const [x, y, z] = [place[0] - at[0]!, place[1] - at[1]!, place[2] - at[2]!]
      const before = way * (normal[0] * x + normal[1] * y + normal[2] * z)
      // What the ball touches lies before the place.
      if (!(before > 0)) break
      radius = (x * x + y * y + z * z) / (2 * before)
      against = next
      this.#at.set(at)
    }
    if (against < 0) return undefined
    const [x, y, z] = this.#at
    return { across: 2 * radius, against, at: [x!, y!, z!] }
  }

  /**
   * The triangle of the first `count` of these that reaches farthest into a ball, and where that is nearest to its centre, into `#touched`;
   * -1 where none does. All that come to the ball are left in `#reached`.
   */
  private nearestOf(centre: Vec3, near: readonly number[], count: number, radius: number): number {
    const [flats, corners, reached] = [this.#flats, this.#corners, this.#reached]
    const [px, py, pz] = centre
    const whole = radius * radius
    let reach = whole * (1 - atRest) * (1 - atRest)
    let nearest = -1
    let reaches = 0
    for (let k = 0; k < count; k++) {
      const t = near[k]!
      cornersOf(this.#nodes, t, corners)
      const off =
        flats[3 * t]! * (px - corners[0]!) +
        flats[3 * t + 1]! * (py - corners[1]!) +
        flats[3 * t + 2]! * (pz - corners[2]!)
      // Its whole plane lies beyond the ball.
      if (off * off >= whole) continue
      const at = nearestInto(corners, centre, this.#found)
      const [x, y, z] = [at[0]! - px, at[1]! - py, at[2]! - pz]
      const squared = x * x + y * y + z * z
      if (squared >= whole) continue
      reached[reaches++] = t
      if (squared >= reach) continue
      reach = squared
      nearest = t
      this.#touched.set(at)
    }
    this.#reaches = reaches
    return nearest
  }

  private isSliver(t: number): boolean {
    return this.#flats[3 * t] === 0 && this.#flats[3 * t + 1] === 0 && this.#flats[3 * t + 2] === 0
  }

  /** Which way the surface looks at a place of a triangle: between its corners, where flats of one round meet, as the round does. */
  private normalAt(place: Vec3, t: number): Vec3 {
    this.#surface.turned ??= turnedOf(this.#nodes, this.#flats)
    const { turned } = this.#surface
    cornersOf(this.#nodes, t, this.#corners)
    const shares = sharesAt(place, this.#corners)
    const out: [number, number, number] = [0, 0, 0]
    for (let c = 0; c < 3; c++) for (let k = 0; k < 3; k++) out[k]! += shares[c]! * turned[9 * t + 3 * c + k]!
    const size = Math.hypot(...out)
    if (size > 0) return [out[0] / size, out[1] / size, out[2] / size]
    return [this.#flats[3 * t]!, this.#flats[3 * t + 1]!, this.#flats[3 * t + 2]!]
  }
}

interface Surface {
  readonly flats: Float64Array
  readonly looks: Float64Array
  turned: Float64Array | undefined
}
/** Which way meshes look, for both what is in them and what is before them. */
const surfaces = new WeakMap<TriangleTree, Surface>()

function surfaceOf(nodes: TreeNodes): Surface {
  const flats = flatsOf(nodes)
  return { flats, looks: looksOf(nodes, flats), turned: undefined }
}

/** Low and high of the normals in each node. */
function looksOf({ count, seconds, from, to, order }: TreeNodes, flats: Float64Array): Float64Array {
  const looks = new Float64Array(6 * count)
  // Children come after their node.
  for (let node = count - 1; node >= 0; node--)
    for (let k = 0; k < 3; k++) {
      let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]
      if (seconds[node] === 0)
        for (let i = from[node]!; i < to[node]!; i++) {
          const look = flats[3 * order[i]! + k]!
          low = Math.min(low, look)
          high = Math.max(high, look)
        }
      else
        for (const child of [node + 1, seconds[node]!]) {
          low = Math.min(low, looks[6 * child + k]!)
          high = Math.max(high, looks[6 * child + 3 + k]!)
        }
      looks[6 * node + k] = low
      looks[6 * node + 3 + k] = high
    }
  return looks
}

/** How far the corners of a part are drawn towards its middle. */
const drawnIn = 0.02

function flatsOf(nodes: TreeNodes): Corners {
  const count = nodes.mesh.triangles.length / 3
  const flats = new Float64Array(3 * count)
  const corners = new Float64Array(9)
  for (let t = 0; t < count; t++) {
    cornersOf(nodes, t, corners)
    const [x, y, z] = acrossOf(corners)
    const size = Math.sqrt(x * x + y * y + z * z)
    // A triangle of no area looks nowhere.
    if (!(size > noArea)) continue
    flats[3 * t] = x / size
    flats[3 * t + 1] = y / size
    flats[3 * t + 2] = z / size
  }
  return flats
}
/** mm² */
const noArea = 1e-9

/** For each corner of each triangle the normal of the round that it is a flat of; the flat's own where it is none. */
function turnedOf(nodes: TreeNodes, flats: Float64Array): Corners {
  const { mesh } = nodes
  const twins = halfEdgeTwins(mesh)
  const count = mesh.triangles.length / 3
  const turned = new Float64Array(9 * count)
  const corners = new Float64Array(9)
  const angles = new Float64Array(3 * count)
  for (let t = 0; t < count; t++) {
    cornersOf(nodes, t, corners)
    for (let c = 0; c < 3; c++) angles[3 * t + c] = angleAt(corners, c)
  }
  const isLike = (t: number, other: number) =>
    flats[3 * t]! * flats[3 * other]! +
      flats[3 * t + 1]! * flats[3 * other + 1]! +
      flats[3 * t + 2]! * flats[3 * other + 2]! >
    oneRound
  for (let h = 0; h < 3 * count; h++) {
    const t = (h / 3) | 0
    const take = (half: number) => {
      const other = (half / 3) | 0
      for (let k = 0; k < 3; k++) turned[3 * h + k]! += angles[half]! * flats[3 * other + k]!
    }
    take(h)
    // Round the corner, one way and the other, as far as it is the same round.
    let last = t
    let half = twins[h]!
    for (let i = 0; i < mostRound && half >= 0; i++) {
      half = half % 3 === 2 ? half - 2 : half + 1
      const other = (half / 3) | 0
      if (other === t || !isLike(last, other) || !isLike(t, other)) break
      take(half)
      last = other
      half = twins[half]!
    }
    const isClosed = half >= 0 && ((half / 3) | 0) === t
    last = t
    half = isClosed ? -1 : twins[h % 3 === 0 ? h + 2 : h - 1]!
    for (let i = 0; i < mostRound && half >= 0; i++) {
      const other = (half / 3) | 0
      if (other === t || !isLike(last, other) || !isLike(t, other)) break
      take(half)
      last = other
      half = twins[half % 3 === 0 ? half + 2 : half - 1]!
    }
    const size = Math.hypot(turned[3 * h]!, turned[3 * h + 1]!, turned[3 * h + 2]!)
    for (let k = 0; k < 3; k++) turned[3 * h + k] = size > 0 ? turned[3 * h + k]! / size : flats[3 * t + k]!
  }
  return turned
}
/** So many triangles round a corner are asked. */
const mostRound = 64

function angleAt(corners: Corners, c: number): number {
  const [i, j] = [3 * ((c + 1) % 3), 3 * ((c + 2) % 3)]
  let [one, two, both] = [0, 0, 0]
  for (let k = 0; k < 3; k++) {
    const x = corners[i + k]! - corners[3 * c + k]!
    const y = corners[j + k]! - corners[3 * c + k]!
    one += x * x
    two += y * y
    both += x * y
  }
  const size = Math.sqrt(one * two)
  return size > 0 ? Math.acos(Math.min(1, Math.max(-1, both / size))) : 0
}

/** What each corner of a triangle counts for at a place of it: its barycentric coordinates. */
function sharesAt(p: Vec3, corners: Corners): Vec3 {
  let [one, two, both, first, second] = [0, 0, 0, 0, 0]
  for (let k = 0; k < 3; k++) {
    const u = corners[3 + k]! - corners[k]!
    const v = corners[6 + k]! - corners[k]!
    const w = p[k]! - corners[k]!
    one += u * u
    two += v * v
    both += u * v
    first += u * w
    second += v * w
  }
  const whole = one * two - both * both
  if (!(whole > 0)) return [1, 0, 0]
  const b = (two * first - both * second) / whole
  const c = (one * second - both * first) / whole
  return [1 - b - c, b, c]
}

function acrossOf(c: Corners): Vec3 {
  const [ux, uy, uz] = [c[3]! - c[0]!, c[4]! - c[1]!, c[5]! - c[2]!]
  const [vx, vy, vz] = [c[6]! - c[0]!, c[7]! - c[1]!, c[8]! - c[2]!]
  return [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
}

function boxInto(corners: Float64Array, box: Float64Array): void {
  for (let k = 0; k < 3; k++) {
    const [a, b, c] = [corners[k]!, corners[3 + k]!, corners[6 + k]!]
    box[k] = Math.min(a, b, c)
    box[3 + k] = Math.max(a, b, c)
  }
}

/** How far the boxes round two triangles are apart, mm. */
function boxesApart(one: Float64Array, other: Float64Array): number {
  let sum = 0
  for (let k = 0; k < 3; k++) {
    const [a, b, c] = [one[k]!, one[3 + k]!, one[6 + k]!]
    const [d, e, f] = [other[k]!, other[3 + k]!, other[6 + k]!]
    const gap = Math.max(Math.min(a, b, c) - Math.max(d, e, f), Math.min(d, e, f) - Math.max(a, b, c))
    if (gap > 0) sum += gap * gap
  }
  return Math.sqrt(sum)
}

function areaOf(corners: Corners): number {
  return Math.hypot(...acrossOf(corners)) / 2
}

function longestOf(corners: Corners): { readonly side: number; readonly squared: number } {
  let [side, squared] = [0, -1]
  for (let c = 0; c < 3; c++) {
    const [i, j] = [3 * c, 3 * ((c + 1) % 3)]
    let sum = 0
    for (let k = 0; k < 3; k++) sum += (corners[i + k]! - corners[j + k]!) ** 2
    if (sum > squared) [side, squared] = [c, sum]
  }
  return { side, squared }
}

/** So many times as long as it is wide a part is a strip: halves of it across its longest side would become ever narrower. */
const strip = 6

/**
 * A triangle in parts: halved across its longest side, but of one that is long and narrow its tip and the rest, or both sides of where it
 * is widest. The rest is a strip of four corners.
 */
function partsOf(corners: Corners): readonly Corners[] {
  const { side, squared } = longestOf(corners)
  const [i, j, k] = [side, (side + 1) % 3, (side + 2) % 3]
  const wide = (2 * areaOf(corners)) / Math.sqrt(squared)
  if (wide * strip > Math.sqrt(squared)) {
    const middle = between(corners, i, j, 1 / 2)
    return [
      joined(corners.subarray(3 * i, 3 * i + 3), middle, corners.subarray(3 * k, 3 * k + 3)),
      joined(middle, corners.subarray(3 * j, 3 * j + 3), corners.subarray(3 * k, 3 * k + 3)),
    ]
  }
  const [a, b, c] = [i, j, k].map((corner) => corners.subarray(3 * corner, 3 * corner + 3)) as [
    Corners,
    Corners,
    Corners,
  ]
  // Where along the longest side the third corner stands.
  let along = 0
  for (let n = 0; n < 3; n++) along += ((c[n]! - a[n]!) * (b[n]! - a[n]!)) / squared
  if (along > 1 / 4 && along < 3 / 4) {
    const foot = between(corners, i, j, along)
    return [joined(a, foot, c), joined(foot, b, c)]
  }
  // The tip lies at the end that the third corner is farther from.
  if (along >= 3 / 4) {
    const [low, high] = [between(corners, i, j, 1 / 2), between(corners, i, k, 1 / 2)]
    return [joined(a, low, high), joined(low, b, c, high)]
  }
  const [low, high] = [between(corners, i, j, 1 / 2), between(corners, k, j, 1 / 2)]
  return [joined(low, b, high), joined(a, low, high, c)]
}

/** A strip of four corners, whose long sides are the first and the third, halved across; as two triangles where it is one no more. */
function stripsOf(corners: Corners): readonly Corners[] {
  const [a, b, c, d] = [0, 3, 6, 9].map((at) => corners.subarray(at, at + 3)) as [Corners, Corners, Corners, Corners]
  const long = Math.max(far2(a, b), far2(c, d))
  if (long < strip * Math.max(far2(b, c), far2(d, a))) return trianglesOf(corners)
  const [low, high] = [between(corners, 0, 1, 1 / 2), between(corners, 3, 2, 1 / 2)]
  return [joined(a, low, high, d), joined(low, b, c, high)]
}

function trianglesOf(corners: Corners): readonly [Corners, Corners] {
  const [a, b, c, d] = [0, 3, 6, 9].map((at) => corners.subarray(at, at + 3)) as [Corners, Corners, Corners, Corners]
  return [joined(a, b, c), joined(a, c, d)]
}

/** The place so much of the way from one corner to another. */
function between(corners: Corners, from: number, to: number, share: number): Corners {
  const at = new Float64Array(3)
  for (let k = 0; k < 3; k++) at[k] = corners[3 * from + k]! + share * (corners[3 * to + k]! - corners[3 * from + k]!)
  return at
}

function joined(...places: readonly Corners[]): Corners {
  const out = new Float64Array(3 * places.length)
  for (const [i, place] of places.entries()) out.set(place, 3 * i)
  return out
}

function far2(a: Corners, b: Corners): number {
  return Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!, a[2]! - b[2]!)
}
