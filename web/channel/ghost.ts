import type { Solid } from '@makrel/core/kernel'
import type { RenderMesh } from '@makrel/core/solids'

/** The drawing of solids by themselves, with facets as they are, for translucent ghosts. */
export function soloMesh(solids: readonly Solid[], owner: RenderMesh['faces'][number]['owner']): RenderMesh {
  const meshes = solids.map((solid) => solid.mesh())
  const count = meshes.reduce((sum, { triangles }) => sum + triangles.length, 0)
  const corners = new Float32Array(count * 3)
  let at = 0
  for (const { positions, triangles } of meshes)
    for (const corner of triangles) {
      corners.set(positions.subarray(3 * corner, 3 * corner + 3), at)
      at += 3
    }
  return {
    positions: corners,
    normals: new Float32Array(0),
    faceOf: new Uint32Array(count / 3),
    faces: [{ owner, copy: '', face: '' }],
    edges: new Float32Array(0),
    edgeOf: new Uint32Array(0),
    named: [],
  }
}
