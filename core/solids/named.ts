import type { MeshRun, Solid, SolidMesh } from '../kernel/index.ts'
import { nextHalfEdge } from '../mesh/index.ts'
import { edgesOf, type SurfaceName, type SurfaceTelling } from '../naming/index.ts'
import { cross, directionIn, dot, type Frame, norm, scaled, subtract, type Vec3 } from '../place/index.ts'
import type { Copies } from './copies.ts'

/** What a triangle belongs to, and what its surfaces are called. */
export interface Owner {
  readonly kind: 'step' | 'joint'
  readonly id: string
  readonly tell: SurfaceTelling
}

/** One face of one step or joint, or the flat of a section through the piece, as triangles refer to it. */
export interface FaceRef {
  readonly owner: { readonly kind: 'step' | 'joint' | 'section'; readonly id: string }
  /** which copy of the step: "3", or of what is in the second copy of a bundle "2.3" */
  readonly copy: string
  readonly face: string
}

/** Triangles of one face that meet sharper than this have an edge between them. */
export const creaseWithin = Math.cos((62 * Math.PI) / 180)

/**
 * A solid with the names of all its faces and edges, which its originals tell: `ownerOf` knows them, `copies` where their copies
 * stand.
 */
export function namedSolid(solid: Solid, copies: Copies, ownerOf: (original: number) => Owner | undefined) {
  const { mesh, twins, flat, faceOf, faces } = namedFaces(solid, copies, ownerOf)
  const surface = { ...mesh, twins, normals: flat, faceOf, faces, folded: creaseWithin }
  return { mesh, flat, ...surface, ...edgesOf(surface) }
}

/** The same without its edges. */
export function namedFaces(solid: Solid, copies: Copies, ownerOf: (original: number) => Owner | undefined) {
  const mesh = solid.mesh()
  const twins = solid.twins()
  const flat = withoutSlivers(facetNormals(mesh), mesh, twins)
  return { mesh, twins, flat, ...named(mesh, flat, twins, copies, ownerOf) }
}

/**
 * The face that each triangle is of: of which copy of which step or joint, and what it is called there. Which original a
 * triangle is of, and where that stands, is carried through all operations by the library; which of its surfaces, its shape
 * says of one triangle for all that hang together with it in one plane.
 */
function named(
  mesh: SolidMesh,
  flat: Float32Array,
  twins: Int32Array,
  copies: Copies,
  ownerOf: (original: number) => Owner | undefined,
) {
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
    const owner = ownerOf(run.original)
    // What nothing built has made is the flat of a cut through the finished solid.
    if (!owner) {
      const section = placeOf({ owner: { kind: 'section', id: '' }, copy: '', face: 'section' }, run.frame)
      faceOf.fill(section, run.from, run.to)
      continue
    }
    const copy = owner.kind === 'step' ? copies.at(owner.id, run.frame) : ''
    const inOwn = solvingIn(run.frame)
    let last: { readonly told: SurfaceName; readonly place: number } | undefined
    for (let t = run.from; t < run.to; t++) {
      if (done[t]) continue
      const { point, normal } = ownSurface(mesh, flat, t, run, inOwn)
      const told = owner.tell(point, normal)
      const { step = owner.id, copy: number, face } = told
      const own =
        number === undefined ? copy : typeof number === 'string' ? number : copy.replace(/[^.]*$/, `${number}`)
      const place =
        last && isSame(last.told, told)
          ? last.place
          : placeOf({ owner: { kind: owner.kind, id: step }, copy: own, face }, run.frame)
      last = { told, place }
      for (const other of patchOf(t, run, flat, twins, done)) faceOf[other] = place
    }
  }
  return { faceOf, faces }
}

