import type { SolidMesh } from '../kernel/index.ts'
import { nextHalfEdge, oneRound } from '../mesh/index.ts'
import type { SolidEdge } from '../naming/index.ts'
import type { Built, BuiltPiece } from './builder.ts'
import { copiesOf } from './copies.ts'
import { cosineAt, creaseWithin, type FaceRef, namedSolid } from './named.ts'

/** A piece ready to be drawn and picked: three corners per triangle, shaded smoothly within a rounded face. */
export interface RenderMesh {
  /** x, y, z per corner */
  readonly positions: Float32Array
  readonly normals: Float32Array
  /** per triangle: index into `faces` */
  readonly faceOf: Uint32Array
  readonly faces: readonly FaceRef[]
  /** visible edges as pairs of points: x, y, z, x, y, z */
  readonly edges: Float32Array
  /** for each of these pairs, its place in `named` */
  readonly edgeOf: Uint32Array
  /** all edges, also those over which the surface goes on smoothly and which are not drawn */
  readonly named: readonly SolidEdge[]
}

/** Different faces that meet flatter than this run into each other without an edge. */
const flushWithin = Math.cos((20 * Math.PI) / 180)

export function renderMeshOf(built: Pick<Built, 'plan'>, piece: BuiltPiece): RenderMesh | undefined {
  if (!piece.solid) return undefined
  const {
    mesh,
    twins,
    flat,
    faceOf,
    faces,
    of,
    edges: all,
  } = namedSolid(piece.solid, copiesOf(built.plan), piece.ownerOf)
  const { edges, edgeOf, smooth } = classifiedEdges(mesh, flat, faceOf, twins, of)
  const refs = faces.map(({ owner, copy, face }): FaceRef => ({ owner, copy, face }))
  return { ...shaded(mesh, flat, smooth, twins), faceOf, faces: refs, edges, edgeOf, named: all }
}

/** Which half-edges are drawn, and across which ones the shading goes on smoothly. */
function classifiedEdges(
  { positions, triangles }: SolidMesh,
  flat: Float32Array,
  faceOf: Uint32Array,
  twins: Int32Array,
  of: Int32Array,
) {
  const edges: number[] = []
  const edgeOf: number[] = []
  const smooth = new Uint8Array(triangles.length)
  for (let h = 0; h < triangles.length; h++) {
    const twin = twins[h]!
    // Each edge once, from its later half.
    if (twin < 0 || twin > h) continue
    const [t, other] = [Math.floor(h / 3), Math.floor(twin / 3)]
    const cosine = cosineAt(flat, t, other)
    const same = faceOf[t] === faceOf[other]
    smooth[h] = smooth[twin] = cosine > (same ? creaseWithin : oneRound) ? 1 : 0
    if (cosine >= (same ? creaseWithin : flushWithin)) continue
    const a = 3 * triangles[h]!
    const b = 3 * triangles[nextHalfEdge(h)]!
    edgeOf.push(of[h]!)
    edges.push(positions[a]!, positions[a + 1]!, positions[a + 2]!, positions[b]!, positions[b + 1]!, positions[b + 2]!)
  }
  return { edges: new Float32Array(edges), edgeOf: Uint32Array.from(edgeOf), smooth }
}

/**
 * Corners with their normals: at each vertex, triangles that hang together over smooth edges share one normal, weighted
 * by the angle they take at the vertex (Thürmer and Wüthrich 1998), so that long thin facets do not tilt it.
 */
function shaded({ positions, triangles }: SolidMesh, flat: Float32Array, smooth: Uint8Array, twins: Int32Array) {
  const corners = triangles.length
  const parent = new Uint32Array(corners)
  for (let c = 0; c < corners; c++) parent[c] = c
  const root = (start: number) => {
    let c = start
    while (parent[c] !== c) {
      parent[c] = parent[parent[c]!]!
      c = parent[c]!
    }
    return c
  }
  // Corners of one vertex are joined across each smooth edge.
  for (let h = 0; h < corners; h++) {
    const twin = twins[h]!
    if (!smooth[h] || twin > h) continue
    parent[root(h)] = root(nextHalfEdge(twin))
    parent[root(nextHalfEdge(h))] = root(twin)
  }
  const sums = new Float32Array(corners * 3)
  const angles = cornerAngles(positions, triangles)
  for (let c = 0; c < corners; c++) {
    const r = 3 * root(c)
    const t = c - (c % 3)
    for (let i = 0; i < 3; i++) sums[r + i] = sums[r + i]! + flat[t + i]! * angles[c]!
  }
  const outPositions = new Float32Array(corners * 3)
  const outNormals = new Float32Array(corners * 3)
  for (let c = 0; c < corners; c++) {
    const r = 3 * root(c)
    const [x, y, z] = [sums[r]!, sums[r + 1]!, sums[r + 2]!]
    const size = Math.sqrt(x * x + y * y + z * z) || 1
    const from = 3 * triangles[c]!
    for (let i = 0; i < 3; i++) {
      outPositions[3 * c + i] = positions[from + i]!
      outNormals[3 * c + i] = sums[r + i]! / size
    }
  }
  return { positions: outPositions, normals: outNormals }
}

function cornerAngles(positions: Float32Array, triangles: Uint32Array): Float32Array {
  const out = new Float32Array(triangles.length)
  for (let c = 0; c < triangles.length; c++) {
    const a = 3 * triangles[c]!
    const b = 3 * triangles[nextHalfEdge(c)]!
    const d = 3 * triangles[nextHalfEdge(nextHalfEdge(c))]!
    const ux = positions[b]! - positions[a]!
    const uy = positions[b + 1]! - positions[a + 1]!
    const uz = positions[b + 2]! - positions[a + 2]!
    const vx = positions[d]! - positions[a]!
    const vy = positions[d + 1]! - positions[a + 1]!
    const vz = positions[d + 2]! - positions[a + 2]!
    const size = Math.sqrt((ux * ux + uy * uy + uz * uz) * (vx * vx + vy * vy + vz * vz)) || 1
    out[c] = Math.acos(Math.min(1, Math.max(-1, (ux * vx + uy * vy + uz * vz) / size)))
  }
  return out
}
