import Flatbush from 'flatbush'
import type { Printer } from '../fits/index.ts'
import type { Kernel, Ring, Scope, SolidMesh } from '../kernel/index.ts'
import { type HangingRegion, layerAt, layerMiddle } from '../layers/index.ts'
import type { Paced } from '../pacing/index.ts'
import { cross, norm, subtract, type Vec3 } from '../place/index.ts'
import { type Box2, cross2, minus, RingSides, ringArea, type Vec2 } from '../plane/index.ts'

/** Part of a triangle that looks down, over a region that hangs or over none. */
export interface Under {
  readonly triangle: number
  /** nine numbers for each of the triangles that it is made of: x, y, z of three corners, mm */
  readonly corners: readonly number[]
  /** mm² */
  readonly area: number
  /** off upright, degrees: 90 where it lies flat */
  readonly lean: number
  readonly region: HangingRegion | undefined
}

/** What looks down by less than this share of what it may is not cut at regions: it may stand upright, where the limit is 0. */
const hardlyDown = 0.02
/** Corners that lie no farther apart in height than this are level, mm. */
const level = 1e-4
/** Leaning by this less than it may counts as the same, degrees: numbers of single precision. */
const sameLean = 0.05
/** A part of a triangle that a region has this share of is all of it. */
const mostly = 0.5

/** Between turns of others so many triangles are looked at. */
const atATime = 100

/**
 * All of a surface that looks down farther than its printer lays without help, cut from layer to layer and where it hangs; what ends
 * between the middles of two layers is as what lies beside it. `hanging`: only what is over a region.
 */
export function* undersides(
  kernel: Kernel,
  mesh: SolidMesh,
  regions: readonly HangingRegion[],
  { printer, hanging = false }: { readonly printer: Printer; readonly hanging?: boolean },
): Paced<readonly Under[]> {
  const begun = regions.filter(({ kind }) => kind === 'begins')
  const over = new Layers(regions)
  const out: Under[] = []
  for (let t = 0; t < mesh.triangles.length / 3; t++) {
    if (t % atATime === 0) yield
    const facet = facetOf(mesh, t)
    if (!facet) continue
    if (hanging && !isOverAny(facet, over, printer)) continue
    // What begins has a foot, however steep that is.
    const isSteep = facet.lean < printer.overhang - sameLean
    if (isSteep && begun.length === 0) continue
    const stretches = stretchesOf(facet, printer).map(({ layer, polygon }): Stretch => {
      return {
        polygon,
        unders: cutAtRegions(
          kernel,
          facet,
          polygon,
          over.at(layer, boxOf(polygon)).filter(({ region }) => !isSteep || region.kind === 'begins'),
        ),
      }
    })
    for (const { polygon, unders } of isLevel(facet) ? [levelOf(stretches)] : endedAlike(facet, stretches))
      if (unders.length > 0) out.push(...unders.filter(({ region }) => region || !hanging))
      else if (!isSteep && !hanging) out.push(wholeOf(facet, polygon, undefined))
  }
  return out
}

/** A triangle that looks down. */
interface Facet {
  readonly triangle: number
  readonly corners: readonly [Vec3, Vec3, Vec3]
  /** not of length 1 */
  readonly normal: Vec3
  /** the share of its area that is seen from below */
  readonly down: number
  /** off upright, degrees */
  readonly lean: number
}

function facetOf({ positions, triangles }: SolidMesh, t: number): Facet | undefined {
  const corners = [0, 1, 2].map((k): Vec3 => {
    const v = 3 * triangles[3 * t + k]!
    return [positions[v]!, positions[v + 1]!, positions[v + 2]!]
  }) as [Vec3, Vec3, Vec3]
  const normal = cross(subtract(corners[1], corners[0]), subtract(corners[2], corners[0]))
  const twice = norm(normal)
  if (!(twice > 0) || normal[2] >= 0) return undefined
  const down = -normal[2] / twice
  return { triangle: t, corners, normal, down, lean: (Math.asin(Math.min(1, down)) * 180) / Math.PI }
}

function heightsOf({ corners: [a, b, c] }: Facet): readonly [low: number, high: number] {
  return [Math.min(a[2], b[2], c[2]), Math.max(a[2], b[2], c[2])]
}

function isLevel(facet: Facet): boolean {
  const [low, high] = heightsOf(facet)
  return high - low < level
}

/** The layer that a height is the underside of. */
function layerOver(z: number, printer: Printer): number {
  const layer = layerAt(z, printer)
  return z <= layerMiddle(layer, printer) ? layer : layer + 1
}

