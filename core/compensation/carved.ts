import type { Scope, Solid } from '../kernel/index.ts'
import { halfEdgeTwins, nextHalfEdge, TriangleTree } from '../mesh/index.ts'
import { add, cross, dot, norm, scaled, subtract, type Vec3 } from '../place/index.ts'
import { type Going, meetingWay } from './meeting.ts'

/** Walls that are to be moved by what they sweep. */
export interface Swept {
  readonly points: readonly Vec3[]
  readonly triangles: readonly (readonly [number, number, number])[]
  /** The outward unit normal of a triangle; of a sliver that of what it lies beside. */
  flat(t: number): Vec3
  /** The wall that a triangle is of, where it is to be swept; −1 elsewhere. */
  wall(t: number): number
  /** How far a wall is to go sideways into the material, mm. */
  by(wall: number): number
}

/** More bodies than these are not cut out. */
const mostBodies = 20_000
/** Flats that look the same way are one, as a cosine. */
const oneFlat = 1 - 1e-9
/** Flats at a vertex that look another way than their mean by more have no way in common, as a cosine. */
const likeMean = Math.cos((25 * Math.PI) / 180)
/** What leans less from the level goes along its normal, as a sine. */
const steepEnough = 0.2
/** Nearer than this two ways lead to one place, mm. */
const onePlace = 1e-6
/** How far bodies begin before the surface and overlap what lies beside them, mm: no two faces lie in one plane then. */
const clear = 1e-3
/** What runs through itself by less has only been rounded, mm. */
const shallow = 1e-4

/**
 * A solid without what its walls sweep on their way in, and with what they sweep on their way out: one body under each wall, as far as it
 * does not fold up; flat by flat there, with what lies between an edge and where both of its flats meet then. It serves where the surface
 * cannot move by itself. Undefined where there are too many bodies.
 */
export function carved(scope: Scope, solid: Solid, swept: Swept): Solid | undefined {
  const bodies = new Sweep(swept).bodies()
  if (bodies.length > mostBodies) return undefined
  // Thin bodies among others lead the library astray: it loses corners then. One group after the other they do no harm.
  return groupsOf(bodies).reduce((rest, group) => {
    const solids = group.map(({ points, triangles }) =>
      triangles ? scope.surface(points, triangles) : scope.hull(points),
    )
    return group[0]!.way > 0 ? scope.difference(rest, solids) : scope.union([rest, ...solids])
  }, solid)
}

function groupsOf(bodies: readonly SweptBody[]): SweptBody[][] {
  return ([1, -1] as const)
    .flatMap((way) =>
      [true, false].map((whole) =>
        bodies.filter((body) => body.way === way && (body.fills || body.triangles !== undefined) === whole),
      ),
    )
    .filter(({ length }) => length > 0)
}

interface SweptBody {
  readonly points: readonly Vec3[]
  /** without any it is the hull of its points */
  readonly triangles?: readonly (readonly [number, number, number])[]
  /** 1 where it is to be taken away */
  readonly way: 1 | -1
  /** it lies between the bodies of two walls, and goes with them */
  readonly fills?: boolean
}

/** What a wall sweeps as one, with the triangle that each of its own comes from. */
interface WallBody extends SweptBody {
  readonly triangles: readonly (readonly [number, number, number])[]
  readonly sources: readonly number[]
}

/** So often a body is made anew without what runs through it. */
const mostRounds = 5

class Sweep {
  readonly #swept: Swept
  readonly #corners: Uint32Array
  readonly #twins: Int32Array
  readonly #normals: readonly Vec3[]
  /** the half-edges that leave each vertex */
  readonly #leaving: readonly (readonly number[])[]

  constructor(swept: Swept) {
    const { points, triangles } = swept
    this.#swept = swept
    this.#corners = Uint32Array.from(triangles.flat())
    this.#twins = halfEdgeTwins({ positions: new Uint8Array(3 * points.length), triangles: this.#corners })
    this.#normals = triangles.map((_, t) => swept.flat(t))
    const leaving: number[][] = points.map(() => [])
    this.#corners.forEach((vertex, h) => void leaving[vertex]!.push(h))
    this.#leaving = leaving
  }

  bodies(): SweptBody[] {
    const { triangles, wall } = this.#swept
    const walls = new Map<number, number[]>()
    triangles.forEach((_, t) => {
      const own = wall(t)
      if (own < 0) return
      const known = walls.get(own)
      if (known) known.push(t)
      else walls.set(own, [t])
    })
    return [...walls].flatMap(([own, all]) => this.under(own, all))
  }

