import type { AnyValues } from '../fields/index.ts'
import type { Ring, Scope, Solid } from '../kernel/index.ts'
import {
  compose,
  directionIn,
  type Frame,
  inverse,
  isMirrored,
  meet,
  moved,
  pointIn,
  pointOut,
  type Vec3,
  world,
} from '../place/index.ts'
import type { Operand } from '../planning/index.ts'
import { tried } from '../problems/index.ts'
import type { Prism, ShapeContext, ShapeDefinition } from '../shapes/index.ts'
import { nearness } from './runs.ts'

/**
 * Many cuts straight through one prism are a matter of its outline: they are taken from it in the plane, and the rest is
 * extruded. Measured five to ten times faster than in space, where there are many of them; with few, it is the order of
 * the operations that makes an edit fast, so these stay as they are.
 */
export interface Carving {
  readonly base: Operand
  readonly cuts: readonly Operand[]
}

/** From so many copies on, cuts are made in the plane. */
export const mostInSpace = 150

/** What of these operands is done in the plane. What is edited stays out, unless it is many by itself. */
export function carvingsOf(
  operands: readonly Operand[],
  recentlyEdited: ReadonlySet<string>,
  fineness: number,
): readonly Carving[] {
  if (operands.reduce((sum, { copies }) => sum + copies.length, 0) < mostInSpace) return []
  const taken = new Set<Operand>()
  return operands.flatMap((base, at): Carving[] => {
    const prism = base.step.effect === 'add' && base.copies.length === 1 ? prismOf(base, 0, fineness) : undefined
    if (!prism) return []
    const others = operands.map((other, i) => (other.step.effect === 'add' && i !== at ? other : undefined))
    const cuts = operands.slice(at + 1).filter((cut, i) => {
      if (cut.step.effect !== 'cut' || taken.has(cut)) return false
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
  { body, copies, cuts, through, overlap }: Operand,
  index: number,
  fineness: number,
): Prism | undefined {
  if (body.kind !== 'shape') return undefined
  const { values, up } = copies[index]!
  const context: Omit<ShapeContext, 'scope'> = { fineness, cuts, through, up, overlap }
  // What fails here fails in space as well, where it is told.
  return tried(() => body.shape.prism?.(values as never, context))
}

/** Where a copy of a cut stands in the frame of the base. */
function within(base: Operand, cut: Operand, index: number): Frame {
  return compose(inverse(base.copies[0]!.frame), cut.copies[index]!.frame)
}

/** Whether a copy of a cut is a prism along the base's own axis, from below it to above it. */
function passes(cut: Operand, index: number, base: Operand, { low, high }: Prism, fineness: number): boolean {
  const prism = prismOf(cut, index, fineness)
  if (!prism) return false
  const { origin, n } = within(base, cut, index)
  if (Math.abs(Math.abs(n[2]) - 1) > 1e-12) return false
  const ends = [prism.low, prism.high].map((z) => origin[2] + n[2] * z)
  return Math.min(...ends) <= low && Math.max(...ends) >= high
}

/** One copy of a step, as what the outline of a carved solid came from. */
export interface RegionSource {
  readonly step: string
  /** its number, from 1 */
  readonly copy: number
  readonly shape: ShapeDefinition
  readonly values: AnyValues
  readonly cuts: boolean
  /** in the frame of the base */
  readonly frame: Frame
}

/** What the surfaces of a carved solid came from: flats from the base, walls from whose outline they are on. */
export class CarvedRegion {
  readonly #sources: readonly RegionSource[]
  readonly #rings: readonly (readonly Ring[])[]
  /** cell -> numbers of edges */
  readonly #cells = new Map<string, number[]>()
  readonly #edges: { readonly a: Ring[number]; readonly b: Ring[number]; readonly source: number }[] = []
  #cell = 0

  constructor(sources: readonly RegionSource[], rings: readonly (readonly Ring[])[]) {
    this.#sources = sources
    this.#rings = rings
  }

  /** The copy that a surface point of the carved solid belongs to, and the point and its normal in that copy's frame. */
  sourceAt(
    point: Vec3,
    normal: Vec3,
  ): { readonly index: number; readonly source: RegionSource; point: Vec3; normal: Vec3 } {
    const index = Math.abs(normal[2]) > 0.5 ? 0 : this.nearest(point[0], point[1])
    const source = this.#sources[index]!
    const outward = directionIn(source.frame, normal)
    return {
      index,
      source,
      point: pointIn(source.frame, point),
      normal: source.cuts ? [-outward[0], -outward[1], -outward[2]] : outward,
    }
  }

  private nearest(x: number, y: number): number {
    if (this.#edges.length === 0) this.indexEdges()
    let best = { source: 0, away: Infinity }
    const [cx, cy] = [Math.floor(x / this.#cell), Math.floor(y / this.#cell)]
    for (let i = cx - 1; i <= cx + 1; i++)
      for (let k = cy - 1; k <= cy + 1; k++)
        for (const e of this.#cells.get(`${i} ${k}`) ?? []) {
          const { a, b, source } = this.#edges[e]!
          const away = distanceTo(a, b, x, y)
          if (away < best.away) best = { source, away }
        }
    return best.source
  }

  private indexEdges(): void {
    const outline = this.#rings[0]!.flat()
    const extent = (i: 0 | 1) => Math.max(...outline.map((p) => p[i])) - Math.min(...outline.map((p) => p[i]))
    this.#cell = Math.max(extent(0), extent(1), 1) / 128
    this.#rings.forEach((rings, source) => {
      for (const ring of rings)
        ring.forEach((a, i) => {
          const b = ring[(i + 1) % ring.length]!
          const edge = this.#edges.push({ a, b, source }) - 1
          const steps = Math.ceil(Math.hypot(b[0] - a[0], b[1] - a[1]) / this.#cell) + 1
          for (let s = 0; s <= steps; s++) {
            const t = s / steps
            const key = `${Math.floor((a[0] + (b[0] - a[0]) * t) / this.#cell)} ${Math.floor((a[1] + (b[1] - a[1]) * t) / this.#cell)}`
            const cell = this.#cells.get(key)
            if (!cell) this.#cells.set(key, [edge])
            else if (cell.at(-1) !== edge) cell.push(edge)
          }
        })
    })
  }
}

function distanceTo(a: Ring[number], b: Ring[number], x: number, y: number): number {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]]
  const t = Math.min(1, Math.max(0, ((x - a[0]) * dx + (y - a[1]) * dy) / (dx * dx + dy * dy || 1)))
  return Math.hypot(a[0] + dx * t - x, a[1] + dy * t - y)
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

/** Whether all rings lie within the outline, and no two of them, by their boxes, come near each other. */
function areApart(outline: readonly Ring[], tools: readonly Ring[]): boolean {
  const [border, ...more] = outline
  if (!border || more.length > 0) return false
  const boxes = tools.map(boundsOf).sort((a, b) => a.left - b.left)
  const clear = 1e-6
  for (const [i, a] of boxes.entries()) {
    for (let k = i + 1; k < boxes.length && boxes[k]!.left <= a.right + clear; k++)
      if (boxes[k]!.low <= a.high + clear && a.low <= boxes[k]!.high + clear) return false
    if (!contains(border, a, clear)) return false
  }
  return true
}

interface Bounds {
  readonly left: number
  readonly right: number
  readonly low: number
  readonly high: number
}

function boundsOf(ring: Ring): Bounds {
  let [left, right, low, high] = [Infinity, -Infinity, Infinity, -Infinity]
  for (const [x, y] of ring) {
    left = Math.min(left, x)
    right = Math.max(right, x)
    low = Math.min(low, y)
    high = Math.max(high, y)
  }
  return { left, right, low, high }
}

/** Whether a rectangle lies within a ring: its middle does, and no edge of the ring comes into it. */
function contains(ring: Ring, { left, right, low, high }: Bounds, clear: number): boolean {
  const [x, y] = [(left + right) / 2, (low + high) / 2]
  const [wide, tall] = [(right - left) / 2 + clear, (high - low) / 2 + clear]
  let inside = false
  for (const [i, a] of ring.entries()) {
    const b = ring[(i + 1) % ring.length]!
    if (a[1] > y !== b[1] > y && x < ((b[0] - a[0]) * (y - a[1])) / (b[1] - a[1]) + a[0]) inside = !inside
    // Separated along x, along y, or across the edge; else they meet.
    const [ax, ay, bx, by] = [a[0] - x, a[1] - y, b[0] - x, b[1] - y]
    if (Math.min(ax, bx) > wide || Math.max(ax, bx) < -wide || Math.min(ay, by) > tall || Math.max(ay, by) < -tall)
      continue
    const [nx, ny] = [by - ay, ax - bx]
    if (Math.abs(nx * ax + ny * ay) <= Math.abs(nx) * wide + Math.abs(ny) * tall) return false
  }
  return inside
}

function sourceOf({ step, body, copies, cuts }: Operand, index: number, frame: Frame): RegionSource {
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
