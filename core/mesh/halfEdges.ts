/** The half-edge after `h` round its triangle. Half-edge 3t + i goes from corner i of triangle t to the next one. */
export function nextHalfEdge(h: number): number {
  return h % 3 === 2 ? h - 2 : h + 1
}

/**
 * The same where each edge has two triangles that run along it to and fro, as in the surface of one or more plain solids; undefined
 * where that is not so.
 */
export function plainTwins(mesh: {
  readonly positions: ArrayLike<number>
  readonly triangles: Uint32Array
}): Int32Array | undefined {
  const { positions, triangles } = mesh
  const { first, rising, ends } = risingFrom(positions.length / 3, triangles)
  if (2 * rising.length !== triangles.length) return undefined
  const twins = new Int32Array(triangles.length).fill(-1)
  /** Ties a half-edge that falls to the one that rises back along it; whether there is one, and only one. */
  const tie = (h: number, from: number, to: number): boolean => {
    if (from < to) return true
    let twin = -1
    const last = first[to + 1]!
    for (let i = first[to]!; i < last; i++) {
      if (ends[i] !== from) continue
      const back = rising[i]!
      // Two run back, or the one that does is another's.
      if (twin >= 0 || twins[back]! >= 0) return false
      twin = back
    }
    if (twin < 0) return false
    twins[h] = twin
    twins[twin] = h
    return true
  }
  for (let h = 0; h < triangles.length; h += 3) {
    const a = triangles[h]!
    const b = triangles[h + 1]!
    const c = triangles[h + 2]!
    if (!tie(h, a, b) || !tie(h + 1, b, c) || !tie(h + 2, c, a)) return undefined
  }
  return twins
}

/**
 * Half-edges to a vertex of a higher number than the one they leave, which are one of the two of each edge of a plain solid; listed by
 * the vertex that they leave, those of vertex v from `first[v]` on, with the vertices that they end at beside them.
 */
function risingFrom(vertices: number, triangles: Uint32Array) {
  const first = new Uint32Array(vertices + 1)
  // Triangle by triangle: over a million of them it is felt what each step costs.
  for (let h = 0; h < triangles.length; h += 3) {
    const a = triangles[h]!
    const b = triangles[h + 1]!
    const c = triangles[h + 2]!
    if (a < b) first[a + 1]!++
    if (b < c) first[b + 1]!++
    if (c < a) first[c + 1]!++
  }
  for (let v = 1; v < first.length; v++) first[v] = first[v]! + first[v - 1]!
  const filled = first.slice()
  const rising = new Uint32Array(first[vertices]!)
  const ends = new Uint32Array(rising.length)
  const note = (h: number, from: number, to: number) => {
    if (from >= to) return
    const at = filled[from]!++
    rising[at] = h
    ends[at] = to
  }
  for (let h = 0; h < triangles.length; h += 3) {
    const a = triangles[h]!
    const b = triangles[h + 1]!
    const c = triangles[h + 2]!
    note(h, a, b)
    note(h + 1, b, c)
    note(h + 2, c, a)
  }
  return { first, rising, ends }
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
