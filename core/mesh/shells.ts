import type { TriangleMesh } from './define.ts'
import { Groups } from './groups.ts'
import { plainShells } from './plainShells.ts'

/** A closed surface that hangs together: the outside of a body, or the wall of a cavity in one. */
export interface Shell {
  /** mm³, by the divergence theorem; negative where its triangles face inwards, as those of a cavity do */
  readonly volume: number
  /** mm² */
  readonly area: number
  readonly min: readonly [number, number, number]
  readonly max: readonly [number, number, number]
  readonly triangles: number
  /** how many other shells it lies in: an even number for the outside of a body, an odd one for a cavity */
  readonly depth: number
  /** the innermost shell that it lies in; −1 where there is none */
  readonly within: number
}

/** Thinner on the whole than this is no body and no cavity, but what rounding left of one, mm. */
const thinnest = 1e-5

/** Whether a shell has no volume to speak of: its two sides lie on each other. */
export function isSliver({ volume, area }: Pick<Shell, 'volume' | 'area'>): boolean {
  return 2 * Math.abs(volume) < thinnest * area
}

export interface Shells {
  readonly shells: readonly Shell[]
  /** per triangle: index into `shells` */
  readonly shellOf: Uint32Array
  /** edges with an odd number of triangles */
  readonly openEdges: number
  /** edges whose triangles do not run along it as often to as fro */
  readonly flippedEdges: number
}

/**
 * The shells of a mesh whose equal corners share one vertex. Triangles belong together across an edge. Where more than two
 * meet at one, those go together that have material between them, so that bodies which touch in an edge or a corner only
 * are two:
 *
 *        \ material /        seen along the edge: from a triangle that runs towards us
 *         \   ↺    /         counter-clockwise through material to the next one that runs away
 *      ----\------/----
 *           \    /
 */
export function shellsOf(mesh: TriangleMesh): Shells {
  const { triangles } = mesh
  const count = triangles.length / 3
  const plain = plainShells(mesh)
  if (plain) {
    const { shellOf, shells } = plain
    return { shells: nested(mesh, shellOf, shells), shellOf, openEdges: 0, flippedEdges: 0 }
  }
  const groups = new Groups(count)
  const join = (h: number, k: number) => groups.join(Math.floor(h / 3), Math.floor(k / 3))
  let openEdges = 0
  let flippedEdges = 0
  forEachEdge(mesh, (halves) => {
    const forward = halves.filter((h) => triangles[h]! < endOf(triangles, h))
    if (halves.length % 2 === 1) openEdges++
    else if (2 * forward.length !== halves.length) flippedEdges++
    if (halves.length > 2 && 2 * forward.length !== halves.length) for (const h of halves) join(h, halves[0]!)
    else for (const [h, k] of pairedAt(mesh, halves)) join(h, k)
  })
  const index = new Map<number, number>()
  const shellOf = new Uint32Array(count)
  for (let t = 0; t < count; t++) {
    const r = groups.of(t)
    const known = index.get(r) ?? index.size
    index.set(r, known)
    shellOf[t] = known
  }
  return { shells: nested(mesh, shellOf, index.size), shellOf, openEdges, flippedEdges }
}

/** The vertex that half-edge 3t + i of triangle t, which begins at corner i, goes to. */
export function endOf(triangles: Uint32Array, h: number): number {
  return triangles[h % 3 === 2 ? h - 2 : h + 1]!
}

/** The corner of the triangle that a half-edge does not touch. */
export function apexOf(triangles: Uint32Array, h: number): number {
  return triangles[h % 3 === 0 ? h + 2 : h - 1]!
}

/** Calls `visit` with the half-edges of each edge, both ways. */
export function forEachEdge({ positions, triangles }: TriangleMesh, visit: (halves: readonly number[]) => void): void {
  // Half-edges listed by the lower of their two vertices; a vertex has about six.
  const first = new Uint32Array(positions.length / 3 + 1)
  const lower = (h: number) => Math.min(triangles[h]!, endOf(triangles, h))
  const upper = (h: number) => Math.max(triangles[h]!, endOf(triangles, h))
  for (let h = 0; h < triangles.length; h++) first[lower(h) + 1]!++
  for (let v = 1; v < first.length; v++) first[v] = first[v]! + first[v - 1]!
  const listed = new Uint32Array(triangles.length)
  const filled = first.slice()
  for (let h = 0; h < triangles.length; h++) listed[filled[lower(h)]!++] = h
  for (let v = 0; v + 1 < first.length; v++) {
    const own = listed.subarray(first[v], first[v + 1]).sort((h, k) => upper(h) - upper(k))
    for (let from = 0; from < own.length; ) {
      let to = from + 1
      while (to < own.length && upper(own[to]!) === upper(own[from]!)) to++
      visit([...own.subarray(from, to)])
      from = to
    }
  }
}

