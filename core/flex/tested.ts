import { findStep, type KeptFlex, type Part } from '../document/index.ts'
import type { AnyValues } from '../fields/index.ts'
import { evaluate } from '../measures/index.ts'
import type { Paced } from '../pacing/index.ts'
import { type Drawn, directionAt, lengthOf, pointAt, type Segment, type Vec2 } from '../plane/index.ts'
import type { ResolvedPart } from '../planning/index.ts'
import { attempt } from '../problems/index.ts'
import { type ShapeDefinition, type Sheet, sheetOfRings } from '../shapes/index.ts'
import { type Bent, bendingTouching, type Load } from './bending.ts'
import { crosses } from './contact.ts'
import { type FlexMesh, meshing, type Rim, type SizeAt } from './region.ts'

/** What a flex test comes to; `fault`: why it comes to nothing, in words. `loops`: round what it is of, where that is known. */
export type FlexResult = ({ readonly fault: string } | (FlexFound & { readonly fault?: undefined })) & {
  readonly loops?: Region['loops']
}

/** What a whole piece fills in the plane of the bed, by its id; undefined where it is no prism. */
export type PieceSheet = (piece: string) => Sheet | undefined

/** Whether a flex test is of a whole piece. */
export const isOfPiece = (part: Part, { of }: Pick<KeptFlex, 'of'>): boolean =>
  part.pieces.some(({ id }) => id === of) && !findStep(part, of)

export interface FlexFound extends Bent {
  readonly mesh: FlexMesh
  /** whether its edges still run through one another where it is bent */
  readonly touches: boolean
  /** from one corner of a triangle to the next where they are smallest, mm */
  readonly size: number
  /** what it comes to in triangles twice as large, where finer ones were asked for */
  readonly coarser?: Pick<Bent, 'force' | 'travel' | 'strain'>
}

/** Poisson's ratio of printed plastics, about. */
const poisson = 0.36
/** More would take too long: a test is run while a maker waits. */
const mostElements = 12_000
/** A curve turns by no more than this from one corner to the next, rad. */
const turn = 0.2

/** The region that a flex test is of, with the curves round it; the words that say why there is none. */
export function sheetOf({ steps, part }: ResolvedPart, flex: Pick<KeptFlex, 'of'>, ofPiece?: PieceSheet) {
  const id = flex.of
  if (isOfPiece(part, flex)) {
    const sheet = ofPiece?.(id)
    if (!sheet) return { fault: 'A flex test needs one thickness and upright walls on all of the piece.' } as const
    return { sheet, material: part.material } as const
  }
  const step = steps.get(id)
  if (!step) return { fault: 'The step that it tests is gone: choose another one.' } as const
  if (!step.values || !step.shape || !step.present)
    return { fault: 'The step that it tests is not there, or has a problem.' } as const
  const sheet = sheetIn(step.shape, step.values)
  if (!sheet)
    return {
      fault:
        'It can test what is flat and upright: an extrusion without taper or twist, a plate, a spring and the like.',
    } as const
  return { sheet, material: part.material } as const
}

/** How near flats of what is no drawing are to it, mm. */
const flats = 0.02

/** What of its plane a shape fills: as it says, or as a prism. */
function sheetIn(shape: ShapeDefinition, values: AnyValues): Sheet | undefined {
  if (shape.sheet) return shape.sheet(values)
  if (shape.operation !== 'add') return undefined
  const context = { fineness: flats, cuts: false, through: 0, up: [0, 0, 1], overlap: 0 } as const
  const prism = shape.prism?.(values, context)
  return prism && sheetOfRings(prism.rings(), prism.high - prism.low)
}

/** Runs a flex test; `ofPiece` tells what whole pieces fill. */
export function* flexTesting(resolved: ResolvedPart, flex: KeptFlex, ofPiece?: PieceSheet): Paced<FlexResult> {
  const found = sheetOf(resolved, flex, ofPiece)
  if (found.fault !== undefined) return found
  const result = yield* testedOf(resolved, flex, found)
  const { loops } = found.sheet.region
  if (result.fault !== undefined || flex.finer === 0) return { ...result, loops }
  const before = yield* testedOf(resolved, { ...flex, finer: flex.finer - 1 }, found)
  if (before.fault !== undefined) return { ...result, loops }
  const { force, travel, strain } = before
  return { ...result, loops, coarser: { force, travel, strain } }
}

