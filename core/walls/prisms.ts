import type { Surface } from '../edges/index.ts'
import type { Ring, Scope, Solid } from '../kernel/index.ts'
import { bordersOf } from '../mesh/index.ts'
import {
  cross,
  dot,
  type Frame,
  frame,
  norm,
  perpendicular,
  scaled,
  sineCosine,
  subtract,
  type Vec3,
} from '../place/index.ts'
import { flatsRound } from '../plane/index.ts'

/** A body that goes straight up over an outline. */
export interface Prism {
  /** its n goes up, its foot lies in the plane of u and v */
  readonly at: Frame
  readonly rings: readonly Ring[]
  /** by ring: the face of the surface that each side is of, from one corner to the next */
  readonly sides: readonly (readonly number[])[]
  /** mm */
  readonly height: number
  /** the faces that its foot and its head are of */
  readonly low: readonly number[]
  readonly high: readonly number[]
}

/** What turns off an axis or lies off a level by less is rounding, as a sine and in mm. */
const square = 1e-7
const level = 1e-6
/** Flatter than this a triangle may look anywhere, mm². */
const sliver = 1e-7

/** The prism that a surface is, by the axis along which it is one; undefined where it is none. */
export function prismOf(surface: Surface): Prism | undefined {
  for (const axis of axesOf(surface)) {
    const found = prismAlong(surface, axis)
    if (found) return found
  }
  return undefined
}

/** The ways that its flat faces look, one for both ends, those with most triangles first: ends of rounds have most. */
function axesOf(surface: Surface): Vec3[] {
  const axes: { readonly axis: Vec3; count: number }[] = []
  for (const face of surface.solid.faces.keys()) {
    const axis = surface.flatFace(face)
    if (!axis) continue
    const count = surface.trianglesOf(face).length
    const known = axes.find((each) => Math.abs(dot(each.axis, axis)) > 1 - square)
    if (known) known.count += count
    else axes.push({ axis, count })
  }
  return axes
    .sort((a, b) => b.count - a.count)
    .slice(0, 4)
    .map(({ axis }) => axis)
}

function prismAlong(surface: Surface, axis: Vec3): Prism | undefined {
  const { triangles, faceOf } = surface.solid
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY]
  const heightOf = (h: number) => dot(axis, surface.at(surface.from(h)))
  for (let h = 0; h < triangles.length; h++) {
    const at = heightOf(h)
    low = Math.min(low, at)
    high = Math.max(high, at)
  }
  const ends = { low: new Set<number>(), high: new Set<number>() }
  const top: number[] = []
  for (let t = 0; t < triangles.length / 3; t++) {
    const heights = [3 * t, 3 * t + 1, 3 * t + 2].map(heightOf)
    if (heights.some((at) => at > low + level && at < high - level)) return undefined
    const isHigh = heights.map((at) => at > high - level)
    if (!isHigh.includes(false)) {
      top.push(t)
      ends.high.add(faceOf[t]!)
    } else if (!isHigh.includes(true)) ends.low.add(faceOf[t]!)
    else if (leans(surface, t, axis)) return undefined
  }
  const u = perpendicular(axis)
  const at = frame(scaled(axis, low), u, cross(axis, u))
  const borders = bordersOf(surface, top)
  const rings = borders.map((ring) =>
    ring.map((h) => {
      const p = surface.at(surface.from(h))
      return [dot(at.u, p), dot(at.v, p)] as const
    }),
  )
  const sides = borders.map((ring) => ring.map((h) => surface.face(surface.twin(h))))
  return { at, rings, sides, height: high - low, low: [...ends.low], high: [...ends.high] }
}

/** Whether a triangle is not square to an axis; where it is a sliver that tells nothing. */
function leans(surface: Surface, t: number, axis: Vec3): boolean {
  const [a, b, c] = [0, 1, 2].map((i) => surface.at(surface.from(3 * t + i))) as [Vec3, Vec3, Vec3]
  const across = cross(subtract(b, a), subtract(c, a))
  return norm(across) > sliver && Math.abs(dot(across, axis)) > square * norm(across)
}

/**
 * What lies deeper in a prism than each of its faces asks for, mm, or within it where that is below 0; empty where nothing does.
 * Undefined where its foot or its head asks for several sizes.
 */
