import type { Kernel, Ring, Scope } from '../kernel/index.ts'
import {
  bodiesOf,
  boxAround,
  boxesMeet,
  distance2,
  insideRings,
  pointInside,
  RingSides,
  ringArea,
  type Vec2,
} from '../plane/index.ts'
import { type LayerHeights, layerBottom, layerMiddle } from './heights.ts'
import type { LaidPlace } from './laid.ts'
import type { Ledges } from './ledges.ts'
import type { Sections } from './sections.ts'
import { type Side, type SpannedLine, sidesOf, spannedBest } from './spans.ts'

/** A region of a layer that goes farther beyond what is below it than a printer lays without help. */
export interface HangingRegion {
  /** from 0 */
  readonly layer: number
  /** it is the underside of what lies between the middles of the layer below and of its own, mm */
  readonly low: number
  readonly high: number
  /** with nothing of it on what is below; held at one of its sides; held at both ends of each of its lines */
  readonly kind: 'begins' | 'reaches' | 'spans'
  readonly rings: readonly Ring[]
  /** how far it reaches out from what is below; how long the longest of its lines is, mm */
  readonly long: number
  /** the lines that bridge it */
  readonly lines?: readonly SpannedLine[]
}

export interface HangingOptions {
  readonly heights: LayerHeights
  readonly lineWidth: number
  /** how far off upright it may lean without help, degrees */
  readonly overhang: number
  /** all places that have room for a line, see `laidGroups` */
  readonly places: readonly LaidPlace[]
  /** of other solids printed with it, which carry it where they lie right below */
  readonly others: readonly Pick<Sections, 'at'>[]
  pause?(): Promise<void>
}

/** What has something no farther below it than this lies on it: it droops that far, mm. */
export const carriedOver = 1
/** Off upright by this it lies flat, degrees: what may lean so far may lean anyhow, but begin on nothing. */
const flat = 89.9
/** What goes beyond by less is that of its flats and of rounded numbers, mm. */
const hardlyBeyond = 3e-4
/** A smaller region is one of these, mm². */
const leastArea = 1e-3
/** What is narrower than twice this is none, mm. */
const hair = 5e-4
/** Along more than this share of its side a strip is free: it is no bridge. */
const mostlyFree = 0.3
/** As shares of a region: what is all of it, and what is none. */
const [all, none] = [0.98, 0.02]

/**
 * What of a solid goes farther beyond what is below it, from the middle of a layer to that of the next, than `overhang` allows: each layer
 * against the one below it, as a printer lays them. What has something not far below it, its own or of others, lies on that; what stands in
 * its lowest layer stands on the bed.
 */
