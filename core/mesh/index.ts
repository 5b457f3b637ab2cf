/** Triangle meshes as data: measured and checked without the solid library, so that they can check what it made. */

export interface TriangleMesh {
  /** x, y, z per vertex, mm */
  readonly positions: Float32Array | Float64Array
  /** three vertex indices per triangle, counter-clockwise seen from outside */
  readonly triangles: Uint32Array
}

export interface MeshFigures {
  readonly triangles: number
  /** every edge is shared by exactly two triangles */
  readonly closed: boolean
  /** … which run along it in opposite directions, and the whole encloses a positive volume */
  readonly oriented: boolean
  /** edges with another number of triangles than two */
  readonly openEdges: number
  /** edges whose two triangles run along it in the same direction */
  readonly flippedEdges: number
  /** connected bodies (by shared vertices) */
  readonly solids: number
  /** mm³, by the divergence theorem; negative when inside out */
  readonly volume: number
  /** mm² */
  readonly area: number
  readonly min: readonly [number, number, number]
  readonly max: readonly [number, number, number]
}

/** Measures a mesh whose equal corners share one vertex (see `welded`). An empty mesh has zero size at the origin. */
export function meshFigures({ positions, triangles }: TriangleMesh): MeshFigures {
  const count = triangles.length / 3
  const vertices = positions.length / 3
  const { openEdges, flippedEdges } = edgeFaults(triangles, vertices)
  let volume = 0
  let area = 0
  const min: [number, number, number] = [Infinity, Infinity, Infinity]
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity]
  // Volumes are summed from a vertex of the mesh, not from the origin, to lose fewer digits far from it.
  const o = [positions[0] ?? 0, positions[1] ?? 0, positions[2] ?? 0] as const
  for (let t = 0; t < count; t++) {
    const [a, b, c] = [triangles[3 * t]! * 3, triangles[3 * t + 1]! * 3, triangles[3 * t + 2]! * 3]
    const ax = positions[a]! - o[0]
    const ay = positions[a + 1]! - o[1]
    const az = positions[a + 2]! - o[2]
    const ux = positions[b]! - o[0] - ax
    const uy = positions[b + 1]! - o[1] - ay
    const uz = positions[b + 2]! - o[2] - az
    const vx = positions[c]! - o[0] - ax
    const vy = positions[c + 1]! - o[1] - ay
    const vz = positions[c + 2]! - o[2] - az
    const nx = uy * vz - uz * vy
    const ny = uz * vx - ux * vz
    const nz = ux * vy - uy * vx
    volume += (ax * nx + ay * ny + az * nz) / 6
    area += Math.hypot(nx, ny, nz) / 2
    for (const corner of [a, b, c])
      for (let i = 0; i < 3; i++) {
        min[i] = Math.min(min[i]!, positions[corner + i]!)
        max[i] = Math.max(max[i]!, positions[corner + i]!)
      }
  }
  const empty = count === 0
  return {
    triangles: count,
    closed: openEdges === 0 && !empty,
    oriented: openEdges === 0 && flippedEdges === 0 && volume > 0,
    openEdges,
    flippedEdges,
    solids: bodies(triangles, vertices),
    volume,
    area,
    min: empty ? [0, 0, 0] : min,
    max: empty ? [0, 0, 0] : max,
  }
}

/**
 * Pairs up the edges: each undirected edge must be run along once in each direction. Two bodies that touch in a whole
 * edge give four triangles on it; that is still closed when the directions balance, so balance is what is checked.
 */
function edgeFaults(triangles: Uint32Array, vertices: number): { openEdges: number; flippedEdges: number } {
  const runs = new Map<number, { forward: number; backward: number }>()
  for (let i = 0; i < triangles.length; i++) {
    const from = triangles[i]!
    const to = triangles[i % 3 === 2 ? i - 2 : i + 1]!
    const key = from < to ? from * vertices + to : to * vertices + from
    const run = runs.get(key) ?? { forward: 0, backward: 0 }
    if (from < to) run.forward++
    else run.backward++
    runs.set(key, run)
  }
  let openEdges = 0
  let flippedEdges = 0
  for (const { forward, backward } of runs.values()) {
    if ((forward + backward) % 2 === 1) openEdges++
    else if (forward !== backward) flippedEdges++
  }
  return { openEdges, flippedEdges }
}

/** How many connected components the triangles have. */
function bodies(triangles: Uint32Array, vertices: number): number {
  return new Set(componentsOf(triangles, vertices)).size
}

/** For each triangle a number that those of its connected component share (by shared vertices; union–find). */
export function componentsOf(triangles: Uint32Array, vertices: number): Uint32Array {
  const parent = new Uint32Array(vertices).map((_, i) => i)
  const root = (start: number) => {
    let v = start
    while (parent[v] !== v) {
      parent[v] = parent[parent[v]!]!
      v = parent[v]!
    }
    return v
  }
  for (let i = 0; i < triangles.length; i += 3) {
    const a = root(triangles[i]!)
    parent[root(triangles[i + 1]!)] = a
    parent[root(triangles[i + 2]!)] = a
  }
  return new Uint32Array(triangles.length / 3).map((_, t) => root(triangles[3 * t]!))
}

/**
 * The mesh with corners of exactly equal coordinates made one vertex, and triangles that thereby lose their area left
 * out (two corners in one place). For files that repeat the corners of every triangle.
 */
export function welded({ positions, triangles }: TriangleMesh): TriangleMesh {
  const index = new Map<string, number>()
  const map = new Uint32Array(positions.length / 3)
  const kept: number[] = []
  for (let v = 0; v < map.length; v++) {
    // "+ 0" makes −0 and 0 one place.
    const key = `${positions[3 * v]! + 0},${positions[3 * v + 1]! + 0},${positions[3 * v + 2]! + 0}`
    let at = index.get(key)
    if (at === undefined) {
      at = index.size
      index.set(key, at)
      kept.push(positions[3 * v]!, positions[3 * v + 1]!, positions[3 * v + 2]!)
    }
    map[v] = at
  }
  const out: number[] = []
  for (let i = 0; i < triangles.length; i += 3) {
    const [a, b, c] = [map[triangles[i]!]!, map[triangles[i + 1]!]!, map[triangles[i + 2]!]!]
    if (a !== b && b !== c && c !== a) out.push(a, b, c)
  }
  return { positions: new Float64Array(kept), triangles: new Uint32Array(out) }
}
