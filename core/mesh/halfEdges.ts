/** The half-edge after `h` round its triangle. Half-edge 3t + i goes from corner i of triangle t to the next one. */
export function nextHalfEdge(h: number): number {
  return h % 3 === 2 ? h - 2 : h + 1
}

/** For each half-edge, the one that runs back along it in the neighbouring triangle; −1 where there is none. */
export function halfEdgeTwins({
  positions,
  triangles,
}: {
  readonly positions: ArrayLike<number>
  readonly triangles: Uint32Array
}): Int32Array {
  const { first, leaving, ends } = leavingEach(positions.length / 3, triangles)
  const twins = new Int32Array(triangles.length).fill(-1)
  for (let h = 0; h < triangles.length; h++) {
    if (twins[h]! >= 0) continue
    const [from, to] = [triangles[h]!, triangles[nextHalfEdge(h)]!]
    for (let i = first[to]!; i < first[to + 1]!; i++) {
      const back = leaving[i]!
      if (ends[i] !== from || twins[back]! >= 0) continue
      twins[h] = back
      twins[back] = h
      break
    }
  }
  return twins
}

/**
 * Half-edges listed by the vertex they start from, those of vertex v from `first[v]` on, with the vertices that they end at beside
 * them: a vertex has about six, which are looked through without a jump.
 */
function leavingEach(vertices: number, triangles: Uint32Array) {
  const first = new Uint32Array(vertices + 1)
  for (let h = 0; h < triangles.length; h++) first[triangles[h]! + 1]!++
  for (let v = 1; v < first.length; v++) first[v] = first[v]! + first[v - 1]!
  const leaving = new Uint32Array(triangles.length)
  const ends = new Uint32Array(triangles.length)
  const filled = first.slice()
  for (let h = 0; h < triangles.length; h++) {
    const at = filled[triangles[h]!]!++
    leaving[at] = h
    ends[at] = triangles[nextHalfEdge(h)]!
  }
  return { first, leaving, ends }
}

/** The twins of a surface that is closed and of one sheet everywhere: each edge has its two triangles, each corner one fan of them. */
export function twinsOfSheet(mesh: {
  readonly positions: ArrayLike<number>
  readonly triangles: Uint32Array
}): Int32Array | undefined {
  const { triangles } = mesh
  const twins = halfEdgeTwins(mesh)
  const vertices = mesh.positions.length / 3
  const fanned = new Uint8Array(vertices)
  const gone = new Uint8Array(triangles.length)
  /** the corner from whose fan each was reached last, and one more */
  const reached = new Uint32Array(vertices)
  for (let start = 0; start < triangles.length; start++) {
    if (gone[start]) continue
    const corner = triangles[start]!
    if (fanned[corner]) return undefined
    fanned[corner] = 1
    let h = start
    do {
      const end = triangles[nextHalfEdge(h)]!
      const twin = twins[h]!
      if (twin < 0 || end === corner || reached[end] === corner + 1) return undefined
      reached[end] = corner + 1
      gone[h] = 1
      h = nextHalfEdge(twin)
    } while (h !== start)
  }
  return twins
}
