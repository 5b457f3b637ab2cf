import type { AnyValues } from '../fields/index.ts'
import type { MeshRun, SolidMesh } from '../kernel/index.ts'
import { cross, directionIn, dot, type Frame, norm, scaled, subtract, type Vec3 } from '../place/index.ts'
import { tried } from '../problems/index.ts'
import type { ShapeDefinition, Surfaces } from '../shapes/index.ts'
import type { Built, BuiltPiece } from './builder.ts'
import type { CarvedRegion } from './regions.ts'

/** One face of one step or joint, or the flat of a section through the piece, as triangles refer to it. */
export interface FaceRef {
  readonly owner: { readonly kind: 'step' | 'joint' | 'section'; readonly id: string }
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
  const twins = halfEdgeTwins(mesh)
  const flat = withoutSlivers(facetNormals(mesh), mesh, twins)
  const { faceOf, faces, group } = attributed(mesh, flat, twins, built, piece)
  const { edges, smooth } = classifiedEdges(mesh, flat, group, twins)
  return { ...shaded(mesh, flat, smooth, twins), faceOf, faces, edges }
}

/** Names the face that each triangle came from; `group` also tells copies of a step apart. */
function attributed(mesh: SolidMesh, flat: Float32Array, twins: Int32Array, built: Built, piece: BuiltPiece) {
  const count = mesh.triangles.length / 3
  const faceOf = new Uint32Array(count)
  const group = new Uint32Array(count)
  const faces: FaceRef[] = []
  const indices = new Map<string, number>()
  const done = new Uint8Array(count)
  let groups = 0
  for (const run of mesh.runs) {
    // What nothing built has made is the flat of a cut through the finished solid.
    const owner = piece.ownerOf(run.original) ?? ({ kind: 'section', id: '' } as const)
    const body = owner.kind === 'step' ? built.plan.operands.get(owner.id)?.body : undefined
    const source = owner.kind === 'step' && body?.kind === 'shape' ? surfacesOf(body.shape, owner.values) : undefined
    // Faces of this run by name: where they stand in `faces`, and which group they are.
    const ofRun = new Map<string, { index: number; group: number }>()
    for (let t = run.from; t < run.to; t++) {
      if (done[t]) continue
      const { id, copy, name } =
        owner.kind === 'region'
          ? carvedFaceOf(mesh, flat, t, run, owner.region)
          : { id: owner.id, copy: '', name: source ? faceNameOf(mesh, flat, t, run, source) : plainNames[owner.kind] }
      let known = ofRun.get(copy + name)
      if (!known) {
        const key = `${id}/${name}`
        let index = indices.get(key)
        if (index === undefined) {
          const kind = owner.kind === 'region' ? 'step' : owner.kind
          index = faces.push({ owner: { kind, id }, face: name }) - 1
          indices.set(key, index)
        }
        known = { index, group: groups++ }
        ofRun.set(copy + name, known)
      }
      for (const other of patchOf(t, run, flat, twins, done)) {
        faceOf[other] = known.index
        group[other] = known.group
      }
    }
  }
  return { faceOf, faces, group }
}

/** Surfaces that no shape has a name for. */
const plainNames = { section: 'section', joint: 'knuckle', step: 'side' } as const

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

function faceNameOf(mesh: SolidMesh, flat: Float32Array, t: number, run: MeshRun, surfaces: Surfaces): string {
  const { point, normal } = ownSurface(mesh, flat, t, run)
  return nameAt(surfaces, point, normal)
}

function surfacesOf(shape: ShapeDefinition, values: AnyValues): Surfaces | undefined {
  return tried(() => shape.surfaces(values as never))
}

/** A shape that cannot tell its surfaces has sides. */
function nameAt(surfaces: Surfaces | undefined, point: Vec3, normal: Vec3): string {
  return (surfaces && tried(() => surfaces.at(point, normal))) ?? 'side'
}

/** Which step's which copy a surface of a carved solid came from, and which of its faces it is. */
function carvedFaceOf(mesh: SolidMesh, flat: Float32Array, t: number, run: MeshRun, region: CarvedRegion) {
  const own = ownSurface(mesh, flat, t, run)
  const { index, source, point, normal } = region.sourceAt(own.point, own.normal)
  const { shape, values } = source
  const name = nameAt(surfacesOf(shape, values), point, normal)
  return { id: source.step, copy: `${index}/`, name }
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
      const [a, b] = [3 * triangles[h]!, 3 * triangles[next(h)]!]
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

/** The half-edge after `h` round its triangle. Half-edge 3t + i goes from corner i of triangle t to the next one. */
function next(h: number): number {
  return h % 3 === 2 ? h - 2 : h + 1
}

/** For each half-edge, the one that runs back along it in the neighbouring triangle; -1 where there is none. */
function halfEdgeTwins({ positions, triangles }: SolidMesh): Int32Array {
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
    const [from, to] = [triangles[h]!, triangles[next(h)]!]
    for (let i = first[to]!; i < first[to + 1]!; i++) {
      const back = leaving[i]!
      if (triangles[next(back)] !== from || twins[back]! >= 0) continue
      twins[h] = back
      twins[back] = h
      break
    }
  }
  return twins
}

/** Which half-edges are drawn, and across which ones the shading goes on smoothly. */
function classifiedEdges(
  { positions, triangles }: SolidMesh,
  flat: Float32Array,
  group: Uint32Array,
  twins: Int32Array,
) {
  const edges: number[] = []
  const smooth = new Uint8Array(triangles.length)
  for (let h = 0; h < triangles.length; h++) {
    const twin = twins[h]!
    // Each edge once, from its later half.
    if (twin < 0 || twin > h) continue
    const [t, other] = [Math.floor(h / 3), Math.floor(twin / 3)]
    const cosine = cosineAt(flat, t, other)
    const same = group[t] === group[other]
    smooth[h] = smooth[twin] = cosine > (same ? creaseWithin : smoothWithin) ? 1 : 0
    if (cosine >= (same ? creaseWithin : flushWithin)) continue
    const a = 3 * triangles[h]!
    const b = 3 * triangles[next(h)]!
    edges.push(positions[a]!, positions[a + 1]!, positions[a + 2]!, positions[b]!, positions[b + 1]!, positions[b + 2]!)
  }
  return { edges: new Float32Array(edges), smooth }
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
    parent[root(h)] = root(next(twin))
    parent[root(next(h))] = root(twin)
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
    const b = 3 * triangles[next(c)]!
    const d = 3 * triangles[next(next(c))]!
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
