import type { Solid } from '../kernel/index.ts'
import { nextHalfEdge } from '../mesh/index.ts'

type Stretch = [low: number, high: number]

/** What of a solid is asked. */
type Surface = Pick<Solid, 'corners' | 'mesh' | 'twins'>

/** Heights at which a solid may reach out beyond what is below it, as stretches that are apart, lowest first, mm. */
export class Ledges {
  readonly #stretches: readonly Stretch[]

  /**
   * Leaning by no more than `overhang`, degrees off upright. From any place of what stands above, one goes straight down through the solid,
   * and where that ends, on down its surface the steepest way: that leads no farther aside than what leans by so much, unless it comes to
   * a face that leans more, along the keel between two faces, or to an end, which is the foot of something.
   */
  constructor(solid: Surface, overhang: number) {
    const most = (overhang * Math.PI) / 180
    const faces = facesOf(solid)
    this.#stretches = merged([
      ...leaning(solid, faces, Math.sin(most)),
      ...keels(solid, faces, most),
      ...ends(solid, faces),
    ])
  }

  /** Whether some of it lies between two heights, mm. */
  areBetween(low: number, high: number): boolean {
    let [first, end] = [0, this.#stretches.length]
    while (first < end) {
      const middle = (first + end) >> 1
      if (this.#stretches[middle]![1] < low) first = middle + 1
      else end = middle
    }
    return first < this.#stretches.length && this.#stretches[first]![0] <= high
  }
}

/** What is no wider than this is a sliver, mm: of it nobody knows where it looks. */
const thinnest = 1e-6

/** Where triangles look: x and y of their normals, and how far down as a share; not a number of slivers. */
interface Faces {
  readonly x: Float64Array
  readonly y: Float64Array
  readonly down: Float64Array
}

function facesOf(solid: Surface): Faces {
  const [corners, { triangles }] = [solid.corners(), solid.mesh()]
  const count = triangles.length / 3
  const faces = { x: new Float64Array(count), y: new Float64Array(count), down: new Float64Array(count) }
  for (let t = 0; t < count; t++) {
    const [a, b, c] = [3 * triangles[3 * t]!, 3 * triangles[3 * t + 1]!, 3 * triangles[3 * t + 2]!]
    const ux = corners[b]! - corners[a]!
    const uy = corners[b + 1]! - corners[a + 1]!
    const uz = corners[b + 2]! - corners[a + 2]!
    const vx = corners[c]! - corners[a]!
    const vy = corners[c + 1]! - corners[a + 1]!
    const vz = corners[c + 2]! - corners[a + 2]!
    const x = uy * vz - uz * vy
    const y = uz * vx - ux * vz
    const z = ux * vy - uy * vx
    const twice = Math.hypot(x, y, z)
    const isSliver = !(twice > thinnest * Math.max(Math.hypot(ux, uy, uz), Math.hypot(vx, vy, vz)))
    faces.x[t] = x
    faces.y[t] = y
    faces.down[t] = isSliver ? Number.NaN : -z / twice
  }
  return faces
}

/** Faces that look down by more than such a share. */
function leaning(solid: Surface, { down }: Faces, share: number): Stretch[] {
  const [corners, { triangles }] = [solid.corners(), solid.mesh()]
  const out: Stretch[] = []
  for (let t = 0; t < down.length; t++) {
    if (!(down[t]! > 0 && down[t]! > share)) continue
    const [p, q, r] = [0, 1, 2].map((k) => corners[3 * triangles[3 * t + k]! + 2]!) as [number, number, number]
    out.push([Math.min(p, q, r), Math.max(p, q, r)])
  }
  return out
}

/** Edges that lean by more than `most`, radians, to which both of their faces lead down, where one of these has nothing below it. */
function keels(solid: Surface, { x, y, down }: Faces, most: number): Stretch[] {
  const [corners, { triangles }, twins] = [solid.corners(), solid.mesh(), solid.twins()]
  const out: Stretch[] = []
  for (let h = 0; h < triangles.length; h++) {
    // Each edge once.
    if (twins[h]! < h) continue
    const [one, other] = [(h / 3) | 0, (twins[h]! / 3) | 0]
    if (down[one]! <= 0 && down[other]! <= 0) continue
    const [from, to] = [3 * triangles[h]!, 3 * triangles[nextHalfEdge(h)]!]
    const [along, aside] = [corners[to]! - corners[from]!, corners[to + 1]! - corners[from + 1]!]
    /** Whether the steepest way down a face goes out over the edge, which runs back in the other one. */
    const leadsTo = (t: number, sign: 1 | -1) => Number.isNaN(down[t]!) || sign * (aside * x[t]! - along * y[t]!) > 0
    if (!leadsTo(one, 1) || !leadsTo(other, -1)) continue
    const [p, q] = [corners[from + 2]!, corners[to + 2]!]
    if (Math.atan2(Math.hypot(along, aside), Math.abs(p - q)) > most) out.push([Math.min(p, q), Math.max(p, q)])
  }
  return out
}

/** Corners from which nothing leads down, with a face that has nothing below it. */
function ends(solid: Surface, { down }: Faces): Stretch[] {
  const [corners, { triangles }] = [solid.corners(), solid.mesh()]
  const [goesOn, hangs] = [new Uint8Array(corners.length / 3), new Uint8Array(corners.length / 3)]
  for (let h = 0; h < triangles.length; h++) {
    const [from, to] = [triangles[h]!, triangles[nextHalfEdge(h)]!]
    if (corners[3 * to + 2]! < corners[3 * from + 2]!) goesOn[from] = 1
    if (!(down[(h / 3) | 0]! <= 0)) hangs[from] = 1
  }
  const out: Stretch[] = []
  for (let v = 0; v < goesOn.length; v++)
    if (hangs[v] && !goesOn[v]) out.push([corners[3 * v + 2]!, corners[3 * v + 2]!])
  return out
}

function merged(all: readonly Stretch[]): readonly Stretch[] {
  const out: Stretch[] = []
  for (const [low, high] of [...all].sort(([a], [b]) => a - b)) {
    const last = out.at(-1)
    if (last && low <= last[1]) last[1] = Math.max(last[1], high)
    else out.push([low, high])
  }
  return out
}
