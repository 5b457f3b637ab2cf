import type { Kernel, Ring, SolidMesh } from '../kernel/index.ts'
import { type HangingRegion, hangingRegions, layerAt, layerMiddle } from '../layers/index.ts'
import { cross, norm, subtract, type Vec3 } from '../place/index.ts'
import { type Box2, boxAround, boxesMeet, cross2, minus, RingSides, ringArea, type Vec2 } from '../plane/index.ts'
import type { Found, Mark, ProofContext, ProofPiece } from './define.ts'
import { groupsOf, isTooLarge } from './narrow.ts'
import { whoseIn } from './whose.ts'

/** What overhangs, bridges and what begins in mid-air have in common: what of a piece has nothing below it. */

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

const known = new WeakMap<ProofContext, Map<ProofPiece, Promise<readonly HangingRegion[]>>>()

/** What of a piece that has material goes farther beyond what is below it than its printer lays without help. */
export function hangingOf(context: ProofContext, piece: ProofPiece): Promise<readonly HangingRegion[]> {
  const own = known.get(context) ?? new Map<ProofPiece, Promise<readonly HangingRegion[]>>()
  known.set(context, own)
  const before = own.get(piece)
  if (before) return before
  const found = (async () => {
    const { kernel, sections, pause } = context
    const { printer } = context.built.resolved
    const places = (await context.laid(piece)).flat()
    const others = besides(context, piece).map(sections)
    const { lineWidth, overhang } = printer
    return hangingRegions(kernel, sections(piece), { heights: printer, lineWidth, overhang, places, others, pause })
  })()
  own.set(piece, found)
  return found
}

/** Pieces that a piece may lie on: those printed with it that reach below some of it. */
function besides({ pieces }: ProofContext, piece: ProofPiece): readonly ProofPiece[] {
  const { min, max } = piece.figures!
  return pieces.filter(
    ({ built, figures }) =>
      // Halves of what a step has split are printed by themselves.
      built.of !== piece.built.of &&
      figures &&
      figures.min[2] < max[2] &&
      [0, 1].every((k) => figures.min[k]! <= max[k]! && min[k]! <= figures.max[k]!),
  )
}

/** All that the findings of what hangs follow from beside the solid and the name of the piece. */
export function hangsFrom(context: ProofContext, piece: ProofPiece): unknown {
  const names = whoseIn(context, piece).all()
  return [context.built.resolved.printer, names, besides(context, piece).map(({ built }) => built.key)]
}

/** What of a piece hangs by the same steps. */
export interface Hanging {
  readonly unders: readonly Under[]
  /** steps and joints that it is of, and their names */
  readonly about: Found['about']
  readonly where: readonly string[]
  /** mm² */
  readonly area: number
  /** how far the farthest of it reaches, or the longest of it spans, mm */
  readonly long: number
}

/** What is smaller than so many squares of a line is a speck. */
const specks = 2

/**
 * What of a piece hangs in such a way, by what it comes from, the largest first, but for specks. Not looked at is what nothing is laid of,
 * which is told by a check of its own, and what has too much surface.
 */
export async function hangingBy(
  context: ProofContext,
  piece: ProofPiece,
  isWanted: (region: HangingRegion) => boolean,
): Promise<'unlaid' | 'too large' | readonly Hanging[]> {
  if ((await context.laid(piece)).length === 0) return 'unlaid'
  if (isTooLarge(piece)) return 'too large'
  const { kernel, built } = context
  const regions = (await hangingOf(context, piece)).filter(isWanted)
  if (regions.length === 0) return []
  const whose = whoseIn(context, piece)
  const { printer } = built.resolved
  const all = undersides(kernel, piece.built.solid!.mesh(), regions, printer).filter(({ region }) => region)
  return groupsOf(all, ({ triangle }) => whose.keyOf([triangle]))
    .map((unders) => {
      const { about, names } = whose.of(unders.map(({ triangle }) => triangle))
      const area = unders.reduce((sum, under) => sum + under.area, 0)
      const long = unders.reduce((most, { region }) => Math.max(most, region!.long), 0)
      return { unders, about, where: names, area, long }
    })
    .filter(({ area }) => area >= specks * printer.lineWidth ** 2)
}

/** What looks down by less than this share of what it may is not cut at regions: it may stand upright, where the limit is 0. */
const hardlyDown = 0.02
/** Corners that lie no farther apart in height than this are level, mm. */
const level = 1e-4
/** Leaning by this less than it may counts as the same, degrees: numbers of single precision. */
const sameLean = 0.05
/** A part of a triangle that a region has this share of is all of it. */
const mostly = 0.5

/**
 * All of a surface that looks down farther than its printer lays without help, cut from layer to layer and where it hangs; what ends
 * between the middles of two layers is as what lies beside it.
 */
