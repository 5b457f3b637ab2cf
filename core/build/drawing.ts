import type { MeshRun, SolidMesh } from '../kernel/index.ts'
import { directionIn, pointIn, type Vec3 } from '../place/index.ts'
import { flatFaceAt, type NamedFace } from '../shapes/index.ts'
import type { Built, BuiltPiece, Owner } from './builder.ts'
import type { Operand } from './plan.ts'

/** One face of one copy of one step, as triangles refer to it. */
export interface FaceRef {
  readonly owner: Owner
  readonly face: string
}

/** A piece ready to be drawn and picked: three corners per triangle, shaded smoothly within a rounded face. */
export interface Drawing {
  /** x, y, z per corner */
  readonly positions: Float32Array
  readonly normals: Float32Array
  /** per triangle: index into `faces` */
  readonly faceOf: Uint32Array
  readonly faces: readonly FaceRef[]
  /** visible edges as pairs of points: x, y, z, x, y, z */
  readonly edges: Float32Array
}

/** Facets that meet at less than this are parts of one curve unless they belong to different faces. */
const smoothWithin = Math.cos((35 * Math.PI) / 180)
/** Different faces that meet flatter than this run into each other without an edge. */
const flushWithin = Math.cos((20 * Math.PI) / 180)
const creaseWithin = Math.cos((62 * Math.PI) / 180)

export function drawingOf(built: Built, piece: BuiltPiece): Drawing | undefined {
  if (!piece.solid) return undefined
  const mesh = piece.solid.mesh()
  const { faceOf, faces, group } = attributed(mesh, built, piece)
  const flat = facetNormals(mesh)
  const neighbours = edgeNeighbours(mesh)
  const { edges, smooth } = classifiedEdges(mesh, flat, group, neighbours)
  return { ...shaded(mesh, flat, smooth), faceOf, faces, edges }
}

/** Names the face that each triangle came from; `group` also tells copies of a step apart. */
function attributed(mesh: SolidMesh, built: Built, piece: BuiltPiece) {
  const count = mesh.triangles.length / 3
  const faceOf = new Uint32Array(count)
  const group = new Uint32Array(count)
  const faces: FaceRef[] = []
  const indices = new Map<string, number>()
  let groups = 0
  for (const run of mesh.runs) {
    const owner = piece.ownerOf(run.original)
    if (!owner) continue
    const operand = owner.kind === 'step' ? built.plan.operands.get(owner.id) : undefined
    const named = operand ? operand.shape.faces(operand.values as never) : []
    // Faces of this run by name: where they stand in `faces`, and which group they are.
    const ofRun = new Map<string, { index: number; group: number }>()
    for (let t = run.from; t < run.to; t++) {
      const name = operand ? faceNameOf(mesh, t, run, operand, named) : 'knuckle'
      let known = ofRun.get(name)
      if (!known) {
        const key = `${owner.id}/${name}`
        let index = indices.get(key)
        if (index === undefined) {
          index = faces.push({ owner, face: name }) - 1
          indices.set(key, index)
        }
        known = { index, group: groups++ }
        ofRun.set(name, known)
      }
      faceOf[t] = known.index
      group[t] = known.group
    }
  }
  return { faceOf, faces, group }
}

function faceNameOf(mesh: SolidMesh, t: number, run: MeshRun, operand: Operand, named: readonly NamedFace[]): string {
  const [p, n] = triangleIn(mesh, t)
  const local = pointIn(run.frame, p)
  const normal = directionIn(run.frame, run.inverted ? [-n[0], -n[1], -n[2]] : n)
  const name = operand.shape.faceAt?.(operand.values as never, local, normal, named)
  return name ?? flatFaceAt(named, local, normal) ?? 'side'
}

/** Middle and unit normal of a triangle. */
function triangleIn({ positions, triangles }: SolidMesh, t: number): [Vec3, Vec3] {
  const at = (i: number): Vec3 => {
    const v = 3 * triangles[3 * t + i]!
    return [positions[v]!, positions[v + 1]!, positions[v + 2]!]
  }
  const [a, b, c] = [at(0), at(1), at(2)]
  const n = normalOf(a, b, c)
  return [[(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3, (a[2] + b[2] + c[2]) / 3], n]
}

function normalOf(a: Vec3, b: Vec3, c: Vec3): Vec3 {
  const [ux, uy, uz] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]]
  const [vx, vy, vz] = [c[0] - a[0], c[1] - a[1], c[2] - a[2]]
  const [x, y, z] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
  const size = Math.hypot(x, y, z) || 1
  return [x / size, y / size, z / size]
}

/** Unit normals, x y z per triangle, and areas' weight left out: facets of a curve are alike. */
function facetNormals(mesh: SolidMesh): Float32Array {
  const count = mesh.triangles.length / 3
  const out = new Float32Array(count * 3)
  for (let t = 0; t < count; t++) out.set(triangleIn(mesh, t)[1], 3 * t)
  return out
}

