import type { Solid } from '@makrel/core/kernel'
import type { RenderMesh } from '@makrel/core/solids'

/** The drawing of a lone solid with facets as they are, for translucent ghosts. */
export function soloMesh(solid: Solid, owner: RenderMesh['faces'][number]['owner']): RenderMesh {
  const { positions, triangles } = solid.mesh()
  const corners = new Float32Array(triangles.length * 3)
  for (let i = 0; i < triangles.length; i++)
    corners.set(positions.subarray(3 * triangles[i]!, 3 * triangles[i]! + 3), 3 * i)
  return {
    positions: corners,
    normals: new Float32Array(0),
    faceOf: new Uint32Array(triangles.length / 3),
    faces: [{ owner, copy: '', face: '' }],
    edges: new Float32Array(0),
    edgeOf: new Uint32Array(0),
    named: [],
  }
}
