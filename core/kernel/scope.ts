import type { CrossSection, Manifold, ManifoldToplevel, Mat4, Vec3 as MutableVec3 } from 'manifold-3d'
import { Groups, twinsOfSheet } from '../mesh/index.ts'
import { cross, dot, type Frame, matrixOf, meet, type Vec3 } from '../place/index.ts'
import type { Ring } from '../plane/index.ts'
import { ProblemError, tried } from '../problems/index.ts'
import { failed, finite, positive } from './checks.ts'
import { grown, moved, type Plane, ungrown } from './corners.ts'
import type { Kernel } from './kernel.ts'
import { Places } from './places.ts'
import { cleaned, finiteRings } from './polygons.ts'
import type { RingStore } from './rings.ts'
import { denoised, PlanePoints, settled, squareAxes } from './settled.ts'
import { type Meshed, type MeshRun, type PlaneSection, Solid } from './solid.ts'

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
    const polygons = finiteRings(rings)
      .map(cleaned)
      .filter((ring) => ring.length > 2)
    return polygons.length > 0 ? this.own(this.rings.extruded(polygons, height, 1, 0)) : this.union([])
  }

  /** The same in so many steps, turned evenly counter-clockwise by `turn` rad from its foot to its head. */
  helical(rings: readonly Ring[], height: number, steps: number, turn: number): Solid {
    positive({ height, steps })
    finite({ turn })
    return this.own(this.rings.extruded(finiteRings(rings), height, steps, (turn * 180) / Math.PI))
  }

  /** The same in so many steps, turned counter-clockwise at each share of its height by so much, rad. */
  twisted(rings: readonly Ring[], height: number, steps: number, turnAt: (share: number) => number): Solid {
    positive({ height, steps })
    const straight = this.own(this.rings.risen(finiteRings(rings), height, steps))
    return this.own(
      straight.raw.warpBatch((coordinates, count) => {
        for (let at = 0; at < 3 * count; at += 3) {
          const [x, y] = [coordinates[at]!, coordinates[at + 1]!]
          const turn = turnAt(coordinates[at + 2]! / height)
          const [c, s] = [Math.cos(turn), Math.sin(turn)]
          coordinates[at] = c * x - s * y
          coordinates[at + 1] = s * x + c * y
        }
      }),
    )
  }

  /** The regions that rings fill where they wind about a point (non-zero), as rings that `extrude` takes. */
  filled(rings: readonly Ring[]): Ring[] {
    const region = this.rings.region(finiteRings(rings), 'NonZero')
    try {
      return this.rings.ringsOf(region)
    } finally {
      region.delete()
    }
  }

  /** The region of `base` without the regions of all `tools` (each filled where its rings wind about a point), as rings. */
  withoutRegions(base: readonly Ring[], tools: readonly Ring[]): Ring[] {
    if (base.length === 0) return []
    if (tools.length === 0) return this.filled(base)
    return this.regions([base, tools], ([from, less]) => {
      const rest = from!.subtract(less!)
      try {
        return this.rings.ringsOf(rest)
      } finally {
        rest.delete()
      }
    })
  }

  /** What of a region lies farther from all of `base` than `by`, mm, as rings; at corners its sides go on until they meet, or nearly. */
  beyond(rings: readonly Ring[], base: readonly Ring[], by: number): Ring[] {
    finite({ by })
    if (rings.length === 0) return []
    if (base.length === 0) return this.filled(rings)
    return this.regions([rings, base], ([region, from]) => {
      const sound = from!.simplify(sliver)
      const grown = sound.offset(by, 'Miter', 2)
      const rest = region!.subtract(grown)
      try {
        return this.rings.ringsOf(rest)
      } finally {
        sound.delete()
        grown.delete()
        rest.delete()
      }
    })
  }

  /** The region that two regions have in common, as rings. */
  commonRegions(a: readonly Ring[], b: readonly Ring[]): Ring[] {
    if (a.length === 0 || b.length === 0) return []
    return this.regions([a, b], ([one, two]) => {
      const common = one!.intersect(two!)
      try {
        return this.rings.ringsOf(common)
      } finally {
        common.delete()
      }
    })
  }

  /**
   * The region of all that lies `by` mm or deeper inside of rings, as rings, or with all round it where `by` is below 0; without corners
   * that stand out by less than `within`, mm. With `sharp` corners its sides go on until they meet.
   */
  inset(rings: readonly Ring[], by: number, { within = 0, sharp = false } = {}): Ring[] {
    finite({ by })
    if (rings.length === 0) return []
    return this.regions([rings], ([region]) => {
      const sound = region!.simplify(sliver)
      const inner = sharp ? sound.offset(-by, 'Miter', sharpest) : sound.offset(-by, 'Round', 2, 32)
      const plain = within > 0 ? inner.simplify(within) : inner
      try {
        return this.rings.ringsOf(plain)
      } finally {
        sound.delete()
        inner.delete()
        if (plain !== inner) plain.delete()
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
    const made = all.map((rings) => this.rings.region(finiteRings(rings), 'NonZero'))
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
    const polygons = finiteRings(rings)
    const known = new PlanePoints(rings)
    return this.own(this.rings.revolved(polygons, segments, Math.min(360, degrees)), (rough) =>
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
    return this.rings.triangulated(finiteRings(rings))
  }

  /**
   * A closed surface of triangles, seen counter-clockwise from outside. Points that fall together in single precision are one,
   * triangles of two corners are left out.
   */
  surface(points: readonly Vec3[], triangles: readonly (readonly [number, number, number])[]): Solid {
    const places = new Places(points.length)
    /** of each place the first point there, in double precision */
    const exact = new Float64Array(3 * points.length)
    const place = points.map(([x, y, z]) => {
      if (!Number.isFinite(x + y + z)) finite({ x, y, z })
      const count = places.count
      const number = places.add(x, y, z)
      if (number === count) exact.set([x, y, z], 3 * number)
      return number
    })
    const corners: number[] = []
    for (const [a, b, c] of triangles) {
      const [i, k, m] = [place[a]!, place[b]!, place[c]!]
      if (i !== k && k !== m && m !== i) corners.push(i, k, m)
    }
    return this.taken(this.takenIn(exact.subarray(0, 3 * places.count), Uint32Array.from(corners)))
  }

  /**
   * A closed surface of triangles, each point a corner of its own, in runs of originals: those of other solids, or new ones. The library
   * takes it in when it is first asked for something that the mesh itself does not tell.
   * @throws ProblemError kernel-failed where it is not closed
   */
  inRuns(points: Float64Array, triangles: Uint32Array, runs: readonly Omit<MeshRun, 'to'>[]): Solid {
    const { positions, corners, triangles: own } = usedPoints(points, triangles)
    const taken = () => this.takenIn(corners, own, runs)
    const isThere = own.length > 0 && corners.every(Number.isFinite)
    const twins = isThere ? twinsOfSheet({ positions, triangles: own }) : undefined
    // Where corners or edges are shared by more than one sheet, the library parts them in its own way.
    if (!twins) return this.taken(taken())
    const ends = [...runs.slice(1).map(({ from }) => from), triangles.length / 3]
    const mesh = { positions, triangles: own, runs: runs.map((run, i) => meshRun(run, ends[i]!)) }
    return this.taken({ mesh, corners, twins, taken })
  }

  /** Without runs it is an original of its own. */
  private takenIn(
    points: Float32Array | Float64Array,
    triangles: Uint32Array,
    runs: readonly Omit<MeshRun, 'to'>[] = [],
  ): Manifold {
    const { Manifold, Mesh } = this.module
    const mesh = new Mesh({
      ...{ numProp: 3, vertProperties: spreadOut(points.length / 3), triVerts: triangles },
      ...(runs.length > 0 && {
        runIndex: Uint32Array.from([...runs.map(({ from }) => 3 * from), triangles.length]),
        runOriginalID: Uint32Array.from(runs, ({ original }) => original),
        runTransform: Float32Array.from(
          runs.flatMap(({ frame: { u, v, n, origin } }) => [...u, ...v, ...n, ...origin]),
        ),
      }),
    })
    if (runs.length > 0) mesh.runFlags = Uint8Array.from(runs, ({ inverted }) => (inverted ? 1 : 0))
    try {
      return sound(Manifold.ofMesh(mesh), (rough) => inPlace(rough, points))
    } catch (error) {
      if (error instanceof ProblemError) throw error
      return failed(error instanceof Error ? error.message : String(error))
    }
  }

  /** An id for an original that comes as a run. */
  reserved(): number {
    return this.module.Manifold.reserveIDs(1)
  }

  /**
   * A closed mesh as it is: no two of its corners are at one place, each edge has two triangles.
   * @throws ProblemError kernel-failed where it is not closed
   */
  meshed({
    positions,
    triangles,
  }: {
    readonly positions: Float32Array | Float64Array
    readonly triangles: Uint32Array
  }): Solid {
    return this.taken(this.takenIn(positions, triangles))
  }

  /** The bodies that a solid falls into. */
  parts(solid: Solid): Solid[] {
    return solid.raw.decompose().map((raw) => this.taken(raw))
  }

  /**
   * A solid without the shells that an operation has cut loose: those that enclose less than `least` mm³, material or none, unless
   * `before` has the same one, or are all that is left of one that lay apart.
   */
  withoutCrumbs(solid: Solid, before: Solid, least: number): Solid {
    const shells = this.parts(solid)
    const known = shells.length > 1 ? this.parts(before) : []
    const called = (shell: Solid) => `${shell.volume().toFixed(9)} ${shell.bounds()?.min.map((x) => x.toFixed(6))}`
    const names = new Set(known.map(called))
    const large = shells.filter((shell) => Math.abs(shell.volume()) >= least || names.has(called(shell)))
    // What is all that is left of a body was not cut loose.
    const gone = known.filter((own) => own.volume() > 0 && !large.some((shell) => overlap(own, shell)))
    const isLeft = (shell: Solid) => shell.volume() > 0 && gone.some((own) => overlap(own, shell))
    const crumbs = shells.length > 1 ? shells.filter((shell) => !large.includes(shell) && !isLeft(shell)) : []
    const whole = crumbs.length === 0 ? solid : this.without(solid, shells, crumbs)
    for (const shell of [...shells, ...known]) {
      this.#owned.delete(shell)
      shell.release()
    }
    return whole
  }

  /** A solid without the shells that enclose less than `least` mm³, of material or of none. */
  withoutSpecks(solid: Solid, least: number): Solid {
    // Where shells touch in an edge the library may part them otherwise when it is given them anew.
    let now = solid
    for (let round = 0; round < mostRounds; round++) {
      const next = this.withoutShells(now, least)
      if (next === now) break
      now = next
    }
    return now
  }

  private withoutShells(solid: Solid, least: number): Solid {
    const { triangles, runs } = solid.mesh()
    const corners = solid.corners()
    const at = (h: number): Vec3 => {
      const v = 3 * triangles[h]!
      return [corners[v]!, corners[v + 1]!, corners[v + 2]!]
    }
    // What only meets at a corner is two.
    const twins = solid.twins()
    const groups = new Groups(triangles.length / 3)
    twins.forEach((twin, h) => {
      if (twin >= 0) groups.join((h / 3) | 0, (twin / 3) | 0)
    })
    const volumes = new Map<number, number>()
    const shellOf = (t: number) => groups.of(t)
    for (let t = 0; t < triangles.length / 3; t++) {
      const volume = dot(at(3 * t), cross(at(3 * t + 1), at(3 * t + 2))) / 6
      volumes.set(shellOf(t), (volumes.get(shellOf(t)) ?? 0) + volume)
    }
    const isKept = (t: number) => Math.abs(volumes.get(shellOf(t))!) >= least
    if ([...volumes.values()].every((volume) => Math.abs(volume) >= least)) return solid
    const places = new Map<number, number>()
    const kept: number[] = []
    const left = runs.flatMap((run): Omit<MeshRun, 'to'>[] => {
      const from = kept.length / 3
      for (let h = 3 * run.from; h < 3 * run.to; h++) {
        if (!isKept((h / 3) | 0)) continue
        const place = places.get(triangles[h]!) ?? places.size
        places.set(triangles[h]!, place)
        kept.push(place)
      }
      return kept.length / 3 > from ? [{ ...run, from }] : []
    })
    const points = Float64Array.from([...places.keys()].flatMap((v) => [...corners.subarray(3 * v, 3 * v + 3)]))
    return left.length > 0 ? this.inRuns(points, Uint32Array.from(kept), left) : solid
  }

  private without(solid: Solid, shells: readonly Solid[], crumbs: readonly Solid[]): Solid {
    const kept = shells.filter((shell) => !crumbs.includes(shell))
    if (kept.every((shell) => shell.volume() > 0))
      return this.own(this.module.Manifold.compose(kept.map(({ raw }) => raw)))
    // The library puts shells together as bodies: cavities would be lost. So crumbs are cut off and filled, a little larger than they are.
    const loose = crumbs.filter((shell) => shell.volume() > 0).flatMap((shell) => this.larger(shell))
    // What is so thin that it comes to nothing, or touches itself, is left where it is.
    const gaps = crumbs
      .filter((shell) => shell.volume() <= 0)
      .flatMap((shell) => this.larger(tried(() => this.turnedOver(shell))))
    const rest = loose.length > 0 ? this.difference(solid, loose) : solid
    return gaps.length > 0 ? this.union([rest, ...gaps]) : rest
  }

  /** A solid a thousandth larger, about the middle of its box; none of what is empty. */
  private larger(solid: Solid | undefined): Solid[] {
    const bounds = solid?.bounds()
    if (!solid || !bounds) return []
    const { min, max } = bounds
    const [x, y, z] = [0, 1, 2].map((i) => -0.001 * ((min[i]! + max[i]!) / 2)) as [number, number, number]
    return [this.own(solid.raw.transform([1.001, 0, 0, 0, 0, 1.001, 0, 0, 0, 0, 1.001, 0, x, y, z, 1]))]
  }

  /** The same surface seen from the other side: what fills a cavity that is given by its shell alone. */
  private turnedOver(shell: Solid): Solid {
    const corners = shell.corners()
    const { triangles } = shell.mesh()
    const points = Array.from({ length: corners.length / 3 }, (_, i): Vec3 => {
      return [corners[3 * i]!, corners[3 * i + 1]!, corners[3 * i + 2]!]
    })
    const turned = Array.from({ length: triangles.length / 3 }, (_, t) => {
      return [triangles[3 * t]!, triangles[3 * t + 2]!, triangles[3 * t + 1]!] as const
    })
    return this.surface(points, turned)
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
    return this.taken(grown(solid.raw, planes, by))
  }

  /**
   * What came of an operation on solids with `grown` faces, these faces back where they were; `planes` as they are then. The
   * steps that they left where they met others close: corners that fall together become one.
   */
  ungrown(solid: Solid, planes: readonly Plane[], by: number): Solid {
    finite({ by })
    return this.own(ungrown(solid.raw, planes, by), (merged) => merged.simplify())
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

  /** The same with some of its corners, by their places in its mesh, moved by so much. */
  shifted(solid: Solid, by: ReadonlyMap<number, Vec3>): Solid {
    const move = (coordinates: Float64Array) => {
      for (const [corner, [x, y, z]] of by) {
        coordinates[3 * corner] = coordinates[3 * corner]! + x
        coordinates[3 * corner + 1] = coordinates[3 * corner + 1]! + y
        coordinates[3 * corner + 2] = coordinates[3 * corner + 2]! + z
      }
    }
    if (!solid.isMeshed) return this.own(solid.raw.warpBatch(move))
    const corners = solid.corners().slice()
    move(corners)
    return this.inRuns(corners, solid.mesh().triangles, solid.mesh().runs)
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
  slice(solid: Solid, z: number): PlaneSection {
    finite({ z })
    const section = solid.raw.slice(z)
    try {
      return { rings: this.rings.ringsOf(section), area: section.area() }
    } finally {
      section.delete()
    }
  }

  private get rings(): RingStore {
    return this.#kernel.library.rings
  }

  private get module(): ManifoldToplevel {
    return this.#kernel.library.module
  }

  /** Takes ownership; `then` derives the wanted solid and the first one is released at once. */
  private own(raw: Manifold, then?: (raw: Manifold) => Manifold): Solid {
    return this.taken(sound(raw, then))
  }

  /** Takes ownership of what cannot have failed. Transforms stay deferred in the library until they are needed. */
  private taken(made: Manifold | Meshed): Solid {
    const solid = new Solid(this.#kernel, made)
    this.#owned.add(solid)
    return solid
  }
}

/** What is made, or what `then` derives from it; what could not be made is refused. */
function sound(raw: Manifold, then?: (raw: Manifold) => Manifold): Manifold {
  const wanted = then ? then(raw) : raw
  if (then) raw.delete()
  const status = wanted.status()
  if (status !== 'NoError') {
    wanted.delete()
    failed(status)
  }
  return wanted
}

function meshRun({ original, from, frame, inverted }: Omit<MeshRun, 'to'>, to: number): MeshRun {
  return { original, from, to, frame, inverted }
}

/** A mesh without the points that none of its triangles has. */
function usedPoints(points: Float64Array, triangles: Uint32Array) {
  const used = new Uint8Array(points.length / 3)
  for (const corner of triangles) used[corner] = 1
  const places = new Uint32Array(used.length)
  const corners = new Float64Array(points.length)
  let count = 0
  for (let point = 0; point < used.length; point++) {
    if (!used[point]) continue
    places[point] = count
    for (let i = 0; i < 3; i++) corners[3 * count + i] = points[3 * point + i]!
    count++
  }
  const own = corners.slice(0, 3 * count)
  return { corners: own, positions: Float32Array.from(own), triangles: triangles.map((corner) => places[corner]!) }
}

/** So often specks are looked for in what is left. */
const mostRounds = 4

/** What is narrower than this, mm, is left out of a region before its sides are moved: a ring of no area has all of them moved the other way. */
const sliver = 1e-6

/** Corners of regions go at most so many times as far as their sides. */
const sharpest = 8

/** Whether two solids have something in common; less than can be printed is rounding. */
function overlap(a: Solid, b: Solid): boolean {
  if (!meet(a.bounds()!, b.bounds()!)) return false
  if (sharedCorners(a, b) >= enoughShared) return true
  const common = a.raw.intersect(b.raw)
  const volume = common.volume()
  common.delete()
  return volume > leastCommon
}

/** mm³ */
const leastCommon = 1e-9

/** Bodies with so many corners in common are one before and after something was done to it. */
const enoughShared = 8

function sharedCorners(a: Solid, b: Solid): number {
  const [one, other] = [a.corners(), b.corners()]
  const places = new Places(one.length / 3)
  for (let i = 0; i < one.length; i += 3) places.add(one[i]!, one[i + 1]!, one[i + 2]!)
  let shared = 0
  for (let i = 0; i < other.length && shared < enoughShared; i += 3)
    if (places.at(other[i]!, other[i + 1]!, other[i + 2]!) >= 0) shared++
  return shared
}

/**
 * Points in single precision for a mesh to be taken in by: spread over a small ball (a spiral of Fibonacci's angle), where no three lie
 * on a line and none near another. The library moves corners together and turns edges over where triangles have no height in single
 * precision, as at a face that ends a billionth of a mm above another one: whole bodies were lost by that. Here it finds nothing to mend.
 */
function spreadOut(count: number): Float32Array {
  const out = new Float32Array(3 * count)
  for (let i = 0; i < count; i++) {
    const height = 1 - (2 * i + 1) / count
    const wide = Math.sqrt(1 - height * height)
    const angle = i * fibonacciAngle
    out.set([wide * Math.cos(angle) * tiny, wide * Math.sin(angle) * tiny, height * tiny], 3 * i)
  }
  return out
}

/** What was taken in so with each corner where it belongs; its height there tells which it is. */
function inPlace(rough: Manifold, points: Float32Array | Float64Array): Manifold {
  const most = points.length / 3
  return rough.warpBatch((coordinates, count) => {
    for (let at = 0; at < 3 * count; at += 3) {
      const i = Math.round(((1 - coordinates[at + 2]! / tiny) * most - 1) / 2)
      coordinates.set(points.subarray(3 * i, 3 * i + 3), at)
    }
  })
}

/** rad */
const fibonacciAngle = Math.PI * (3 - Math.sqrt(5))
/** Of what size a mesh is taken in, mm: a power of two, small beside the rounding of double precision in any part. */
const tiny = 2 ** -24