export function undersides(
  kernel: Kernel,
  { positions, triangles }: SolidMesh,
  regions: readonly HangingRegion[],
  printer: ProofContext['built']['resolved']['printer'],
): readonly Under[] {
  const byLayer = new Map<number, Bounded[]>()
  for (const region of regions) {
    const own = byLayer.get(region.layer)
    if (own) own.push(new Bounded(region))
    else byLayer.set(region.layer, [new Bounded(region)])
  }
  const layerOf = (z: number) => {
    const layer = layerAt(z, printer)
    return z <= layerMiddle(layer, printer) ? layer : layer + 1
  }
  const out: Under[] = []
  for (let t = 0; t < triangles.length / 3; t++) {
    const [a, b, c] = [0, 1, 2].map((k): Vec3 => {
      const v = 3 * triangles[3 * t + k]!
      return [positions[v]!, positions[v + 1]!, positions[v + 2]!]
    }) as [Vec3, Vec3, Vec3]
    const normal = cross(subtract(b, a), subtract(c, a))
    const twice = norm(normal)
    if (!(twice > 0) || normal[2] >= 0) continue
    const down = -normal[2] / twice
    const lean = (Math.asin(Math.min(1, down)) * 180) / Math.PI
    if (lean < printer.overhang - sameLean) continue
    const [low, high] = [Math.min(a[2], b[2], c[2]), Math.max(a[2], b[2], c[2])]
    const isLevel = high - low < level
    const [first, last] = isLevel ? [layerOf(low - level), layerOf(high + level)] : [layerOf(low), layerOf(high)]
    const z = ([x, y]: Vec2) => a[2] - (normal[0] * (x - a[0]) + normal[1] * (y - a[1])) / normal[2]
    const make = (rings: readonly Ring[], region: HangingRegion | undefined): Under => {
      const points = rings.flat()
      const corners = kernel
        .scope((scope) => scope.triangulated(rings))
        .flatMap((each) =>
          // Seen from above they run the other way.
          [each[0], each[2], each[1]].flatMap((i) => [points[i]![0], points[i]![1], z(points[i]!)]),
        )
      return { triangle: t, corners, area: areaOf(rings) / down, lean, region }
    }
    const whole = (polygon: readonly Vec3[], region: HangingRegion | undefined): Under => {
      const corners = polygon.slice(2).flatMap((p, i) => [...polygon[0]!, ...polygon[i + 1]!, ...p])
      return { triangle: t, corners, area: areaIn(polygon), lean, region }
    }
    const found: { readonly layer: number; readonly polygon: readonly Vec3[]; unders: readonly Under[] }[] = []
    for (let layer = first; layer <= last; layer++) {
      const polygon = isLevel
        ? [a, b, c]
        : between([a, b, c], layer > 0 ? layerMiddle(layer - 1, printer) : low - 1, layerMiddle(layer, printer))
      if (polygon.length < 3) continue
      // Seen from above it runs the other way.
      const seen = polygon.map(([x, y]): Vec2 => [x, y]).reverse()
      const box = boxOf(seen)
      const over = (byLayer.get(layer) ?? []).filter((each) => boxesMeet(each.box, box, 0))
      const middle = middleOf(seen)
      if (down < hardlyDown || !over.some((each) => each.parts(seen, middle))) {
        const own = over.find((each) => each.hasAt(middle))
        found.push({ layer, polygon, unders: own ? [whole(polygon, own.region)] : [] })
        continue
      }
      const cut = kernel.scope((scope) => {
        const hanging = over.flatMap(({ region }) => {
          const rings = scope.commonRegions([seen], region.rings)
          return rings.length > 0 ? [{ region, rings }] : []
        })
        const rest =
          hanging.length === 0
            ? []
            : scope.withoutRegions(
                [seen],
                hanging.flatMap(({ rings }) => rings),
              )
        return { hanging, rest }
      })
      const unders = cut.hanging.map(({ rings, region }) => make(rings, region))
      found.push({ layer, polygon, unders: cut.rest.length > 0 ? [...unders, make(cut.rest, undefined)] : unders })
    }
    // What lies flat right at the height of a middle is of the layer below or above it.
    if (isLevel && found.length > 1)
      found.splice(0, found.length, found.find(({ unders }) => unders.length > 0) ?? found[0]!)
    const hangs = ({ unders, polygon }: (typeof found)[number]) => {
      const own = unders.filter(({ region }) => region)
      return own.reduce((sum, { area }) => sum + area, 0) > mostly * areaIn(polygon) ? own[0]!.region : undefined
    }
    // The layer in which a face begins or ends has only part of its height.
    for (const [end, beside] of [
      [found[0], found[1]],
      [found.at(-1), found.at(-2)],
    ] as const) {
      const region = end && beside && !hangs(end) ? hangs(beside) : undefined
      if (region) end!.unders = [whole(end!.polygon, region)]
    }
    for (const { polygon, unders } of found) out.push(...(unders.length > 0 ? unders : [whole(polygon, undefined)]))
  }
  return out
}

/** A region with its sides in a tree. */
class Bounded {
  readonly region: HangingRegion
  readonly box: Box2
  readonly #sides: RingSides

  constructor(region: HangingRegion) {
    this.region = region
    this.box = boxOf(region.rings.flat())
    this.#sides = new RingSides(region.rings)
  }

  hasAt(place: Vec2): boolean {
    return this.#sides.isFilledAt(place)
  }

  /** Whether a side goes through a convex polygon, not just along its rim: leaning faces are cut where regions end. */
  parts(polygon: readonly Vec2[], middle: Vec2): boolean {
    const inner = polygon.map(
      ([x, y]): Vec2 => [middle[0] + within * (x - middle[0]), middle[1] + within * (y - middle[1])],
    )
    return this.#sides.in(boxOf(inner)).some(([a, b]) => goesThrough(inner, a, b))
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

function boxOf(points: readonly Vec2[]): Box2 {
  return boxAround(points.map((p) => ({ min: p, max: p })))!
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

/** More triangles than these are not shown. */
const mostShown = 20_000

export function underMarks(field: string, piece: string, unders: readonly Under[]): Mark[] {
  const points = Float32Array.from(unders.flatMap(({ corners }) => corners).slice(0, 9 * mostShown))
  return [
    { kind: 'field', field, pieces: [piece] },
    { kind: 'triangles', points },
  ]
}
