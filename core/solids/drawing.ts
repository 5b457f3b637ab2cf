import type { MeshRun, Solid, SolidMesh } from '../kernel/index.ts'
import { halfEdgeTwins, nextHalfEdge } from '../mesh/index.ts'
import { edgesOf, type SolidEdge } from '../naming/index.ts'
import { cross, directionIn, dot, type Frame, norm, scaled, subtract, type Vec3 } from '../place/index.ts'
import type { Plan } from '../planning/index.ts'
import type { Built, BuiltPiece } from './builder.ts'
import { Copies } from './copies.ts'

/** One face of one step or joint, or the flat of a section through the piece, as triangles refer to it. */
export interface FaceRef {
  readonly owner: { readonly kind: 'step' | 'joint' | 'section'; readonly id: string }
  /** which copy of the step: "3", or of what is in the second copy of a bundle "2.3" */
  readonly copy: string
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
  /** for each of these pairs, its place in `named` */
  readonly edgeOf: Uint32Array
  /** all edges, also those over which the surface goes on smoothly and which are not drawn */
  readonly named: readonly SolidEdge[]
}

/** Facets that meet at less than this are parts of one curve unless they belong to different faces. */
const smoothWithin = Math.cos((35 * Math.PI) / 180)
/** Different faces that meet flatter than this run into each other without an edge. */
const flushWithin = Math.cos((20 * Math.PI) / 180)
const creaseWithin = Math.cos((62 * Math.PI) / 180)

export function drawingOf(built: Pick<Built, 'plan'>, piece: BuiltPiece): Drawing | undefined {
  if (!piece.solid) return undefined
  const { mesh, twins, flat, faceOf, faces, of, edges: all } = namedSolid(piece.solid, built.plan, piece)
  const { edges, edgeOf, smooth } = classifiedEdges(mesh, flat, faceOf, twins, of)
  const refs = faces.map(({ owner, copy, face }): FaceRef => ({ owner, copy, face }))
  return { ...shaded(mesh, flat, smooth, twins), faceOf, faces: refs, edges, edgeOf, named: all }
}

/** The edges of a piece, by the names of the faces that meet there. */
export function namedEdges(piece: BuiltPiece, plan: Plan): readonly SolidEdge[] {
  return piece.solid ? namedSolid(piece.solid, plan, piece).edges : []
}

function namedSolid(solid: Solid, plan: Plan, piece: Pick<BuiltPiece, 'ownerOf'>) {
  const mesh = solid.mesh()
  const twins = halfEdgeTwins(mesh)
  const flat = withoutSlivers(facetNormals(mesh), mesh, twins)
  const { faceOf, faces } = named(mesh, flat, twins, plan, piece)
  const { of, edges } = edgesOf({ ...mesh, twins, normals: flat, faceOf, faces, folded: creaseWithin })
  return { mesh, twins, flat, faceOf, faces, of, edges }
}

/**
 * The face that each triangle is of: of which copy of which step or joint, and what it is called there. Which original a
 * triangle is of, and where that stands, is carried through all operations by the library; which of its surfaces, its shape
 * says of one triangle for all that hang together with it in one plane.
 */
function named(mesh: SolidMesh, flat: Float32Array, twins: Int32Array, plan: Plan, piece: Pick<BuiltPiece, 'ownerOf'>) {
  const copies = new Copies(plan)
  const count = mesh.triangles.length / 3
  const faceOf = new Uint32Array(count)
  const faces: DrawnFace[] = []
  const places = new Map<string, number>()
  const placeOf = (ref: FaceRef, frame: Frame) => {
    const key = faceKey(ref)
    const known = places.get(key)
    if (known !== undefined) return known
    places.set(key, faces.length)
    return faces.push({ ...ref, key, frame }) - 1
  }
  const done = new Uint8Array(count)
  for (const run of mesh.runs) {
    const owner = piece.ownerOf(run.original)
    // What nothing built has made is the flat of a cut through the finished solid.
    if (!owner) {
      const section = placeOf({ owner: { kind: 'section', id: '' }, copy: '', face: 'section' }, run.frame)
      faceOf.fill(section, run.from, run.to)
      continue
    }
    const copy = owner.kind === 'step' ? copies.at(owner.id, run.frame) : ''
    for (let t = run.from; t < run.to; t++) {
      if (done[t]) continue
      const { point, normal } = ownSurface(mesh, flat, t, run)
      const { step = owner.id, copy: number, face } = owner.tell(point, normal)
      const own = number === undefined ? copy : copy.replace(/[^.]*$/, `${number}`)
      const place = placeOf({ owner: { kind: owner.kind, id: step }, copy: own, face }, run.frame)
      for (const other of patchOf(t, run, flat, twins, done)) faceOf[other] = place
    }
  }
  return { faceOf, faces }
}

