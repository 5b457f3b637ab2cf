import type { TriangleMesh } from './define.ts'

/** The mesh so many times as large, about the origin. */
export function scaledMesh(mesh: TriangleMesh, by: number): TriangleMesh {
  return by === 1 ? mesh : { ...mesh, positions: Float64Array.from(mesh.positions, (x) => x * by) }
}
