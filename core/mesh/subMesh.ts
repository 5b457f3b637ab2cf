import type { TriangleMesh } from './define.ts'

/** Some triangles of a mesh, with the corners that they use, in the order in which they use them; each is asked for once, in order. */
export function subMesh({ positions, triangles }: TriangleMesh, isKept: (triangle: number) => boolean): TriangleMesh {
  const places = new Map<number, number>()
  const kept: number[] = []
  for (let t = 0; t < triangles.length / 3; t++) {
    if (!isKept(t)) continue
    for (const v of triangles.subarray(3 * t, 3 * t + 3)) {
      if (!places.has(v)) places.set(v, places.size)
      kept.push(places.get(v)!)
    }
  }
  const out = new Float64Array(3 * places.size)
  for (const [v, at] of places) for (let k = 0; k < 3; k++) out[3 * at + k] = positions[3 * v + k]!
  return { positions: out, triangles: Uint32Array.from(kept) }
}