/** The half-edges of one edge in pairs that belong together; none where they do not run to and fro as often. */
export function pairedAt(mesh: TriangleMesh, halves: readonly number[]): readonly (readonly [number, number])[] {
  if (halves.length === 2) return [[halves[0]!, halves[1]!]]
  const forward = halves.filter((h) => mesh.triangles[h]! < endOf(mesh.triangles, h))
  return 2 * forward.length === halves.length ? pairedThroughMaterial(mesh, halves) : []
}

/** The half-edges of one edge, as many forward as backward, in pairs that have material between them. */
function pairedThroughMaterial({ positions, triangles }: TriangleMesh, halves: readonly number[]) {
  const [h0] = halves as [number]
  const from = Math.min(triangles[h0]!, endOf(triangles, h0))
  const to = Math.max(triangles[h0]!, endOf(triangles, h0))
  const at = (v: number, i: number) => positions[3 * v + i]! - positions[3 * from + i]!
  const along = [at(to, 0), at(to, 1), at(to, 2)] as const
  // Two directions square to the edge.
  const least = [0, 1, 2].reduce((best, i) => (Math.abs(along[i]!) < Math.abs(along[best]!) ? i : best), 0)
  const u = crossed(along, [0, 1, 2].map((i) => (i === least ? 1 : 0)) as [number, number, number])
  const w = crossed(along, u)
  const [sizeU, sizeW] = [Math.hypot(...u), Math.hypot(...w)]
  const sorted = halves
    .map((h) => {
      const apex = apexOf(triangles, h)
      const p = [at(apex, 0), at(apex, 1), at(apex, 2)] as const
      const x = (p[0] * u[0] + p[1] * u[1] + p[2] * u[2]) / sizeU
      const y = (p[0] * w[0] + p[1] * w[1] + p[2] * w[2]) / sizeW
      return { h, forward: triangles[h] === from, angle: Math.atan2(y, x) }
    })
    .sort((one, other) => one.angle - other.angle)
  // A triangle that runs along the edge backward has material before it, counter-clockwise; its partner runs forward.
  const pairs: [number, number][] = []
  const open: number[] = []
  for (const { h, forward } of [...sorted, ...sorted]) {
    if (pairs.some((pair) => pair.includes(h))) continue
    if (!forward) {
      if (!open.includes(h)) open.push(h)
    } else if (open.length > 0) pairs.push([open.pop()!, h])
  }
  return pairs
}

function crossed(a: readonly [number, number, number], b: readonly [number, number, number]) {
  return [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]] as const
}

/** The figures of each shell, and which lie in which. */
function nested(mesh: TriangleMesh, shellOf: Uint32Array, count: number): Shell[] {
  const { positions, triangles } = mesh
  const made = Array.from({ length: count }, () => ({
    volume: 0,
    area: 0,
    min: [Infinity, Infinity, Infinity] as [number, number, number],
    max: [-Infinity, -Infinity, -Infinity] as [number, number, number],
    count: 0,
  }))
  // Volumes are summed from a vertex of the mesh, not from the origin, to lose fewer digits far from it.
  const [ox, oy, oz] = [positions[0] ?? 0, positions[1] ?? 0, positions[2] ?? 0]
  for (let t = 0; t < shellOf.length; ) {
    // As long as one shell goes on, its sums are kept at hand.
    const number = shellOf[t]!
    const shell = made[number]!
    let { volume, area } = shell
    let [lowX, lowY, lowZ] = shell.min
    let [highX, highY, highZ] = shell.max
    const start = t
    for (; t < shellOf.length && shellOf[t] === number; t++) {
      const a = triangles[3 * t]! * 3
      const b = triangles[3 * t + 1]! * 3
      const c = triangles[3 * t + 2]! * 3
      const px = positions[a]!
      const py = positions[a + 1]!
      const pz = positions[a + 2]!
      const qx = positions[b]!
      const qy = positions[b + 1]!
      const qz = positions[b + 2]!
      const rx = positions[c]!
      const ry = positions[c + 1]!
      const rz = positions[c + 2]!
      const ax = px - ox
      const ay = py - oy
      const az = pz - oz
      const ux = qx - ox - ax
      const uy = qy - oy - ay
      const uz = qz - oz - az
      const vx = rx - ox - ax
      const vy = ry - oy - ay
      const vz = rz - oz - az
      const nx = uy * vz - uz * vy
      const ny = uz * vx - ux * vz
      const nz = ux * vy - uy * vx
      volume += (ax * nx + ay * ny + az * nz) / 6
      area += Math.sqrt(nx * nx + ny * ny + nz * nz) / 2
      lowX = Math.min(lowX, px, qx, rx)
      lowY = Math.min(lowY, py, qy, ry)
      lowZ = Math.min(lowZ, pz, qz, rz)
      highX = Math.max(highX, px, qx, rx)
      highY = Math.max(highY, py, qy, ry)
      highZ = Math.max(highZ, pz, qz, rz)
    }
    Object.assign(shell, { volume, area, min: [lowX, lowY, lowZ], max: [highX, highY, highZ] })
    shell.count += t - start
  }
  // Only where there are several is it asked which of them is whose.
  const own = count > 1 ? listedByShell(shellOf, count) : []
  const holders = made.map((inner, i) =>
    made.flatMap((outer, k) => {
      const boxed = [0, 1, 2].every(
        (axis) => outer.min[axis]! <= inner.min[axis]! && outer.max[axis]! >= inner.max[axis]!,
      )
      return i !== k && boxed && encloses(mesh, own[k]!, insidePoint(mesh, own[i]!)) ? [k] : []
    }),
  )
  return made.map((shell, i) => {
    const around = holders[i]!
    // The innermost one lies in all the others.
    const within = around.reduce((best, k) => (best < 0 || holders[k]!.length > holders[best]!.length ? k : best), -1)
    const { count: triangleCount, ...rest } = shell
    return { ...rest, triangles: triangleCount, depth: around.length, within }
  })
}

