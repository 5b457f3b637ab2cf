import type { CrossSection, Manifold, ManifoldToplevel, Mat4, Vec3 as MutableVec3 } from 'manifold-3d'
import { type Mass, massOf, meshFigures } from '../mesh/index.ts'
import { type Box, dot, type Frame, matrixOf, type Vec3, world } from '../place/index.ts'
import type { Ring } from '../plane/index.ts'
import { ProblemError } from '../problems/index.ts'
import type { Library } from './load.ts'
import { denoised, PlanePoints, settled, squareAxes } from './settled.ts'

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

/** A flat section: rings (outer counter-clockwise, holes clockwise) and their filled area in mm². */
export interface Section {
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

  /** @internal only the kernel makes solids */
  constructor(kernel: Kernel, raw: Manifold) {
    this.#kernel = kernel
    this.#raw = raw
    kernel.counted(1)
  }

  /** @internal */
  get raw(): Manifold {
    if (!this.#raw) throw new Error('a solid was used after its release')
    return this.#raw
  }

  release(): void {
    if (!this.#raw) return
    this.#raw.delete()
    this.#raw = undefined
    this.#mesh = undefined
    this.#kernel.counted(-1)
  }

  isEmpty(): boolean {
    return this.raw.isEmpty()
  }
  /** mm³ */
  volume(): number {
    return this.raw.volume()
  }
  mass(): Mass {
    this.#mass ??= { ...massOf(this.mesh()), volume: this.volume() }
    return this.#mass
  }
  /** mm² */
  area(): number {
    return this.raw.surfaceArea()
  }
  triangleCount(): number {
    return this.raw.numTri()
  }
  /** Undefined for an empty solid. */
  bounds(): Box | undefined {
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
    return meshFigures(this.mesh()).solids
  }
  mesh(): SolidMesh {
    this.#mesh ??= meshOf(this.raw)
    return this.#mesh
  }
}

/** The solid library, with everything it makes counted. */
export class Kernel {
  readonly library: Library
  #live = 0

  constructor(library: Library) {
    this.library = library
  }

  /** Solids not yet released. */
  get live(): number {
    return this.#live
  }
  /** @internal */
  counted(by: number): void {
    this.#live += by
  }
  get heapBytes(): number {
    return this.library.heapBytes()
  }

  /** Runs `work` with a scope; everything made in it and not handed over is released at its end. */
  scope<T>(work: (scope: Scope) => T): T {
    const scope = new Scope(this)
    try {
      return work(scope)
    } finally {
      scope.close()
    }
  }
}

/** Makes solids and owns them. Lengths in mm, angles in degrees. Sizes that are not finite and positive are refused. */
export class Scope {
  readonly #kernel: Kernel
  readonly #owned = new Set<Solid>()

  /** @internal use `Kernel.scope` */
  constructor(kernel: Kernel) {
    this.#kernel = kernel
  }

  /** @internal */
  close(): void {
    for (const solid of this.#owned) solid.release()
    this.#owned.clear()
  }

  /** Takes a solid out of this scope; the caller must release it. */
  handOver(solid: Solid): Solid {
    this.#owned.delete(solid)
    return solid
  }

  /** Standing on z = 0 about the z axis. Exact at its corners: the flats lie inside a circle of `radiusLow`. */
  cylinder(height: number, radiusLow: number, radiusHigh: number, segments: number): Solid {
    positive({ height, segments })
    finite({ radiusLow, radiusHigh })
    if (radiusLow < 0 || radiusHigh < 0 || radiusLow + radiusHigh === 0) failed('a radius is not positive')
    const { Manifold } = this.module
    // The library wants the larger radius low; the other way round is built on its head.
    if (radiusLow === 0)
      return this.own(Manifold.cylinder(height, radiusHigh, 0, segments), (cone) =>
        cone.mirror([0, 0, 1]).translate([0, 0, height]),
      )
    return this.own(Manifold.cylinder(height, radiusLow, radiusHigh, segments))
  }

  /** A prism over `rings` (outer ones counter-clockwise, holes clockwise, none across another), from z = 0 up. */
  extrude(rings: readonly Ring[], height: number): Solid {
    positive({ height })
    const polygons = polygonsOf(rings)
      .map(cleaned)
      .filter((ring) => ring.length > 2)
    return polygons.length > 0 ? this.own(extruded(this.module, polygons, height)) : this.union([])
  }

  /** The regions that rings fill where they wind about a point (non-zero), as rings that `extrude` takes. */
  filled(rings: readonly Ring[]): Ring[] {
    const { CrossSection } = this.module
    const region = CrossSection.ofPolygons(polygonsOf(rings), 'NonZero')
    try {
      return region.toPolygons() as Ring[]
    } finally {
      region.delete()
    }
  }

  /** The region of `base` without the regions of all `tools` (each filled where its rings wind about a point), as rings. */
  withoutRegions(base: readonly Ring[], tools: readonly Ring[]): Ring[] {
    return this.regions([base, tools], ([from, less]) => {
      const rest = from!.subtract(less!)
      try {
        return rest.toPolygons() as Ring[]
      } finally {
        rest.delete()
      }
    })
  }

  /** The region that two regions have in common, as rings. */
  commonRegions(a: readonly Ring[], b: readonly Ring[]): Ring[] {
    return this.regions([a, b], ([one, two]) => {
      const common = one!.intersect(two!)
      try {
        return common.toPolygons() as Ring[]
      } finally {
        common.delete()
      }
    })
  }

  /** The area that two regions have in common, mm². */
  commonArea(a: readonly Ring[], b: readonly Ring[]): number {
    return this.regions([a, b], ([one, two]) => {
      const common = one!.intersect(two!)
      try {
        return common.area()
      } finally {
        common.delete()
      }
    })
  }

  private regions<T>(all: readonly (readonly Ring[])[], work: (regions: readonly CrossSection[]) => T): T {
    const made = all.map((rings) => this.module.CrossSection.ofPolygons(polygonsOf(rings), 'NonZero'))
    try {
      return work(made)
    } finally {
      for (const region of made) region.delete()
    }
  }

  /**
   * Bent about an axis along y: what lies at height z comes to lie `radius` ± z from the axis (`towards` 1: away from it,
   * −1: towards it), and a length along x becomes as long an arc at the distance `scale`. Points of the yz plane stay.
   * Edges are first broken to `step` mm.
   */
  bentAbout(
    solid: Solid,
    { radius, scale, towards, step }: { radius: number; scale: number; towards: 1 | -1; step: number },
  ): Solid {
    positive({ scale, step })
    finite({ radius })
    const refined = solid.raw.refineToLength(step)
    const bent = (raw: Manifold) =>
      raw.warp((p) => {
        const [angle, far] = [p[0] / scale, radius + towards * p[2]]
        p[0] = far * Math.sin(angle)
        p[2] = towards * (far * Math.cos(angle) - radius)
      })
    return this.own(refined, bent)
  }

  /** Turned about the z axis: `ring` lies in the half-plane x ≥ 0, its y becomes z. */
  revolve(ring: Ring, segments: number): Solid {
    return this.revolved([ring], segments, 360)
  }

  /** Rings, holes clockwise, turned about the z axis by `degrees`; `segments` are those of a whole turn. */
  revolved(rings: readonly Ring[], segments: number, degrees: number): Solid {
    positive({ segments, degrees })
    const polygons = polygonsOf(rings)
    const known = new PlanePoints(rings)
    return this.own(this.module.Manifold.revolve(polygons, segments, Math.min(360, degrees)), (rough) =>
      moved(rough, (p, at) => {
        const far = Math.hypot(p[at]!, p[at + 1]!)
        const own = known.at(far, p[at + 2]!)
        if (!own) return
        p[at + 2] = own[1]
        // Divided first: at a quarter the radius is the coordinate itself, to the last digit.
        if (far > 0) for (const i of [at, at + 1]) p[i] = (p[i]! / far) * own[0]
      }),
    )
  }

  /** The triangles of a region, as places in the list of all points of its rings; counter-clockwise. */
  triangulated(rings: readonly Ring[]): (readonly [number, number, number])[] {
    return this.module.triangulate(polygonsOf(rings))
  }

  /**
   * A closed surface of triangles, seen counter-clockwise from outside. Points that fall together are one, triangles
   * without area are left out. The library takes meshes in single precision; the points get their own numbers back after.
   */
  surface(points: readonly Vec3[], triangles: readonly (readonly [number, number, number])[]): Solid {
    for (const p of points) finite({ x: p[0], y: p[1], z: p[2] })
    const places = new Map<string, number>()
    const exact = new Map<string, Vec3>()
    const kept: number[] = []
    const place = points.map((p) => {
      const key = p.map(Math.fround).join(',')
      const known = places.get(key)
      if (known !== undefined) return known
      const next = kept.length / 3
      places.set(key, next)
      exact.set(key, p)
      kept.push(...p)
      return next
    })
    const corners = triangles.flatMap(([a, b, c]) => {
      const [i, k, m] = [place[a]!, place[b]!, place[c]!]
      return i === k || k === m || m === i ? [] : [i, k, m]
    })
    const { Manifold, Mesh } = this.module
    const mesh = new Mesh({
      numProp: 3,
      vertProperties: Float32Array.from(kept),
      triVerts: Uint32Array.from(corners),
    })
    let raw: Manifold
    try {
      raw = Manifold.ofMesh(mesh)
    } catch (error) {
      return failed(error instanceof Error ? error.message : String(error))
    }
    const restored = (rough: Manifold) =>
      rough.warp((p) => {
        const own = exact.get(p.map(Math.fround).join(','))
        if (own) [p[0], p[1], p[2]] = own
      })
    return this.own(raw, restored)
  }

  /** The bodies that a solid falls into. */
  parts(solid: Solid): Solid[] {
    return solid.raw.decompose().map((raw) => this.taken(raw))
  }

  /** The convex hull of at least four points not in one plane. */
  hull(points: readonly Vec3[]): Solid {
    for (const p of points) finite({ x: p[0], y: p[1], z: p[2] })
    return this.own(this.module.Manifold.hull(points.map((p) => [...p] as MutableVec3)))
  }

  /** The same solid standing in `frame`. */
  placed(solid: Solid, frame: Frame): Solid {
    const matrix: Mat4 = [...matrixOf(frame)]
    matrix.forEach((value) => void finite({ value }))
    return this.taken(solid.raw.transform(matrix))
  }

  /**
   * The same solid standing in `frame`, its coordinates settled along the axes that the frame is square to: faces that
   * are meant to be flush then lie in one plane to the last digit, however their places were computed.
   */
  standing(solid: Solid, frame: Frame): Solid {
    const axes = squareAxes(frame)
    if (axes.length === 0) return this.placed(solid, frame)
    const matrix: Mat4 = [...matrixOf(frame)]
    matrix.forEach((value) => void finite({ value }))
    return this.own(solid.raw.transform(matrix), (rough) =>
      moved(rough, (p, at) => {
        for (const i of axes) p[at + i] = settled(p[at + i]!)
      }),
    )
  }

  /** The same solid without what cutting added to the last digits of its settled coordinates. */
  denoised(solid: Solid): Solid {
    return this.taken(
      moved(solid.raw, (p, at) => {
        for (const i of [at, at + 1, at + 2]) p[i] = denoised(p[i]!)
      }),
    )
  }

  /** Flat faces, each by a plane with a unit normal, moved outwards along their normals by `by` mm; these are small. */
  grown(solid: Solid, planes: readonly Plane[], by: number): Solid {
    finite({ by })
    return this.taken(
      moved(solid.raw, (p, at) => {
        const from = [p[at]!, p[at + 1]!, p[at + 2]!] as const
        for (const { normal, offset } of planes)
          if (Math.abs(dot(normal, from) - offset) < inPlane)
            for (const i of [0, 1, 2] as const) p[at + i] = p[at + i]! + normal[i] * by
      }),
    )
  }

  /**
   * What came of an operation on solids with `grown` faces, these faces back where they were; `planes` as they are then. The
   * steps that they left where they met others close: corners that fall together become one.
   */
  ungrown(solid: Solid, planes: readonly Plane[], by: number): Solid {
    finite({ by })
    const back = moved(solid.raw, (p, at) => {
      const from = [p[at]!, p[at + 1]!, p[at + 2]!] as const
      for (const { normal, offset } of planes) {
        // What met others on its way is anywhere between.
        const above = dot(normal, from) - offset
        if (above > by / 1e3 && above < by * 1.25)
          for (const i of [0, 1, 2] as const) p[at + i] = p[at + i]! - normal[i] * above
      }
    })
    const near = (p: Vec3) => planes.some(({ normal, offset }) => Math.abs(dot(normal, p) - offset) < by / 4)
    // Where faces meet at a slant, a step is some times as wide as it was deep.
    const closed = back.warpBatch((p, count) => together(p, count, 5 * by, near))
    back.delete()
    return this.own(closed, (merged) => merged.simplify())
  }

  /** Scaled about the origin by a positive factor along each axis. */
  scaled(solid: Solid, factors: Vec3): Solid {
    positive({ x: factors[0], y: factors[1], z: factors[2] })
    return this.own(solid.raw.scale([...factors]))
  }

  union(solids: readonly Solid[]): Solid {
    return this.own(this.module.Manifold.union(solids.map((solid) => solid.raw)))
  }
  /** `base` without all of `cutters`, in one operation. */
  difference(base: Solid, cutters: readonly Solid[]): Solid {
    return this.own(this.module.Manifold.difference([base.raw, ...cutters.map((solid) => solid.raw)]))
  }
  intersection(solids: readonly Solid[]): Solid {
    return this.own(this.module.Manifold.intersection(solids.map((solid) => solid.raw)))
  }

  /** What lies on the side of a plane that its unit `normal` points to; the plane is `offset` mm from the origin along it. */
  trimmed(solid: Solid, normal: Vec3, offset: number): Solid {
    finite({ offset, x: normal[0], y: normal[1], z: normal[2] })
    return this.own(solid.raw.trimByPlane([...normal], offset))
  }

  /** A copy with an identity of its own, which every triangle that comes of it will carry. */
  original(solid: Solid): { solid: Solid; id: number } {
    const copy = this.taken(solid.raw.asOriginal())
    return { solid: copy, id: copy.raw.originalID() }
  }

  /** The section at height `z`. */
  slice(solid: Solid, z: number): Section {
    finite({ z })
    const section = solid.raw.slice(z)
    try {
      return { rings: section.toPolygons() as Ring[], area: section.area() }
    } finally {
      section.delete()
    }
  }

  private get module(): ManifoldToplevel {
    return this.#kernel.library.module
  }

  /** Takes ownership; `then` derives the wanted solid and the first one is released at once. */
  private own(raw: Manifold, then?: (raw: Manifold) => Manifold): Solid {
    const wanted = then ? then(raw) : raw
    if (then) raw.delete()
    const status = wanted.status()
    if (status !== 'NoError') {
      wanted.delete()
      failed(status)
    }
    return this.taken(wanted)
  }

  /** Takes ownership of what cannot have failed. Transforms stay deferred in the library until they are needed. */
  private taken(wanted: Manifold): Solid {
    const solid = new Solid(this.#kernel, wanted)
    this.#owned.add(solid)
    return solid
  }
}

/** The points for which `normal` · p = `offset`; the normal is unit, the offset in mm. */
export interface Plane {
  readonly normal: Vec3
  readonly offset: number
}
/** A corner nearer to a plane than this lies in it, mm. */
const inPlane = 1e-7

/** Of corners that `near` picks, those that lie within `size` of an earlier one are moved to it. */
function together(p: Float64Array, count: number, size: number, near: (p: Vec3) => boolean): void {
  const cells = new Map<string, number[]>()
  for (let at = 0; at < 3 * count; at += 3) {
    const from = [p[at]!, p[at + 1]!, p[at + 2]!] as const
    if (!near(from)) continue
    const [x, y, z] = from.map((c) => Math.floor(c / size)) as [number, number, number]
    const round = [-1, 0, 1].flatMap((i) =>
      [-1, 0, 1].flatMap((k) => [-1, 0, 1].map((m) => [x + i, y + k, z + m].join())),
    )
    const first = round
      .flatMap((key) => cells.get(key) ?? [])
      .find((other) => Math.hypot(p[other]! - from[0], p[other + 1]! - from[1], p[other + 2]! - from[2]) < size)
    if (first !== undefined) p.copyWithin(at, first, first + 3)
    else cells.set([x, y, z].join(), [...(cells.get([x, y, z].join()) ?? []), at])
  }
}

/** Rings as the library takes them. */
function polygonsOf(rings: readonly Ring[]): [number, number][][] {
  return rings.map((ring) =>
    ring.map(([x, y]) => {
      if (!Number.isFinite(x) || !Number.isFinite(y)) failed('one of its points is at no finite place')
      return [x, y]
    }),
  )
}

/** Points of an outline nearer to each other than this are one, mm. */
const samePoint = 1e-8

/** A ring without points that repeat the one before. */
function cleaned(ring: readonly [number, number][]): [number, number][] {
  const kept: [number, number][] = []
  const apart = (a: readonly [number, number], b: readonly [number, number]) =>
    Math.abs(a[0] - b[0]) > samePoint || Math.abs(a[1] - b[1]) > samePoint
  for (const point of ring) if (kept.length === 0 || apart(kept.at(-1)!, point)) kept.push(point)
  while (kept.length > 1 && !apart(kept.at(-1)!, kept[0]!)) kept.pop()
  return kept
}

/** What the library's own extrusion is made of: unlike that one it does not send points through the plane, which rounds them. */
interface Extruding {
  readonly Vector_vec2: new () => Vector<{ x: number; y: number }>
  readonly Vector2_vec2: new () => Vector<Vector<{ x: number; y: number }>>
  _Extrude(
    polygons: Vector<Vector<{ x: number; y: number }>>,
    height: number,
    divisions: number,
    twist: number,
    top: { x: number; y: number },
  ): Manifold
}
interface Vector<T> {
  push_back(value: T): void
  delete(): void
}

function extruded(library: ManifoldToplevel, polygons: readonly [number, number][][], height: number): Manifold {
  const { Vector_vec2, Vector2_vec2, _Extrude } = library as unknown as Extruding
  const all = new Vector2_vec2()
  try {
    for (const polygon of polygons) {
      const ring = new Vector_vec2()
      for (const [x, y] of polygon) ring.push_back({ x, y })
      all.push_back(ring)
      ring.delete()
    }
    return _Extrude(all, height, 0, 0, { x: 1, y: 1 })
  } finally {
    all.delete()
  }
}

/** A copy whose corners `change` moves in place: x, y and z stand at `at` and behind it. */
function moved(raw: Manifold, change: (coordinates: Float64Array, at: number) => void): Manifold {
  return raw.warpBatch((coordinates, count) => {
    for (let at = 0; at < 3 * count; at += 3) change(coordinates, at)
  })
}

function failed(detail: string): never {
  throw new ProblemError('kernel-failed', { detail })
}
function finite(values: Readonly<Record<string, number>>): void {
  for (const [name, value] of Object.entries(values))
    if (!Number.isFinite(value)) failed(`one of its sizes or places, ${name}, comes to no finite number`)
}
/** The library answers NaN and zero sizes with empty or broken solids and no error, so they are refused here. */
function positive(values: Readonly<Record<string, number>>): void {
  finite(values)
  for (const [name, value] of Object.entries(values)) if (value <= 0) failed(`${name} is ${value}`)
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
