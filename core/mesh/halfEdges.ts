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
  // Half-edges listed by the vertex they start from; a vertex has about six.
  const first = new Uint32Array(positions.length / 3 + 1)
  for (const from of triangles) first[from + 1]!++
  for (let v = 1; v < first.length; v++) first[v] = first[v]! + first[v - 1]!
  const leaving = new Uint32Array(triangles.length)
  const filled = first.slice()
  for (let h = 0; h < triangles.length; h++) leaving[filled[triangles[h]!]!++] = h
  const twins = new Int32Array(triangles.length).fill(-1)
  for (let h = 0; h < triangles.length; h++) {
    if (twins[h]! >= 0) continue
    const [from, to] = [triangles[h]!, triangles[nextHalfEdge(h)]!]
    for (let i = first[to]!; i < first[to + 1]!; i++) {
      const back = leaving[i]!
      if (triangles[nextHalfEdge(back)] !== from || twins[back]! >= 0) continue
      twins[h] = back
      twins[back] = h
      break
    }
  }
  return twins
}