export async function hangingRegions(
  kernel: Kernel,
  sections: Pick<Sections, 'at'> & { ledges(overhang: number): Pick<Ledges, 'areBetween'> },
  { heights, lineWidth, overhang, places, others, pause }: HangingOptions,
): Promise<readonly HangingRegion[]> {
  const ledges = sections.ledges(overhang)
  const slope = overhang < flat ? Math.tan((overhang * Math.PI) / 180) : Number.POSITIVE_INFINITY
  const byLayer = new Map<number, LaidPlace[]>()
  for (const place of places) {
    const own = byLayer.get(place.layer)
    if (own) own.push(place)
    else byLayer.set(place.layer, [place])
  }
  const layers = [...byLayer.keys()].sort((a, b) => a - b)
  const laidOf = laidIn(sections, heights, byLayer)
  const out: HangingRegion[] = []
  for (const layer of layers.slice(1)) {
    await pause?.()
    const [{ rings, bodies }, { rings: under, isAll }] = [laidOf(layer), laidOf(layer - 1)]
    if (rings === under) continue
    const [low, high] = [layerMiddle(layer - 1, heights), layerMiddle(layer, heights)]
    const regions = kernel.scope((scope): HangingRegion[] => {
      const about = { layer, low, high }
      const by = (high - low) * slope + hardlyBeyond
      const own = bodies.flatMap(({ body, inside }) => (insideRings(under, inside) ? [] : [body]))
      const mayReach = Number.isFinite(by) && (!isAll || ledges.areBetween(low, high))
      const isFar = mayReach && large(scope.beyond(rings, under, by)).length > 0
      if (own.length === 0 && !isFar) return []
      const carriers = carriersOf(laidOf, others, heights, layer)
      const held = [...under, ...carriers]
      const begun = own.filter((body) => scope.commonArea(body, held) < leastArea)
      const begins = begun.map((body): HangingRegion => ({ ...about, kind: 'begins', rings: body, long: 0 }))
      if (!isFar) return begins
      const rest = begun.length === 0 ? rings : bodies.flatMap(({ body }) => (begun.includes(body) ? [] : body))
      // Without the hairs that are left where sides nearly lie on each other.
      const more = scope.inset(scope.withoutRegions(rest, held), hair, { sharp: true })
      const open = large(scope.inset(more, -hair, { sharp: true }))
      const loose = bodiesOf(open)
      const beyond = sharedOut(scope, loose, scope.beyond(open, held, by))
      const unheld = sharedOut(scope, loose, scope.beyond(beyond.flat(), held, lineWidth))
      const sides = new RingSides(held)
      const hangs = loose.flatMap((region, i) => {
        const far = large(beyond[i]!)
        if (far.length === 0) return []
        // No line as wide as that has nothing at all below it: what is held along both sides is bridged by less than two.
        const isStrip = large(unheld[i]!).length === 0
        return heldRegions(scope, { region, beyond: far, sides, isStrip }, lineWidth)
      })
      return [...begins, ...hangs.map((each) => ({ ...about, ...each }))]
    })
    out.push(...regions)
  }
  return out
}

/** Of what lies in one of these regions, which share nothing, the rings that lie in each. */
function sharedOut(
  scope: Scope,
  regions: readonly (readonly Ring[])[],
  rings: readonly Ring[],
): readonly (readonly Ring[])[] {
  if (regions.length === 1) return [rings]
  const out = regions.map((): Ring[] => [])
  const cutOut = () => regions.map((region) => scope.commonRegions(rings, region))
  const boxes = regions.map((region) => boxAround(region.flat().map((p) => ({ min: p, max: p })))!)
  for (const body of bodiesOf(rings)) {
    const inside = pointInside(body)
    const box = inside && { min: inside, max: inside }
    const of = regions.findIndex((region, i) => box && boxesMeet(boxes[i]!, box, 0) && insideRings(region, inside))
    // Of what cannot be told apart, or to lie in one of them, each one's own is cut out.
    const isTold = of >= 0 && body.filter((ring) => ringArea(ring) > 0).length === 1
    if (isTold) out[of]!.push(...body)
    else if (large(body).length > 0) return cutOut()
  }
  return out
}

interface HeldRegion {
  readonly region: readonly Ring[]
  /** what of it goes too far */
  readonly beyond: readonly Ring[]
  /** of all that holds it, and others */
  readonly sides: RingSides
  readonly isStrip: boolean
}

/** A region that is held at some of its sides, as what is bridged of it and what reaches out. */
function heldRegions(
  scope: Scope,
  { region, beyond, sides, isStrip }: HeldRegion,
  lineWidth: number,
): readonly Pick<HangingRegion, 'kind' | 'rings' | 'long' | 'lines'>[] {
  const own = sidesOf(region, (place) => sides.isFilledAt(place))
  const reaching = (rings: readonly Ring[]) => ({ kind: 'reaches', rings, long: farthest(rings, sides) }) as const
  if (isStrip && freeShare(own) > mostlyFree) return [reaching(region)]
  const { lines, longest, freeArea, pitch } = spannedBest(own, beyond, lineWidth)
  const free = freeArea / areaOf(beyond)
  if (free < none) return [{ kind: 'spans', long: longest, rings: region, lines }]
  if (free > all || longest === 0) return [reaching(region)]
  const freeLines = lines.filter(({ isHeld }) => !isHeld).map((line) => stripOf(line, pitch))
  const hanging = scope.commonRegions(region, freeLines)
  const bridged = large(scope.withoutRegions(region, hanging))
  const heldLines = lines.filter(({ isHeld }) => isHeld)
  return [{ kind: 'spans' as const, long: longest, rings: bridged, lines: heldLines }, reaching(hanging)].filter(
    ({ rings }) => rings.length > 0,
  )
}

