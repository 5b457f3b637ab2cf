import type { Manifold } from 'manifold-3d'
import { halfEdgeTwins, type Mass, massOf, meshFigures } from '../mesh/index.ts'
import { type Box, type Frame, type Vec3, world } from '../place/index.ts'
import type { Ring } from '../plane/index.ts'
import type { Kernel } from './kernel.ts'

/** A finished mesh with where each triangle came from. */
export interface SolidMesh {
  readonly positions: Float32Array
  readonly triangles: Uint32Array
  /** consecutive triangles of one instance of one original solid */
  readonly runs: readonly MeshRun[]
}
export interface MeshRun {
  /** id given by `Scope.original` */
  readonly original: number
  /** first and one past the last triangle */
  readonly from: number
  readonly to: number
  /** the frame the original now stands in */
  readonly frame: Frame
  /** cut surfaces show the inside of their original: its outward normal is the opposite of the triangle's */
  readonly inverted: boolean
}

/** A solid by its mesh, and how the library takes it in: that is as long as a small boolean, and most such solids are only drawn, or sewn on. */
export interface Meshed {
  readonly mesh: SolidMesh
  /** x, y, z of the mesh's corners, in double precision */
  readonly corners: Float64Array
  readonly twins: Int32Array
  readonly taken: () => Manifold
}

/** A flat section: rings (outer counter-clockwise, holes clockwise) and their filled area in mm². */
export interface PlaneSection {
  readonly rings: readonly Ring[]
  readonly area: number
}

/**
 * A solid of the library. It lives outside the garbage collector: it belongs to the scope that made it, or, after
 * `Scope.handOver`, to whoever took it, who must `release` it.
 */
export class Solid {
  readonly #kernel: Kernel
  #raw: Manifold | undefined
  #mesh: SolidMesh | undefined
  #mass: Mass | undefined
  #corners: Float64Array | undefined
  #twins: Int32Array | undefined
  #bodies: number | undefined
  /** of what came as a mesh: its figures follow from that, whether the library has taken it in or not */
  #meshed: Meshed | undefined
  #released = false

  /** @internal only the kernel makes solids */
  constructor(kernel: Kernel, made: Manifold | Meshed) {
    this.#kernel = kernel
    if ('taken' in made) {
      this.#meshed = made
      this.#mesh = made.mesh
      this.#corners = made.corners
      this.#twins = made.twins
    } else this.#raw = made
    kernel.counted(1)
  }

  /** @internal */
  get raw(): Manifold {
    if (this.#released) throw new Error('a solid was used after its release')
    this.#raw ??= this.#meshed!.taken()
    return this.#raw
  }

  release(): void {
    if (this.#released) return
    this.#released = true
    this.#raw?.delete()
    this.#raw = undefined
    this.#meshed = undefined
    this.#mesh = undefined
    this.#corners = undefined
    this.#twins = undefined
    this.#kernel.counted(-1)
  }

  /** @internal whether it came as a mesh, whose order of corners is not the library's */
  get isMeshed(): boolean {
    return this.#meshed !== undefined
  }

  isEmpty(): boolean {
    return this.#meshed ? false : this.raw.isEmpty()
  }
  /** mm³ */
  volume(): number {
    return this.#meshed ? this.mass().volume : this.raw.volume()
  }
  mass(): Mass {
    this.#mass ??= this.#meshed
      ? massOf({ positions: this.#meshed.corners, triangles: this.#meshed.mesh.triangles })
      : { ...massOf(this.mesh()), volume: this.raw.volume() }
    return this.#mass
  }
  /** mm² */
  area(): number {
    return this.#meshed ? this.mass().area : this.raw.surfaceArea()
  }
  triangleCount(): number {
    return this.#meshed ? this.#meshed.mesh.triangles.length / 3 : this.raw.numTri()
  }
  /** Undefined for an empty solid. */
  bounds(): Box | undefined {
    if (this.#meshed) return boundsOf(this.#meshed.corners)
    if (this.raw.isEmpty()) return undefined
    const { min, max } = this.raw.boundingBox()
    return { min: [...min] as Vec3, max: [...max] as Vec3 }
  }
  /** Smallest distance to another solid, mm, at most `within` (returned where they are farther apart). 0 where they meet. */
  gapTo(other: Solid, within: number): number {
    return this.raw.minGap(other.raw, within)
  }
  /** Distances along a ray at which it crosses the surface, ascending, mm; `direction` is unit. */
  crossings(from: Vec3, direction: Vec3): readonly number[] {
    const bounds = this.bounds()
    if (!bounds) return []
    // Past the far side, wherever the ray begins.
    const far = Math.hypot(
      ...[0, 1, 2].map((i) => Math.max(Math.abs(bounds.min[i]! - from[i]!), Math.abs(bounds.max[i]! - from[i]!))),
    )
    const end = from.map((x, i) => x + direction[i]! * (far + 1)) as [number, number, number]
    // The library gives the share of the segment.
    return this.raw.rayCast([...from], end).map(({ distance }) => distance * (far + 1))
  }
  /** How many separate bodies. */
  bodies(): number {
    this.#bodies ??= meshFigures(this.mesh()).solids
    return this.#bodies
  }
  mesh(): SolidMesh {
    this.#mesh ??= meshOf(this.raw)
    return this.#mesh
  }
  /** For each half-edge of `mesh`, the one that runs back along it. */
  twins(): Int32Array {
    this.#twins ??= halfEdgeTwins(this.mesh())
    return this.#twins
  }
  /** The corners of `mesh` in double precision, as the library keeps them: x, y, z of each, in the same order. */
  corners(): Float64Array {
    this.#corners ??= cornersOf(this.raw)
    return this.#corners
  }
}

function boundsOf(corners: Float64Array): Box {
  const min: [number, number, number] = [Infinity, Infinity, Infinity]
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity]
  for (let at = 0; at < corners.length; at++) {
    const [i, x] = [at % 3, corners[at]!]
    if (x < min[i]!) min[i] = x
    if (x > max[i]!) max[i] = x
  }
  return { min, max }
}

/** The library gives meshes out in single precision; a warp is shown the corners themselves. */
function cornersOf(raw: Manifold): Float64Array {
  let corners = new Float64Array()
  const copy = raw.warpBatch((coordinates, count) => {
    corners = coordinates.slice(0, 3 * count)
  })
  copy.delete()
  return corners
}

function meshOf(raw: Manifold): SolidMesh {
  const mesh = raw.getMesh()
  const triangles = mesh.triVerts
  if (mesh.mergeFromVert?.length) {
    const map = new Uint32Array(mesh.numVert).map((_, i) => i)
    mesh.mergeFromVert.forEach((from, i) => {
      map[from] = mesh.mergeToVert[i]!
    })
    for (let i = 0; i < triangles.length; i++) triangles[i] = map[triangles[i]!]!
  }
  const runs = Array.from(mesh.runOriginalID, (original, i): MeshRun => {
    const m = mesh.runTransform.subarray(12 * i, 12 * i + 12)
    return {
      original,
      from: mesh.runIndex[i]! / 3,
      to: mesh.runIndex[i + 1]! / 3,
      // An original that was never moved carries no transform.
      frame:
        m.length < 12
          ? world
          : {
              u: [m[0]!, m[1]!, m[2]!],
              v: [m[3]!, m[4]!, m[5]!],
              n: [m[6]!, m[7]!, m[8]!],
              origin: [m[9]!, m[10]!, m[11]!],
            },
      inverted: mesh.backside(i),
    }
  })
  return { positions: mesh.vertProperties, triangles, runs }
}