function* testedOf(
  resolved: ResolvedPart,
  flex: KeptFlex,
  found: { readonly sheet: Sheet; readonly material: Part['material'] },
): Paced<FlexResult> {
  const names = resolved.measures.names
  const numbers = attempt(
    [],
    () =>
      [
        evaluate(flex.way, 'angle', names).value,
        flex.by === 'distance'
          ? evaluate(flex.distance, 'length', names).value
          : evaluate(flex.force, 'ratio', names).value,
      ] as const,
  )
  if (!numbers.ok) return { fault: numbers.problem.text }
  const [degrees, amount] = numbers.value
  const { region, thickness } = found.sheet
  const rims = edgesOf(region)
  const edges = [...new Set(rims.flatMap((rim) => rim.map(({ edge }) => edge)))]
  const tags = (all: readonly string[]) => all.map((edge) => edges.indexOf(edge)).filter((tag) => tag >= 0)
  const [held, pushed] = [tags(flex.held), tags(flex.pushed)]
  if (held.length === 0) return { fault: 'Nothing holds it yet: click the edge that is held.' }
  if (pushed.length === 0) return { fault: 'Nothing pushes it yet: click the edge that is pushed.' }
  if (held.some((tag) => pushed.includes(tag))) return { fault: 'One edge cannot be held and pushed.' }
  if (amount === 0) return { fault: 'A push of 0 bends nothing.' }
  const { mesh, size } = yield* meshed(region, rims, edges, 2 ** flex.finer)
  if (!mesh) return { fault: 'Its outline can’t be meshed: look for a stretch with next to no length.' }
  const way: Vec2 = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)]
  const load: Load = { held, pushed, way, by: flex.by, amount }
  yield
  const result = yield* bendingTouching(mesh, { stiffness: found.material.stiffness, poisson, thickness }, load, size)
  if (!result) return { fault: 'What is pushed hangs together with nothing that is held.' }
  if (!(result.reached > 0))
    return { fault: 'Under so much it gives way at once, before any of it can be told: push by less.' }
  return { ...result, mesh, size, touches: crosses(mesh, result.moved, size / 20) }
}

/** A stretch of the boundary of a region, and the edge that it is part of. */
export interface EdgeStretch {
  readonly edge: string
  readonly segment: Segment
}

/**
 * The boundary of a region, loop by loop, each stretch with the name of its edge: the curve that it was drawn as, and a number from its
 * second run or corner on, since the sides of a wall are all of one curve.
 */
export function edgesOf({ loops }: Pick<Drawn, 'loops'>): readonly (readonly EdgeStretch[])[] {
  const runs = new Map<string, number>()
  return loops.map(({ segments, curves }) => {
    let edge = ''
    return segments.map((segment, i) => {
      const curve = curves[i]!
      const before = i > 0 ? segments[i - 1] : undefined
      if (!before || curves[i - 1] !== curve || isCorner(before, segment)) {
        const run = (runs.get(curve) ?? 0) + 1
        runs.set(curve, run)
        edge = run === 1 ? curve : `${curve}#${run}`
      }
      return { segment, edge }
    })
  })
}

/** Whether the way breaks from one segment to the next. */
function isCorner(before: Segment, next: Segment): boolean {
  const [p, q] = [directionAt(before, 1), directionAt(next, 0)]
  return p[0] * q[0] + p[1] * q[1] < 0.985 * Math.hypot(...p) * Math.hypot(...q)
}

type Region = Sheet['region']

/** How large triangles are to be: the least of it, and at each place. */
interface Sizes {
  readonly least: number
  readonly at: SizeAt
}

/** Triangles are no larger than so many times the smallest ones. */
const largest = 8
/** So much larger they may be with each mm away from where they are to be small. */
const grows = 0.35
/** At an inner corner that is sharp they are as large as a printed line is round, mm: no corner is printed sharper. */
const sharp = 0.2
/** What turns by less than this is no corner, as a sine. */
const innerCorner = 0.2
/** Flats of a round are so long, by its radius, and so are triangles there. */
const onRound = 0.3

/**
 * Two triangles go through each place, however thin it is there, but for what is next to nothing of the boundary; more of them lie at
 * inner rounds and corners, where strain gathers.
 */
function* sizesFor(region: Region, finer: number): Paced<Sizes> {
  const mean = (2 * region.area()) / lengthOfAll(region)
  const seen = yield* acrossOf(region)
  const thinnest = Math.min(mean, quantile(seen, leastShare) ?? mean)
  const least = thinnest / 2 / finer
  const limited = (size: number, low: number) => Math.min(largest * least, Math.max(low, size))
  const seeds = [
    ...seen.map(({ from, away }) => ({ at: from, size: limited(away / 2 / finer, least) })),
    ...region.loops.flatMap(({ segments }) =>
      segments.flatMap((segment) =>
        segment.kind === 'arc' && segment.sweepRad < 0
          ? [0.1, 0.5, 0.9].map((share) => ({
              at: pointAt(segment, share),
              size: limited((onRound * segment.radius) / finer, least / 3),
            }))
          : [],
      ),
    ),
    ...region.loops.flatMap(({ segments }) =>
      segments.flatMap((segment, i) => {
        const isInner = turnAt(segment, segments[(i + 1) % segments.length]!) < -innerCorner
        return isInner ? [{ at: pointAt(segment, 1), size: limited(sharp / finer, least / 6) }] : []
      }),
    ),
  ].filter(({ size }) => size < largest * least)
  // Asked of each place of a mesh: as plain numbers.
  const flat = Float64Array.from(seeds.flatMap(({ at: [x, y], size }) => [x, y, size]))
  const at: SizeAt = ([x, y]) => {
    let size = largest * least
    for (let i = 0; i < flat.length; i += 3) {
      const reach = (size - flat[i + 2]!) / grows
      const dx = x - flat[i]!
      const dy = y - flat[i + 1]!
      const square = dx * dx + dy * dy
      if (reach > 0 && square < reach * reach) size = flat[i + 2]! + grows * Math.sqrt(square)
    }
    return size
  }
  return { least, at }
}