/** For each half-edge 3t + i, the triangle on its other side. */
function edgeNeighbours({ positions, triangles }: SolidMesh): Int32Array {
  const vertices = positions.length / 3
  const open = new Map<number, number>()
  const out = new Int32Array(triangles.length).fill(-1)
  for (let h = 0; h < triangles.length; h++) {
    const from = triangles[h]!
    const to = triangles[h % 3 === 2 ? h - 2 : h + 1]!
    const other = open.get(to * vertices + from)
    if (other === undefined) open.set(from * vertices + to, h)
    else {
      open.delete(to * vertices + from)
      out[h] = Math.floor(other / 3)
      out[other] = Math.floor(h / 3)
    }
  }
  return out
}

/** Which half-edges are drawn, and across which ones the shading goes on smoothly. */
function classifiedEdges(mesh: SolidMesh, flat: Float32Array, group: Uint32Array, neighbours: Int32Array) {
  const { positions, triangles } = mesh
  const edges: number[] = []
  const smooth = new Uint8Array(triangles.length)
  for (let h = 0; h < triangles.length; h++) {
    const t = Math.floor(h / 3)
    const other = neighbours[h]!
    if (other < 0) continue
    const cosine =
      flat[3 * t]! * flat[3 * other]! +
      flat[3 * t + 1]! * flat[3 * other + 1]! +
      flat[3 * t + 2]! * flat[3 * other + 2]!
    const same = group[t] === group[other]
    smooth[h] = cosine > (same ? creaseWithin : smoothWithin) ? 1 : 0
    const drawn = cosine < (same ? creaseWithin : flushWithin)
    if (!drawn || other > t) continue
    const a = 3 * triangles[h]!
    const b = 3 * triangles[h % 3 === 2 ? h - 2 : h + 1]!
    edges.push(positions[a]!, positions[a + 1]!, positions[a + 2]!, positions[b]!, positions[b + 1]!, positions[b + 2]!)
  }
  return { edges: new Float32Array(edges), smooth }
}

/**
 * Corners with their normals: at each vertex, triangles that hang together over smooth edges share one normal, weighted
 * by the angle they take at the vertex (Thürmer and Wüthrich 1998), so that long thin facets do not tilt it.
 */
function shaded({ positions, triangles }: SolidMesh, flat: Float32Array, smooth: Uint8Array) {
  const corners = triangles.length
  const parent = new Uint32Array(corners).map((_, i) => i)
  const root = (start: number) => {
    let c = start
    while (parent[c] !== c) {
      parent[c] = parent[parent[c]!]!
      c = parent[c]!
    }
    return c
  }
  // Corners of one vertex are joined across each smooth edge, found by its two vertices.
  const seen = new Map<number, number>()
  const vertices = positions.length / 3
  for (let h = 0; h < corners; h++) {
    if (!smooth[h]) continue
    const next = h % 3 === 2 ? h - 2 : h + 1
    const [from, to] = [triangles[h]!, triangles[next]!]
    const other = seen.get(to * vertices + from)
    if (other === undefined) seen.set(from * vertices + to, h)
    else {
      const otherNext = other % 3 === 2 ? other - 2 : other + 1
      parent[root(h)] = root(otherNext)
      parent[root(next)] = root(other)
    }
  }
  const sums = new Float32Array(corners * 3)
  const angles = cornerAngles(positions, triangles)
  for (let c = 0; c < corners; c++) {
    const r = root(c)
    const t = Math.floor(c / 3)
    for (let i = 0; i < 3; i++) sums[3 * r + i] = sums[3 * r + i]! + flat[3 * t + i]! * angles[c]!
  }
  const outPositions = new Float32Array(corners * 3)
  const outNormals = new Float32Array(corners * 3)
  for (let c = 0; c < corners; c++) {
    const r = 3 * root(c)
    const size = Math.hypot(sums[r]!, sums[r + 1]!, sums[r + 2]!) || 1
    for (let i = 0; i < 3; i++) {
      outPositions[3 * c + i] = positions[3 * triangles[c]! + i]!
      outNormals[3 * c + i] = sums[r + i]! / size
    }
  }
  return { positions: outPositions, normals: outNormals }
}

function cornerAngles(positions: Float32Array, triangles: Uint32Array): Float32Array {
  const out = new Float32Array(triangles.length)
  for (let c = 0; c < triangles.length; c++) {
    const t = c - (c % 3)
    const a = 3 * triangles[c]!
    const b = 3 * triangles[t + ((c + 1) % 3)]!
    const d = 3 * triangles[t + ((c + 2) % 3)]!
    const [ux, uy, uz] = [
      positions[b]! - positions[a]!,
      positions[b + 1]! - positions[a + 1]!,
      positions[b + 2]! - positions[a + 2]!,
    ]
    const [vx, vy, vz] = [
      positions[d]! - positions[a]!,
      positions[d + 1]! - positions[a + 1]!,
      positions[d + 2]! - positions[a + 2]!,
    ]
    const size = Math.hypot(ux, uy, uz) * Math.hypot(vx, vy, vz) || 1
    out[c] = Math.acos(Math.min(1, Math.max(-1, (ux * vx + uy * vy + uz * vz) / size)))
  }
  return out
}