export function deeperInPrism(
  scope: Scope,
  { at, rings, sides, height, ...ends }: Prism,
  size: (face: number) => number,
  fineness: number,
): Solid | undefined {
  const [low, high] = [ends.low, ends.high].map((faces) => {
    const sizes = new Set(faces.map(size))
    return sizes.size === 1 ? [...sizes][0]! : undefined
  })
  if (low === undefined || high === undefined) return undefined
  const inner = deeperInRings(
    scope,
    rings,
    sides.map((ring) => ring.map(size)),
    fineness,
  )
  if (height - low - high <= level || inner.length === 0) return scope.union([])
  const origin = scaled(at.n, dot(at.n, at.origin) + low)
  return scope.placed(scope.extrude(inner, height - low - high), { ...at, origin })
}

/** Flats that turn by less are those of a round: they go on until they meet, as a sine. */
const smoothTurn = Math.sin((23 * Math.PI) / 180)
/** How far what is cut off goes beyond what it is cut off from, mm. */
const clearance = 0.01

/** The region of all that lies as deep within rings as each of their sides asks for, mm, as rings. */
function deeperInRings(
  scope: Scope,
  rings: readonly Ring[],
  sizes: readonly (readonly number[])[],
  fineness: number,
): Ring[] {
  const [more, less]: [Ring[], Ring[]] = [[], []]
  rings.forEach((ring, r) => {
    const n = ring.length
    const sides = ring.map((a, i) => sideOf(a, ring[(i + 1) % n]!, sizes[r]![i]!))
    sides.forEach((side, i) => {
      const [before, after] = [sides[(i + n - 1) % n]!, sides[(i + 1) % n]!]
      const { a, b, along, size } = side
      if (size < 0) {
        more.push(stripOf(a, b, along, size, clearance))
        return
      }
      if (size === 0) return
      // A wall goes on past what is open beside it.
      const [from, to] = [before.size < 0 ? -clearance : 0, after.size < 0 ? clearance : 0]
      const [start, end] = [shifted(a, along, from), shifted(b, along, to)]
      less.push([
        across(start, along, -clearance),
        across(end, along, -clearance),
        isSmooth(side, after) ? mitre(b, side, after) : across(end, along, size),
        isSmooth(before, side) ? mitre(a, before, side) : across(start, along, size),
      ])
      // Round an inner corner all within its wall lies in a circle.
      if (turnOf(side, after) < 0 && !isSmooth(side, after))
        less.push(circleAt(b, Math.max(size, after.size), fineness))
    })
  })
  const whole = more.length > 0 ? scope.filled([...rings, ...more]) : rings
  return less.length > 0 ? scope.withoutRegions(whole, less) : [...whole]
}

type Point = readonly [number, number]

interface Side {
  readonly a: Point
  readonly b: Point
  /** unit */
  readonly along: Point
  readonly size: number
}

function sideOf(a: Point, b: Point, size: number): Side {
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1
  return { a, b, along: [(b[0] - a[0]) / length, (b[1] - a[1]) / length], size }
}

const shifted = (p: Point, along: Point, by: number): Point => [p[0] + along[0] * by, p[1] + along[1] * by]
/** To the left of a direction, which is inside. */
const across = (p: Point, along: Point, by: number): Point => [p[0] - along[1] * by, p[1] + along[0] * by]

/** The sine of the turn from one side to the next: above 0 where the corner is an outer one. */
function turnOf({ along: p }: Side, { along: q }: Side): number {
  return p[0] * q[1] - p[1] * q[0]
}

/** Whether two sides of one size turn inwards by so little that they are of one round. */
function isSmooth(one: Side, next: Side): boolean {
  const turn = turnOf(one, next)
  const ahead = one.along[0] * next.along[0] + one.along[1] * next.along[1] > 0
  return ahead && turn <= 0 && turn > -smoothTurn && one.size === next.size
}

/** Where two sides meet when both have moved in by their size. */
function mitre(p: Point, { along: one, size }: Side, { along: next }: Side): Point {
  const sum: Point = [one[0] + next[0], one[1] + next[1]]
  const half = Math.hypot(...sum)
  const middle: Point = [sum[0] / half, sum[1] / half]
  // The cosine of half of the turn.
  return across(p, middle, size / (half / 2))
}

/** Beside a side, from a little outside to `by` beyond it. */
function stripOf(a: Point, b: Point, along: Point, by: number, inside: number): Ring {
  return [across(a, along, by), across(b, along, by), across(b, along, inside), across(a, along, inside)]
}

/** With flats that touch a circle from outside. */
function circleAt([x, y]: Point, radius: number, fineness: number): Ring {
  const count = flatsRound(radius, fineness, true)
  const far = radius / Math.cos(Math.PI / count)
  return Array.from({ length: count }, (_, i) => {
    const [sine, cosine] = sineCosine((360 * (i + 0.5)) / count)
    return [x + far * cosine, y + far * sine]
  })
}