/** How far the way turns left from one segment to the next, as a sine. */
function turnAt(before: Segment, next: Segment): number {
  const [p, q] = [directionAt(before, 1), directionAt(next, 0)]
  return (p[0] * q[1] - p[1] * q[0]) / (Math.hypot(...p) * Math.hypot(...q))
}

const lengthOfAll = ({ loops }: Pick<Region, 'loops'>) =>
  loops.reduce((sum, { segments }) => sum + segments.reduce((all, segment) => all + lengthOf(segment), 0), 0)

/** How much of the boundary may be nearer to what is across than what counts as thinnest. */
const leastShare = 0.02
/** What looks back within this of straight is across, as a cosine. */
const across = 0.5
/** Into how many places the boundary is parted to look across. */
const places = 600

/** Between turns of others so many stretches are looked at. */
const atATime = 50

/** A stretch of the boundary: its middle, and how far that is from what is across the material; infinite where nothing is. */
interface Across {
  readonly from: Vec2
  readonly long: number
  readonly away: number
}

function* acrossOf(region: Region): Paced<readonly Across[]> {
  const step = lengthOfAll(region) / places
  const stretches = region.loops.flatMap(({ segments }) =>
    segments.flatMap((segment) => {
      const count = Math.max(segment.kind === 'line' ? 1 : 4, Math.ceil(lengthOf(segment) / step))
      return Array.from({ length: count }, (_, k) => {
        const [a, b] = [pointAt(segment, k / count), pointAt(segment, (k + 1) / count)]
        const long = Math.hypot(b[0] - a[0], b[1] - a[1])
        // The material lies to the left.
        return { a, b, long, inward: [(a[1] - b[1]) / long, (b[0] - a[0]) / long] as Vec2 }
      }).filter(({ long }) => long > 0)
    }),
  )
  // Each looks at all others: as plain numbers.
  const flat = Float64Array.from(stretches.flatMap(({ a, b, inward }) => [...a, ...b, ...inward]))
  const out: Across[] = []
  for (const [k, { a, b, long, inward }] of stretches.entries()) {
    if (k % atATime === 0) yield
    const [u, v] = inward
    const [x, y] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2]
    let away = Number.POSITIVE_INFINITY
    for (let i = 0; i < flat.length; i += 6) {
      if (flat[i + 4]! * u + flat[i + 5]! * v > -across) continue
      // Where the way inward meets it, if it does.
      const ax = flat[i]! - x
      const ay = flat[i + 1]! - y
      const bx = flat[i + 2]! - x
      const by = flat[i + 3]! - y
      const p = u * ay - v * ax
      const q = u * by - v * bx
      if (p * q > 0 || p === q) continue
      const share = p / (p - q)
      const far = (ax + share * (bx - ax)) * u + (ay + share * (by - ay)) * v
      if (far > 0 && far < away) away = far
    }
    out.push({ from: [x, y], long, away })
  }
  return out
}

/** What so much of the boundary is nearer than; undefined where that is next to nothing of it. */
function quantile(seen: readonly Across[], share: number): number | undefined {
  const whole = seen.reduce((sum, { long }) => sum + long, 0)
  let sum = 0
  for (const { away, long } of [...seen].sort((one, other) => one.away - other.away)) {
    sum += long
    if (sum >= share * whole) return Number.isFinite(away) ? away : undefined
  }
  return undefined
}

/** The mesh of a region; coarser than it was meant where that takes too many triangles. */
function* meshed(
  region: Region,
  rims: readonly (readonly EdgeStretch[])[],
  edges: readonly string[],
  finer: number,
): Paced<{ readonly mesh: FlexMesh | undefined; readonly size: number }> {
  const sizes = yield* sizesFor(region, finer)
  for (let coarser = 1; ; coarser *= 1.4) {
    const mesh = yield* meshing(
      rims.map((rim) => rimOf(rim, edges, coarser * sizes.least)),
      (p) => coarser * sizes.at(p),
    )
    if (!mesh || mesh.elements.length / 6 <= mostElements || coarser > 8) return { mesh, size: coarser * sizes.least }
  }
}

/** A closed rim as corners, so near to one another as its curves and the size of triangles ask for. */
function rimOf(rim: readonly EdgeStretch[], edges: readonly string[], size: number): Rim {
  const points: Vec2[] = []
  const tags: number[] = []
  for (const { segment, edge } of rim) {
    const parts = partsOf(segment, size)
    for (let k = 0; k < parts; k++) {
      points.push(pointAt(segment, k / parts))
      tags.push(edges.indexOf(edge))
    }
  }
  return { points, tags }
}

function partsOf(segment: Segment, size: number): number {
  if (segment.kind === 'line') return 1
  const bends =
    segment.kind === 'arc' || segment.kind === 'ellipse' ? Math.abs(segment.sweepRad) / turn : Math.PI / turn
  return Math.max(2, Math.ceil(bends), Math.ceil(lengthOf(segment) / size))
}