/** The triangles of each shell. */
function listedByShell(shellOf: Uint32Array, count: number): readonly Uint32Array[] {
  const sizes = new Uint32Array(count)
  for (let t = 0; t < shellOf.length; t++) sizes[shellOf[t]!]!++
  const lists = Array.from(sizes, (size) => new Uint32Array(size))
  const filled = new Uint32Array(count)
  for (let t = 0; t < shellOf.length; t++) {
    const shell = shellOf[t]!
    lists[shell]![filled[shell]!++] = t
  }
  return lists
}

/** A point of a shell: the middle of its largest triangle. */
function insidePoint({ positions, triangles }: TriangleMesh, own: Uint32Array): readonly [number, number, number] {
  const size = (t: number) => {
    const [a, b, c] = [0, 1, 2].map((i) => 3 * triangles[3 * t + i]!) as [number, number, number]
    const u = [0, 1, 2].map((i) => positions[b + i]! - positions[a + i]!) as [number, number, number]
    const v = [0, 1, 2].map((i) => positions[c + i]! - positions[a + i]!) as [number, number, number]
    return Math.hypot(...crossed(u, v))
  }
  const sizes = Array.from(own.subarray(0, 200), size)
  const t = own[sizes.indexOf(Math.max(...sizes))]!
  return [0, 1, 2].map((i) =>
    [0, 1, 2].reduce((sum, k) => sum + positions[3 * triangles[3 * t + k]! + i]! / 3, 0),
  ) as unknown as readonly [number, number, number]
}

/**
 * Whether a point lies in a closed surface: how often a ray to the right crosses it, counted by the way each triangle
 * faces. The ray is moved aside by a trifle, so that it meets no edge.
 */
function encloses(
  { positions, triangles }: TriangleMesh,
  own: Uint32Array,
  [x, y0, z0]: readonly [number, number, number],
): boolean {
  const [y, z] = [y0 + 1.234567e-7, z0 + 2.345678e-7]
  let crossings = 0
  for (const t of own) {
    const [a, b, c] = [3 * triangles[3 * t]!, 3 * triangles[3 * t + 1]!, 3 * triangles[3 * t + 2]!]
    const [ay, by, cy] = [positions[a + 1]! - y, positions[b + 1]! - y, positions[c + 1]! - y]
    if ((ay > 0 && by > 0 && cy > 0) || (ay < 0 && by < 0 && cy < 0)) continue
    const [az, bz, cz] = [positions[a + 2]! - z, positions[b + 2]! - z, positions[c + 2]! - z]
    if ((az > 0 && bz > 0 && cz > 0) || (az < 0 && bz < 0 && cz < 0)) continue
    // Barycentric weights of the ray in the triangle, seen along it.
    const [wa, wb, wc] = [by * cz - bz * cy, cy * az - cz * ay, ay * bz - az * by]
    if (!((wa > 0 && wb > 0 && wc > 0) || (wa < 0 && wb < 0 && wc < 0))) continue
    const across = (wa * positions[a]! + wb * positions[b]! + wc * positions[c]!) / (wa + wb + wc)
    if (across > x) crossings += wa > 0 ? 1 : -1
  }
  return crossings !== 0
}

/**
 * The middles of edges at which something is amiss: that an odd number of triangles meet at (`open`), whose triangles do not run along
 * them as often to as fro (`flipped`), or that more than two meet at (`crowded`).
 */
export function openEdgesOf(mesh: TriangleMesh, what: 'open' | 'flipped' | 'crowded'): readonly (readonly number[])[] {
  const { positions, triangles } = mesh
  const found: number[][] = []
  forEachEdge(mesh, (halves) => {
    const forward = halves.filter((h) => triangles[h]! < endOf(triangles, h)).length
    const odd = halves.length % 2 === 1
    const is = { open: odd, flipped: !odd && 2 * forward !== halves.length, crowded: halves.length > 2 }
    if (!is[what]) return
    const [a, b] = [triangles[halves[0]!]!, endOf(triangles, halves[0]!)]
    found.push([0, 1, 2].map((i) => (positions[3 * a + i]! + positions[3 * b + i]!) / 2))
  })
  return found
}