/** Whether a triangle may lie over some region of the layers that it is the underside of. */
function isOverAny(facet: Facet, over: Layers, printer: Printer): boolean {
  const [low, high] = heightsOf(facet)
  const box = boxOf(facet.corners)
  const last = layerOver(high + level, printer)
  for (let layer = layerOver(low - level, printer); layer <= last; layer++)
    if (over.at(layer, box).length > 0) return true
  return false
}

/** What of a triangle is the underside of each layer; all of one that lies level may be of the layer below or above it. */
function stretchesOf(
  facet: Facet,
  printer: Printer,
): readonly { readonly layer: number; readonly polygon: readonly Vec3[] }[] {
  const layerOf = (z: number) => layerOver(z, printer)
  const [low, high] = heightsOf(facet)
  const { corners } = facet
  if (isLevel(facet))
    return [...new Set([layerOf(low - level), layerOf(high + level)])].map((layer) => ({ layer, polygon: corners }))
  const first = layerOf(low)
  return Array.from({ length: layerOf(high) - first + 1 }, (_, i) => {
    const layer = first + i
    const from = layer > 0 ? layerMiddle(layer - 1, printer) : low - 1
    return { layer, polygon: between(corners, from, layerMiddle(layer, printer)) }
  }).filter(({ polygon }) => polygon.length > 2)
}

/** A stretch with its parts over regions, and the rest of it; none where it is over none. */
interface Stretch {
  readonly polygon: readonly Vec3[]
  readonly unders: readonly Under[]
}

function cutAtRegions(
  kernel: Kernel,
  facet: Facet,
  polygon: readonly Vec3[],
  regions: readonly Bounded[],
): readonly Under[] {
  // Seen from above it runs the other way.
  const seen = polygon.map(([x, y]): Vec2 => [x, y]).reverse()
  const middle = middleOf(seen)
  if (facet.down < hardlyDown || !regions.some((each) => each.parts(seen, middle))) {
    const own = regions.find((each) => each.hasAt(middle))
    return own ? [wholeOf(facet, polygon, own.region)] : []
  }
  return kernel.scope((scope) => {
    const hanging = regions.flatMap(({ region }) => {
      const rings = scope.commonRegions([seen], region.rings)
      return rings.length > 0 ? [{ region, rings }] : []
    })
    if (hanging.length === 0) return []
    const rest = scope.withoutRegions(
      [seen],
      hanging.flatMap(({ rings }) => rings),
    )
    const parts = hanging.map(({ rings, region }) => partOf(scope, facet, rings, region))
    return rest.length > 0 ? [...parts, partOf(scope, facet, rest, undefined)] : parts
  })
}

/** What of a triangle lies over rings. */
function partOf(scope: Scope, facet: Facet, rings: readonly Ring[], region: HangingRegion | undefined): Under {
  const {
    triangle,
    corners: [a],
    normal,
    down,
    lean,
  } = facet
  const points = rings.flat()
  const corners = scope.triangulated(rings).flatMap((each) =>
    // Seen from above they run the other way.
    [each[0], each[2], each[1]].flatMap((i) => {
      const [x, y] = points[i]!
      return [x, y, a[2] - (normal[0] * (x - a[0]) + normal[1] * (y - a[1])) / normal[2]]
    }),
  )
  return { triangle, corners, area: areaOf(rings) / down, lean, region }
}

function wholeOf({ triangle, lean }: Facet, polygon: readonly Vec3[], region: HangingRegion | undefined): Under {
  const corners = polygon.slice(2).flatMap((p, i) => [...polygon[0]!, ...polygon[i + 1]!, ...p])
  return { triangle, corners, area: areaIn(polygon), lean, region }
}

/** What lies flat right at the height of a middle is of the layer below or above it. */
function levelOf(stretches: readonly Stretch[]): Stretch {
  return stretches.find(({ unders }) => unders.length > 0) ?? stretches[0]!
}

/** The layer in which a face begins or ends has only part of its height: it is as the one beside it. */
function endedAlike(facet: Facet, stretches: readonly Stretch[]): readonly Stretch[] {
  const hangs = ({ unders, polygon }: Stretch) => {
    const own = unders.filter(({ region }) => region)
    return own.reduce((sum, { area }) => sum + area, 0) > mostly * areaIn(polygon) ? own[0]!.region : undefined
  }
  return stretches.map((stretch, i) => {
    const beside = i === 0 ? stretches[1] : i === stretches.length - 1 ? stretches[i - 1] : undefined
    const region = beside && !hangs(stretch) ? hangs(beside) : undefined
    return region ? { ...stretch, unders: [wholeOf(facet, stretch.polygon, region)] } : stretch
  })
}

