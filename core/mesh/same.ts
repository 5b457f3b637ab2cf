import type { TriangleMesh } from './define.ts'

/**
 * For each triangle of a mesh the one of another mesh that has the very same corners in the same order, to the last digit; -1 where
 * none has.
 */
export function sameTriangles(mesh: TriangleMesh, before: TriangleMesh): Int32Array {
  const marks = marksOf(before)
  // Chains of triangles with the same mark, by the lower digits of it.
  const wide = 2 ** Math.ceil(Math.log2(2 * marks.length + 1))
  const heads = new Int32Array(wide).fill(-1)
  const next = new Int32Array(marks.length)
  for (let t = marks.length - 1; t >= 0; t--) {
    const slot = marks[t]! & (wide - 1)
    next[t] = heads[slot]!
    heads[slot] = t
  }
  return marksOf(mesh).map((mark, t) => {
    for (let other = heads[mark & (wide - 1)]!; other >= 0; other = next[other]!)
      if (marks[other] === mark && isSame(mesh, t, before, other)) return other
    return -1
  })
}

/** A number of each triangle that is the same where its corners are. */
function marksOf({ positions, triangles }: TriangleMesh): Int32Array {
  const marks = new Int32Array(triangles.length / 3)
  const digits = new Float64Array(1)
  const halves = new Int32Array(digits.buffer)
  for (let t = 0; t < marks.length; t++) {
    let mark = 0
    for (let c = 0; c < 9; c++) {
      digits[0] = positions[3 * triangles[3 * t + Math.floor(c / 3)]! + (c % 3)]!
      mark = Math.imul(mark ^ halves[0]!, 0x9e3779b1)
      mark = Math.imul((mark >>> 15) ^ mark ^ halves[1]!, 0x85ebca6b)
    }
    marks[t] = mark ^ (mark >>> 13)
  }
  return marks
}

function isSame(a: TriangleMesh, t: number, b: TriangleMesh, u: number): boolean {
  for (let c = 0; c < 3; c++) {
    const [v, w] = [3 * a.triangles[3 * t + c]!, 3 * b.triangles[3 * u + c]!]
    for (let k = 0; k < 3; k++) if (!Object.is(a.positions[v + k], b.positions[w + k])) return false
  }
  return true
}