  /** What one wall sweeps. */
  private under(wall: number, all: readonly number[]): SweptBody[] {
    const way = this.#swept.by(wall) > 0 ? 1 : -1
    const goals = new Map<number, Swing | undefined>()
    for (const t of all)
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        const vertex = this.#corners[h]!
        if (!goals.has(vertex)) goals.set(vertex, this.swingOf(vertex, wall, way))
      }
    const folds = (t: number) => {
      const ends = [0, 1, 2].map((i) => goals.get(this.#corners[3 * t + i]!)?.to)
      if (ends.some((end) => !end)) return true
      const [a, b, c] = ends as [Vec3, Vec3, Vec3]
      const n = cross(subtract(b, a), subtract(c, a))
      return dot(n, this.#normals[t]!) < 0.5 * norm(n) || norm(this.#normals[t]!) === 0
    }
    const plain = new Set(all.filter((t) => !folds(t)))
    let whole: WallBody | undefined
    // What runs through something else is swept by itself, until nothing does.
    for (let round = 0; round < mostRounds && plain.size > 0 && !whole; round++) {
      const body = this.body(plain, (vertex) => goals.get(vertex)!, way)
      const crossing = crossingIn(body)
      if (crossing.size === 0) whole = body
      for (const t of crossing) plain.delete(t)
    }
    const rest = whole ? all.filter((t) => !plain.has(t)) : all
    const corners = whole ? [...plain].flatMap((t) => this.corners(t, way)) : []
    return [...(whole ? [whole] : []), ...corners, ...rest.flatMap((t) => this.apart(t, way))]
  }

  /**
   * From where to where a vertex of a wall goes: with the wall, along what borders it there; undefined where these have no way in common.
   */
  private swingOf(vertex: number, wall: number, way: 1 | -1): Swing | undefined {
    const flats: Vec3[] = []
    const beside: Going[] = []
    for (const h of this.#leaving[vertex]!) {
      const t = (h / 3) | 0
      if (this.#swept.wall(t) !== wall) continue
      const n = this.#normals[t]!
      if (norm(n) > 0 && !flats.some((flat) => dot(flat, n) > oneFlat)) flats.push(n)
      // The edge that leaves here, and the one that arrives.
      for (const edge of [h, h % 3 === 0 ? h + 2 : h - 1]) {
        const other = (this.#twins[edge]! / 3) | 0
        if (this.#swept.wall(other) === wall) continue
        const going = this.goingOf(other)
        // Where the surface stands out there is nothing beyond that could be hurt: what it sweeps reaches into what lies beside it.
        beside.push(way * this.turnAt(edge) > 0 ? { ...going, by: going.by - way * clear } : going)
      }
    }
    if (flats.length === 0) return undefined
    const sum = flats.reduce(add)
    const mean = scaled(sum, 1 / (norm(sum) || 1))
    if (flats.some((flat) => dot(flat, mean) < likeMean)) return undefined
    const by = this.#swept.by(wall)
    const along = flats.reduce((all, flat) => all + sideways(flat, by) / dot(flat, mean), 0) / flats.length
    const move = meetingWay([{ normal: mean, by: along }, ...beside], Math.abs(by))
    if (!move) return undefined
    const at = this.#swept.points[vertex]!
    const looks = [mean, ...beside.map(({ normal }) => normal)]
    const distinct = looks.filter((n, i) => !looks.slice(0, i).some((known) => dot(known, n) > oneFlat))
    return { from: add(at, scaled(distinct.reduce(add), way * clear)), to: subtract(at, move) }
  }

  /** How the surface turns over an edge: above 0 where it stands out. */
  private turnAt(h: number): number {
    const { points } = this.#swept
    const [t, other] = [(h / 3) | 0, (this.#twins[h]! / 3) | 0]
    const along = subtract(points[this.#corners[nextHalfEdge(h)]!]!, points[this.#corners[h]!]!)
    return dot(cross(this.#normals[t]!, this.#normals[other]!), along)
  }

  /** How a triangle's plane moves. */
  private goingOf(t: number): Going {
    const wall = this.#swept.wall(t)
    const normal = this.#normals[t]!
    return { normal, by: wall < 0 ? 0 : sideways(normal, this.#swept.by(wall)) }
  }

  /** What lies between triangles and where they go. */
  private body(own: ReadonlySet<number>, swing: (vertex: number) => Swing, way: 1 | -1): WallBody {
    const points: Vec3[] = []
    const places = new Map<number, number>()
    const placeOf = (vertex: number) => {
      const known = places.get(vertex)
      if (known !== undefined) return known
      const { from, to } = swing(vertex)
      const place = points.push(from, to) - 2
      places.set(vertex, place)
      return place
    }
    const triangles: [number, number, number][] = []
    const sources: number[] = []
    for (const t of own) {
      // Inwards its own side is its outside; outwards what it goes to.
      const face = (a: number, b: number, c: number) => {
        triangles.push(way > 0 ? [a, b, c] : [a, c, b])
        sources.push(t)
      }
      const [a, b, c] = [0, 1, 2].map((i) => placeOf(this.#corners[3 * t + i]!)) as [number, number, number]
      face(a, b, c)
      face(a + 1, c + 1, b + 1)
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        if (own.has((this.#twins[h]! / 3) | 0)) continue
        const [from, to] = [this.#corners[h]!, this.#corners[nextHalfEdge(h)]!]
        const [p, q] = [placeOf(from), placeOf(to)]
        // Seen from both of its sides an edge is cut the same way: where it is twisted there would be a gap.
        if (from < to) {
          face(p, p + 1, q + 1)
          face(p, q + 1, q)
        } else {
          face(p, p + 1, q)
          face(p + 1, q + 1, q)
        }
      }
    }
    return { points, triangles, sources, way }
  }

  /** What fills the corner between two walls that are both swept as wholes and go away from each other, along the edges of a triangle. */
  private corners(t: number, way: 1 | -1): SweptBody[] {
    const own = this.goingOf(t)
    return [3 * t, 3 * t + 1, 3 * t + 2].flatMap((h): SweptBody[] => {
      const twin = this.#twins[h]!
      const [wall, beside] = [t, (twin / 3) | 0].map((each) => this.#swept.wall(each)) as [number, number]
      if (h > twin || beside < 0 || beside === wall || way * this.turnAt(h) > 0) return []
      const other = this.goingOf((twin / 3) | 0)
      return way * other.by > 0 ? this.corner(h, own, other, way) : []
    })
  }

  /** What lies between an edge, where each of both flats goes by itself, and where they meet then. */
  private corner(h: number, own: Going, other: Going, way: 1 | -1): SweptBody[] {
    const { points } = this.#swept
    const [one, two] = [own, other].map(({ normal, by }) => straightWay(normal, by)) as [Vec3, Vec3]
    const corner = meetingWay([own, other], Math.max(Math.abs(own.by), Math.abs(other.by)))
    if (!corner || norm(subtract(corner, one)) < onePlace) return []
    const ends = [points[this.#corners[h]!]!, points[this.#corners[nextHalfEdge(h)]!]!]
    const above = scaled(add(own.normal, other.normal), way * clear)
    return [
      {
        points: ends.flatMap((p) => [add(p, above), subtract(p, one), subtract(p, two), subtract(p, corner)]),
        way,
        fills: true,
      },
    ]
  }

  /** What one triangle sweeps, and what lies between its edges and where its flat meets those beside it then. */
  private apart(t: number, way: 1 | -1): SweptBody[] {
    const { points } = this.#swept
    const own = this.goingOf(t)
    if (norm(own.normal) === 0) return []
    const straight = straightWay(own.normal, own.by)
    const corners = [0, 1, 2].map((i) => points[this.#corners[3 * t + i]!]!)
    const middle = scaled(corners.reduce(add), 1 / 3)
    const lift = scaled(own.normal, way * clear)
    const wider = corners.map((p) => {
      const out = subtract(p, middle)
      return add(p, scaled(out, clear / (norm(out) || 1)))
    })
    const bodies: SweptBody[] = [{ points: wider.flatMap((p) => [add(p, lift), subtract(p, straight)]), way }]
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      const other = this.goingOf((this.#twins[h]! / 3) | 0)
      // Where both sweep towards each other they meet by themselves.
      if (norm(other.normal) === 0 || (way * other.by > 0 && way * this.turnAt(h) > 0)) continue
      bodies.push(...this.corner(h, own, other, way).map((body) => ({ ...body, fills: false })))
    }
    return bodies
  }
}

/** From where to where a vertex sweeps. */
interface Swing {
  readonly from: Vec3
  readonly to: Vec3
}

/** How far a plane goes along its normal where its wall goes `by` sideways. */
function sideways([x, y]: Vec3, by: number): number {
  return by * Math.hypot(x, y)
}

/** A plane's own way, level where it is steep. */
function straightWay(normal: Vec3, by: number): Vec3 {
  const [x, y] = normal
  const steep = Math.hypot(x, y)
  return steep > steepEnough ? scaled([x, y, 0], by / steep / steep) : scaled(normal, by)
}

/** The triangles of the wall whose body runs through itself there. */
function crossingIn({ points, triangles, sources }: WallBody): ReadonlySet<number> {
  const mesh = { positions: Float64Array.from(points.flat()), triangles: Uint32Array.from(triangles.flat()) }
  const found = new Set<number>()
  new TriangleTree(mesh).someCross(shallow, (one, other) => {
    found.add(sources[one]!).add(sources[other]!)
    return found.size > enoughCrossing
  })
  return found
}

/** More of them are not looked for at once. */
const enoughCrossing = 2000