/** Regions by their layers, those of each in a tree of boxes. */
class Layers {
  readonly #layers = new Map<number, { readonly regions: Bounded[]; tree: Flatbush | undefined }>()

  constructor(regions: readonly HangingRegion[]) {
    for (const region of regions) {
      const own = this.#layers.get(region.layer)
      if (own) own.regions.push(new Bounded(region))
      else this.#layers.set(region.layer, { regions: [new Bounded(region)], tree: undefined })
    }
  }

  /** Those of a layer whose boxes meet a box, as they were given. */
  at(layer: number, { min, max }: Box2): readonly Bounded[] {
    const own = this.#layers.get(layer)
    if (!own) return []
    if (!own.tree) {
      own.tree = new Flatbush(own.regions.length)
      for (const { box } of own.regions) own.tree.add(...box.min, ...box.max)
      own.tree.finish()
    }
    return own.tree
      .search(...min, ...max)
      .sort((a, b) => a - b)
      .map((i) => own.regions[i]!)
  }
}

/** A region with its sides in a tree. */
class Bounded {
  readonly region: HangingRegion
  readonly box: Box2
  #sides: RingSides | undefined

  constructor(region: HangingRegion) {
    this.region = region
    this.box = boxOf(region.rings.flat())
  }

  private get sides(): RingSides {
    this.#sides ??= new RingSides(this.region.rings)
    return this.#sides
  }

  hasAt(place: Vec2): boolean {
    return this.sides.isFilledAt(place)
  }

  /** Whether a side goes through a convex polygon, not just along its rim: leaning faces are cut where regions end. */
  parts(polygon: readonly Vec2[], middle: Vec2): boolean {
    const inner = polygon.map(
      ([x, y]): Vec2 => [middle[0] + within * (x - middle[0]), middle[1] + within * (y - middle[1])],
    )
    return this.sides.in(boxOf(inner)).some(([a, b]) => goesThrough(inner, a, b))
  }
}
/** Of a polygon what lies well inside, as a share of the way from its middle. */
const within = 0.98

/** Whether some of a side lies in a convex polygon, counter-clockwise. */
function goesThrough(polygon: readonly Vec2[], a: Vec2, b: Vec2): boolean {
  let [from, to] = [0, 1]
  for (const [i, p] of polygon.entries()) {
    const side = minus(polygon[(i + 1) % polygon.length]!, p)
    const [d, e] = [cross2(side, minus(a, p)), cross2(side, minus(b, p))]
    if (d < 0 && e < 0) return false
    if (d < 0) from = Math.max(from, d / (d - e))
    else if (e < 0) to = Math.min(to, d / (d - e))
    if (from >= to) return false
  }
  return true
}

/** Seen from above. */
function boxOf(points: readonly (Vec2 | Vec3)[]): Box2 {
  let [left, front, right, back] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const [x, y] of points) {
    if (x < left) left = x
    if (x > right) right = x
    if (y < front) front = y
    if (y > back) back = y
  }
  return { min: [left, front], max: [right, back] }
}

function areaOf(rings: readonly Ring[]): number {
  return rings.reduce((sum, ring) => sum + ringArea(ring), 0)
}

/** mm², of a flat polygon anywhere. */
function areaIn(polygon: readonly Vec3[]): number {
  const [a, ...others] = polygon
  return others.slice(1).reduce((sum, p, i) => sum + norm(cross(subtract(others[i]!, a!), subtract(p, a!))) / 2, 0)
}

function middleOf(points: readonly Vec2[]): Vec2 {
  return [0, 1].map((k) => points.reduce((sum, p) => sum + p[k]!, 0) / points.length) as [number, number]
}

/** What of a flat polygon lies between two heights. */
function between(polygon: readonly Vec3[], low: number, high: number): readonly Vec3[] {
  return cutAt(
    cutAt(polygon, ([, , z]) => z - low),
    ([, , z]) => high - z,
  )
}

/** What of a polygon lies where a distance is not below 0 (Sutherland and Hodgman, "Reentrant polygon clipping", 1974). */
function cutAt(polygon: readonly Vec3[], distance: (p: Vec3) => number): readonly Vec3[] {
  return polygon.flatMap((p, i) => {
    const q = polygon[(i + 1) % polygon.length]!
    const [d, e] = [distance(p), distance(q)]
    const crossing = d < 0 !== e < 0 && d !== 0 && e !== 0
    const at = crossing ? [p.map((x, k) => x + (d / (d - e)) * (q[k]! - x)) as unknown as Vec3] : []
    return d >= 0 ? [p, ...at] : at
  })
}