function isSame(a: SurfaceName, b: SurfaceName): boolean {
  return a.face === b.face && a.step === b.step && a.copy === b.copy
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
function ownSurface(
  { positions, triangles }: SolidMesh,
  flat: Float32Array,
  t: number,
  { inverted, frame }: MeshRun,
  inOwn: (p: Vec3) => Vec3,
) {
  const [a, b, c] = [3 * triangles[3 * t]!, 3 * triangles[3 * t + 1]!, 3 * triangles[3 * t + 2]!]
  const middle = (i: number) => (positions[a + i]! + positions[b + i]! + positions[c + i]!) / 3
  const sign = inverted ? -1 : 1
  const outward: Vec3 = [sign * flat[3 * t]!, sign * flat[3 * t + 1]!, sign * flat[3 * t + 2]!]
  // A normal is pulled back by the transpose, whatever the frame.
  const pulled = directionIn(frame, outward)
  return { point: inOwn([middle(0), middle(1), middle(2)]), normal: scaled(pulled, 1 / (norm(pulled) || 1)) }
}

/** Finds points in a frame whose directions may be scaled and askew: three equations (Cramer's rule). */
function solvingIn({ origin, u, v, n }: Frame): (p: Vec3) => Vec3 {
  const [vn, nu, uv] = [cross(v, n), cross(n, u), cross(u, v)]
  const whole = dot(u, vn)
  return (p) => {
    const away = subtract(p, origin)
    return [dot(away, vn) / whole, dot(away, nu) / whole, dot(away, uv) / whole]
  }
}

/** The same for a face from build to build. */
export function faceKey({ owner, copy, face }: FaceRef): string {
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

/**
 * Normals in which a sliver looks where the triangle across its longest side does, or, where that is a sliver that knows no more,
 * across its next: no lines are drawn over coplanar faces, nor along smooth ones.
 */
function withoutSlivers(flat: Float32Array, mesh: SolidMesh, twins: Int32Array): Float32Array {
  const sides = sideLengths(mesh)
  /** where each sliver may look, across its sides from the longest to the shortest */
  const slivers = new Map<number, readonly number[]>()
  for (let t = 0; t < mesh.triangles.length / 3; t++) {
    const longest = Math.max(sides[3 * t]!, sides[3 * t + 1]!, sides[3 * t + 2]!)
    if (doubledArea(mesh, t) >= sliverHeight * longest) continue
    const own = [3 * t, 3 * t + 1, 3 * t + 2].sort((a, b) => sides[b]! - sides[a]!)
    slivers.set(
      t,
      own.filter((h) => twins[h]! >= 0).map((h) => Math.floor(twins[h]! / 3)),
    )
  }
  if (slivers.size === 0) return flat
  const out = flat.slice()
  const settle = (side: number) => {
    let settled = 0
    for (const [t, across] of slivers) {
      const other = across[side]
      if (other === undefined || slivers.has(other)) continue
      out.copyWithin(3 * t, 3 * other, 3 * other + 3)
      slivers.delete(t)
      settled++
    }
    return settled > 0
  }
  // Slivers may lie beside slivers: one that was told tells the next.
  while (settle(0) || settle(1) || settle(2));
  return out
}

/** How long each half-edge is. */
function sideLengths({ positions, triangles }: SolidMesh): Float64Array {
  const out = new Float64Array(triangles.length)
  for (let h = 0; h < triangles.length; h++) {
    const [a, b] = [3 * triangles[h]!, 3 * triangles[nextHalfEdge(h)]!]
    const x = positions[b]! - positions[a]!
    const y = positions[b + 1]! - positions[a + 1]!
    const z = positions[b + 2]! - positions[a + 2]!
    out[h] = Math.sqrt(x * x + y * y + z * z)
  }
  return out
}

function doubledArea({ positions, triangles }: SolidMesh, t: number): number {
  const [a, b, d] = [3 * triangles[3 * t]!, 3 * triangles[3 * t + 1]!, 3 * triangles[3 * t + 2]!]
  const ux = positions[b]! - positions[a]!
  const uy = positions[b + 1]! - positions[a + 1]!
  const uz = positions[b + 2]! - positions[a + 2]!
  const vx = positions[d]! - positions[b]!
  const vy = positions[d + 1]! - positions[b + 1]!
  const vz = positions[d + 2]! - positions[b + 2]!
  const [x, y, z] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
  return Math.sqrt(x * x + y * y + z * z)
}

export function cosineAt(flat: Float32Array, t: number, other: number): number {
  const [a, b] = [3 * t, 3 * other]
  return flat[a]! * flat[b]! + flat[a + 1]! * flat[b + 1]! + flat[a + 2]! * flat[b + 2]!
}