/** What is laid in a layer: of what it is filled with, all bodies that have room for a line, each with a place well inside of it. */
interface Laid {
  readonly rings: readonly Ring[]
  /** whether that is all that the solid has there */
  readonly isAll: boolean
  readonly bodies: readonly { readonly body: readonly Ring[]; readonly inside: Vec2 }[]
}

function laidIn(
  sections: Pick<Sections, 'at'>,
  heights: LayerHeights,
  byLayer: ReadonlyMap<number, readonly LaidPlace[]>,
): (layer: number) => Laid {
  const bodies = new WeakMap<readonly Ring[], (readonly Ring[])[]>()
  const known = new Map<number, Laid>()
  return (layer) => {
    const before = known.get(layer)
    if (before) return before
    const rings = sections.at(layerMiddle(layer, heights))
    const own = bodies.get(rings) ?? bodiesOf(rings)
    bodies.set(rings, own)
    const laid = own.flatMap((body) => {
      const place = (byLayer.get(layer) ?? []).find(({ inside }) => insideRings(body, inside))
      return place ? [{ body, inside: place.inside }] : []
    })
    // The very same rings where all of them are: layers of a prism are not compared.
    const isAll = laid.length === own.length
    const kept = { rings: isAll ? rings : laid.flatMap(({ body }) => body), isAll, bodies: laid }
    known.set(layer, kept)
    // What lies far below nothing lies on.
    for (const other of known.keys())
      if (layerBottom(layer, heights) - layerBottom(other + 1, heights) > 2 * carriedOver) known.delete(other)
    return kept
  }
}

/** What lies a little below a layer, but for what is in the one right below it: what is laid of it, and sections of others. */
function carriersOf(
  laidOf: (layer: number) => Laid,
  others: HangingOptions['others'],
  heights: LayerHeights,
  layer: number,
): readonly Ring[] {
  const bottom = layerBottom(layer, heights)
  const out = new Set<readonly Ring[]>()
  for (let k = layer - 1; k >= 0 && bottom - layerBottom(k + 1, heights) <= carriedOver; k--) {
    const z = layerMiddle(k, heights)
    if (k < layer - 1) out.add(laidOf(k).rings)
    for (const other of others) out.add(other.at(z))
  }
  return [...out].flat()
}

/** Regions large enough to be told. */
function large(rings: readonly Ring[]): readonly Ring[] {
  return rings.length > 0 && areaOf(rings) > leastArea ? rings : []
}

function areaOf(rings: readonly Ring[]): number {
  return rings.reduce((sum, ring) => sum + ringArea(ring), 0)
}

/** The share of a region's side that lies beside nothing that holds it. */
function freeShare(sides: readonly Side[]): number {
  let [free, whole] = [0, 0]
  for (const { a, b, isHeld } of sides) {
    const long = distance2(a, b)
    whole += long
    if (!isHeld) free += long
  }
  return free / whole
}

/** A line as wide as the way to the next. */
function stripOf({ from, to, long }: SpannedLine, pitch: number): Ring {
  const [x, y] = [(to[0] - from[0]) / long, (to[1] - from[1]) / long].map((each) => (each * pitch) / 2) as [
    number,
    number,
  ]
  return [
    [from[0] + y, from[1] - x],
    [to[0] + y, to[1] - x],
    [to[0] - y, to[1] + x],
    [from[0] - y, from[1] + x],
  ]
}

/** How far the farthest corner of a region is from what holds it, mm. */
function farthest(region: readonly Ring[], held: RingSides): number {
  return region.flat().reduce((far, p) => Math.max(far, held.distanceFrom(p, far)), 0)
}