/** The triangles of a run that hang together with `start` in one plane, marked in `done`: they are of one face. */
function patchOf(start: number, run: MeshRun, flat: Float32Array, twins: Int32Array, done: Uint8Array): number[] {
  const patch = [start]
  done[start] = 1
  for (let i = 0; i < patch.length; i++) {
    const t = patch[i]!
    for (let h = 3 * t; h < 3 * t + 3; h++) {
      const other = twins[h]! < 0 ? -1 : Math.floor(twins[h]! / 3)
      if (other < run.from || other >= run.to || done[other] || cosineAt(flat, start, other) < 1 - 1e-6) continue
      done[other] = 1
      patch.push(other)
    }
  }
  return patch
}

/** The middle of a triangle and its outward normal, in the frame of the original that it came from. */
function ownSurface({ positions, triangles }: SolidMesh, flat: Float32Array, t: number, run: MeshRun) {
  const middle = [0, 1, 2].map(
    (i) =>
      (positions[3 * triangles[3 * t]! + i]! +
        positions[3 * triangles[3 * t + 1]! + i]! +
        positions[3 * triangles[3 * t + 2]! + i]!) /
      3,
  ) as unknown as Vec3
  const sign = run.inverted ? -1 : 1
  const outward: Vec3 = [sign * flat[3 * t]!, sign * flat[3 * t + 1]!, sign * flat[3 * t + 2]!]
  // A normal is pulled back by the transpose, whatever the frame.
  const pulled = directionIn(run.frame, outward)
  return { point: solvedIn(run.frame, middle), normal: scaled(pulled, 1 / (norm(pulled) || 1)) }
}

/** A point in a frame whose directions may be scaled and askew: three equations (Cramer's rule). */
function solvedIn({ origin, u, v, n }: Frame, p: Vec3): Vec3 {
  const away = subtract(p, origin)
  const whole = dot(u, cross(v, n))
  return [dot(away, cross(v, n)) / whole, dot(away, cross(n, u)) / whole, dot(away, cross(u, v)) / whole]
}

/** The same for a face from build to build. */
function faceKey({ owner, copy, face }: FaceRef): string {
  return [owner.kind, owner.id, copy, face].join('/')
}

interface DrawnFace extends FaceRef {
  readonly key: string
  readonly frame: Frame
}

/** Unit normals, x y z per triangle. */
function facetNormals({ positions, triangles }: SolidMesh): Float32Array {
  const out = new Float32Array(triangles.length)
  for (let c = 0; c < triangles.length; c += 3) {
    const [a, b, d] = [3 * triangles[c]!, 3 * triangles[c + 1]!, 3 * triangles[c + 2]!]
    const ux = positions[b]! - positions[a]!
    const uy = positions[b + 1]! - positions[a + 1]!
    const uz = positions[b + 2]! - positions[a + 2]!
    const vx = positions[d]! - positions[a]!
    const vy = positions[d + 1]! - positions[a + 1]!
    const vz = positions[d + 2]! - positions[a + 2]!
    const x = uy * vz - uz * vy
    const y = uz * vx - ux * vz
    const z = ux * vy - uy * vx
    const size = Math.sqrt(x * x + y * y + z * z) || 1
    out[c] = x / size
    out[c + 1] = y / size
    out[c + 2] = z / size
  }
  return out
}

/** Lower than this a triangle looks anywhere, by the last digits of its corners, mm. */
const sliverHeight = 2e-4

/** Normals in which a sliver looks where the triangle across its longest side does: no lines are drawn over coplanar faces. */
function withoutSlivers(flat: Float32Array, { positions, triangles }: SolidMesh, twins: Int32Array): Float32Array {
  const slivers: { readonly t: number; readonly across: number }[] = []
  for (let t = 0; t < triangles.length / 3; t++) {
    let [longest, across] = [-1, -1]
    const sides = [0, 1, 2].map((i): Vec3 => {
      const h = 3 * t + i
      const [a, b] = [3 * triangles[h]!, 3 * triangles[nextHalfEdge(h)]!]
      const side: Vec3 = [
        positions[b]! - positions[a]!,
        positions[b + 1]! - positions[a + 1]!,
        positions[b + 2]! - positions[a + 2]!,
      ]
      const long = norm(side)
      if (long > longest) {
        longest = long
        across = twins[h]!
      }
      return side
    })
    const doubled = norm(cross(sides[0]!, sides[1]!))
    if (across >= 0 && doubled < sliverHeight * longest) slivers.push({ t, across: Math.floor(across / 3) })
  }
  if (slivers.length === 0) return flat
  const out = flat.slice()
  // Slivers may lie beside slivers: from the last to the first and back again.
  for (const order of [slivers, [...slivers].reverse(), slivers])
    for (const { t, across } of order) out.copyWithin(3 * t, 3 * across, 3 * across + 3)
  return out
}

function cosineAt(flat: Float32Array, t: number, other: number): number {
  const [a, b] = [3 * t, 3 * other]
  return flat[a]! * flat[b]! + flat[a + 1]! * flat[b + 1]! + flat[a + 2]! * flat[b + 2]!
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
    smooth[h] = smooth[twin] = cosine > (same ? creaseWithin : smoothWithin) ? 1 : 0
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
