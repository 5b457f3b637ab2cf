import type { Ring, Scope, Solid } from '../../kernel/index.ts'
import { compose, type Frame, inverse, isMirrored, meet, moved, pointOut, world } from '../../place/index.ts'
import { adds, type BodyOperand, type Operand } from '../../planning/index.ts'
import { tried } from '../../problems/index.ts'
import type { Prism, ShapeContext } from '../../shapes/index.ts'
import { nearness } from '../runs.ts'
import { areApart } from './apart.ts'
import { CarvedRegion, type RegionSource } from './carvedRegion.ts'

/**
 * Many cuts straight through one prism are a matter of its outline: they are taken from it in the plane, and the rest is
 * extruded. Measured five to ten times faster than in space, where there are many of them; with few, it is the order of
 * the operations that makes an edit fast, so these stay as they are.
 */
export interface Carving {
  readonly base: BodyOperand
  readonly cuts: readonly BodyOperand[]
}

/** From so many copies on, cuts are made in the plane. */
export const mostInSpace = 150

/** What of these operands is done in the plane. What is edited stays out, unless it is many by itself. */
export function carvingsOf(
  all: readonly Operand[],
  recentlyEdited: ReadonlySet<string>,
  fineness: number,
): readonly Carving[] {
  // What works on all that stands would find another solid.
  if (!all.every((operand) => operand.kind === 'body')) return []
  const operands = all as readonly BodyOperand[]
  if (operands.reduce((sum, { copies }) => sum + copies.length, 0) < mostInSpace) return []
  const taken = new Set<BodyOperand>()
  return operands.flatMap((base, at): Carving[] => {
    const prism = adds(base) && base.copies.length === 1 ? prismOf(base, 0, fineness) : undefined
    if (!prism) return []
    const others = operands.map((other, i) => (adds(other) && i !== at ? other : undefined))
    const cuts = operands.slice(at + 1).filter((cut, i) => {
      if (cut.operation.material !== 'less' || taken.has(cut)) return false
      if (recentlyEdited.has(cut.step.id) && cut.copies.length < mostInSpace) return false
      // What was added elsewhere before it must not be cut by it as well.
      const meets = others.slice(0, at + 1 + i).some((other) => other && meet(other.box, cut.box, nearness))
      if (meets) return false
      return cut.copies.every((_, k) => passes(cut, k, base, prism, fineness))
    })
    if (cuts.reduce((sum, { copies }) => sum + copies.length, 0) < mostInSpace) return []
    for (const cut of cuts) taken.add(cut)
    return [{ base, cuts }]
  })
}

function prismOf(
  { body, copies, cuts, through, overlap }: BodyOperand,
  index: number,
  fineness: number,
): Prism | undefined {
  if (body.kind !== 'shape') return undefined
  const { values, up } = copies[index]!
  const context: Omit<ShapeContext, 'scope'> = { fineness, cuts, through, up, overlap }
  // What fails here fails in space as well, where it is told.
  return tried(() => body.shape.prism?.(values, context))
}

/** Where a copy of a cut stands in the frame of the base. */
function within(base: BodyOperand, cut: BodyOperand, index: number): Frame {
  return compose(inverse(base.copies[0]!.frame), cut.copies[index]!.frame)
}

/** Whether a copy of a cut is a prism along the base's own axis, from below it to above it. */
function passes(cut: BodyOperand, index: number, base: BodyOperand, { low, high }: Prism, fineness: number): boolean {
  const prism = prismOf(cut, index, fineness)
  if (!prism) return false
  const { origin, n } = within(base, cut, index)
  if (Math.abs(Math.abs(n[2]) - 1) > 1e-12) return false
  const ends = [prism.low, prism.high].map((z) => origin[2] + n[2] * z)
  return Math.min(...ends) <= low && Math.max(...ends) >= high
}

/** The carved solid where it stands, what its surfaces came from, and which of the cuts took nothing. */
export function carved(scope: Scope, { base, cuts }: Carving, fineness: number) {
  const prism = prismOf(base, 0, fineness)!
  const outline = prism.rings()
  const sources: RegionSource[] = [sourceOf(base, 0, world)]
  const rings: (readonly Ring[])[] = [outline]
  const idle: number[] = []
  /** where each cut's rings begin */
  const first: number[] = []
  cuts.forEach((cut) => {
    const own = cut.copies.map((_, k) => {
      const frame = within(base, cut, k)
      sources.push(sourceOf(cut, k, frame))
      return prismOf(cut, k, fineness)!
        .rings()
        .map((ring) => placedRing(ring, frame))
    })
    rings.push(...own)
    first.push(rings.length - own.length)
  })
  const tools = rings.slice(1).flat()
  // Holes apart from one another and from the outline are rings of the outline as they are.
  const apart = areApart(outline, tools)
  const rest = apart
    ? [...outline, ...tools.map((ring) => [...ring].reverse())]
    : scope.withoutRegions(outline, tools).map((ring) => snapped(ring, outline))
  if (!apart)
    cuts.forEach((_, i) => {
      const own = rings.slice(first[i], first[i + 1]).flat()
      if (scope.commonArea(outline, own) < 1e-9) idle.push(i)
    })
  const flat = rest.length > 0 ? scope.extrude(rest, prism.high - prism.low) : scope.union([])
  const { solid, id } = scope.original(scope.placed(flat, moved(world, [0, 0, prism.low])))
  const placed: Solid = scope.placed(solid, base.copies[0]!.frame)
  return { solid: placed, id, region: new CarvedRegion(sources, rings), idle }
}

function sourceOf({ step, body, copies, cuts }: BodyOperand, index: number, frame: Frame): RegionSource {
  if (body.kind !== 'shape') throw new Error(`${step.id} is no shape`)
  const { number, values } = copies[index]!
  return { step: step.id, copy: number, shape: body.shape, values, cuts, frame }
}

/** A ring in the plane of the base. Seen from its back, or mirrored, it is run the other way round. */
function placedRing(ring: Ring, frame: Frame): Ring {
  const placed = ring.map(([x, y]) => {
    const p = pointOut(frame, [x, y, 0])
    return [p[0], p[1]] as const
  })
  return frame.n[2] < 0 !== isMirrored(frame) ? placed.reverse() : placed
}

/** How far the library's plane rounds coordinates, mm. */
const planeRounding = 5e-8

/**
 * Coordinates that the plane rounded, as they were: a flat that lay in one plane with another solid's must still do so to
 * the last digit.
 */
function snapped(ring: Ring, outline: readonly Ring[]): Ring {
  const marks = ([0, 1] as const).map((i) => [...new Set(outline.flat().map((p) => p[i]))].sort((a, b) => a - b))
  const snap = (value: number, known: readonly number[]) => {
    let [low, high] = [0, known.length - 1]
    while (low < high) {
      const middle = (low + high) >> 1
      if (known[middle]! < value - planeRounding) low = middle + 1
      else high = middle
    }
    const near = known[low]!
    return Math.abs(near - value) <= planeRounding ? near : value
  }
  return ring.map(([x, y]) => [snap(x, marks[0]!), snap(y, marks[1]!)] as const)
}
