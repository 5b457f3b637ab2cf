/// <reference path="./cdt2d.d.ts" />
import cdt2d from 'cdt2d'
import { orient2d } from 'robust-predicates'
import { subtract, type Vec3 } from '../place/index.ts'

/** A polygon of less than this share of the square of its size has no area to speak of. */
const noArea = 1e-9

/** Areas that differ by less than this share are the same. */
const sameArea = 1e-6

type Point = readonly [number, number]

/**
 * Triangles of a polygon with any number of corners, concave or not, that run as its corners do: places in `corners`, three for each.
 * All corners are used, those half way along a straight side too: a neighbour may end there. A hole is told as part of the polygon, by a
 * side to it and back. Empty where the polygon has no area; undefined where its sides cross, as nothing tells what they enclose.
 *
 * Constrained Delaunay triangulation (L. P. Chew, "Constrained Delaunay triangulations", 1989) as it is seen from where it is largest.
 */
export function polygonTriangles(corners: readonly Vec3[]): readonly number[] | undefined {
  const ring = corners.flatMap((corner, i) => (isSame(corner, corners[(i + 1) % corners.length]!) ? [] : [i]))
  const normal = doubledAreas(ring.map((i) => corners[i]!))
  const size = Math.max(...ring.map((i) => Math.hypot(...subtract(corners[i]!, corners[ring[0]!]!))))
  if (ring.length < 3 || Math.hypot(...normal) <= noArea * size * size) return []
  if (ring.length === 3) return ring
  const along = [0, 1, 2].reduce((best, k) => (Math.abs(normal[k]!) > Math.abs(normal[best]!) ? k : best))
  const flat = ring.map((i): Point => [corners[i]![(along + 1) % 3]!, corners[i]![(along + 2) % 3]!])
  const turned = normal[along]! > 0 ? 1 : -1
  const found = isConvexQuad(flat) ? [0, 1, 2, 0, 2, 3] : triangulated(flat, turned, Math.abs(normal[along]!))
  return found?.map((i) => ring[i]!)
}

function isSame(a: Vec3, b: Vec3): boolean {
  return a.every((x, k) => x === b[k])
}

/** Twice the area of a polygon as it is seen along each axis (M. E. Newell's sums). */
function doubledAreas(corners: readonly Vec3[]): Vec3 {
  const [origin] = corners
  const sums: [number, number, number] = [0, 0, 0]
  corners.forEach((corner, i) => {
    const a = subtract(corner, origin!)
    const b = subtract(corners[(i + 1) % corners.length]!, origin!)
    for (let k = 0; k < 3; k++) sums[k]! += a[(k + 1) % 3]! * b[(k + 2) % 3]! - a[(k + 2) % 3]! * b[(k + 1) % 3]!
  })
  return sums
}

const doubledArea = (a: Point, b: Point, c: Point) => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])

function isConvexQuad(flat: readonly Point[]): boolean {
  if (flat.length !== 4) return false
  const turns = flat.map((point, i) => Math.sign(doubledArea(point, flat[(i + 1) % 4]!, flat[(i + 2) % 4]!)))
  return turns.every((turn) => turn !== 0 && turn === turns[0])
}

/** `turned`: 1 where the corners run counter-clockwise. Undefined where the triangles are not bounded by the sides, or not `area` (twice). */
function triangulated(flat: readonly Point[], turned: 1 | -1, area: number): readonly number[] | undefined {
  // A corner that comes again, at the end of a cut, is the same one.
  const places = new Map<string, number>()
  const corners: number[] = []
  const own = flat.map((point, i) => {
    const key = point.join(' ')
    if (!places.has(key)) places.set(key, corners.push(i) - 1)
    return places.get(key)!
  })
  const sides = new Map<string, readonly [number, number]>()
  own.forEach((from, i) => {
    const to = own[(i + 1) % own.length]!
    // There and back is a cut: it bounds nothing.
    if (!sides.delete(`${to} ${from}`)) sides.set(`${from} ${to}`, [from, to])
  })
  const points = corners.map((i) => flat[i]!)
  if (doCross([...sides.values()], points)) return undefined
  const found = cdt2d(points, [...sides.values()], { exterior: false })
  let sum = 0
  const out: number[] = []
  const bounds = new Set<string>()
  for (const [a, b, c] of found) {
    const doubled = doubledArea(points[a]!, points[b]!, points[c]!)
    sum += Math.abs(doubled)
    const runs = doubled * turned > 0 ? [a, b, c] : [a, c, b]
    out.push(...runs.map((i) => corners[i]!))
    runs.forEach((from, i) => {
      const to = runs[(i + 1) % 3]!
      if (!bounds.delete(`${to} ${from}`)) bounds.add(`${from} ${to}`)
    })
  }
  const isBounded = bounds.size === sides.size && [...sides.keys()].every((side) => bounds.has(side))
  return isBounded && Math.abs(sum - area) <= sameArea * area ? out : undefined
}

/** Whether any two sides meet elsewhere than at a corner of both, to the last digit: the triangulation relies on it that none do. */
function doCross(sides: readonly (readonly [number, number])[], points: readonly Point[]): boolean {
  const left = ([a, b]: readonly [number, number]) => Math.min(points[a]![0], points[b]![0])
  const right = ([a, b]: readonly [number, number]) => Math.max(points[a]![0], points[b]![0])
  const fromLeft = sides.toSorted((a, b) => left(a) - left(b))
  return fromLeft.some((side, i) => {
    const end = right(side)
    for (let k = i + 1; k < fromLeft.length && left(fromLeft[k]!) <= end; k++)
      if (cross(side, fromLeft[k]!, points)) return true
    return false
  })
}

function cross(
  [a, b]: readonly [number, number],
  [c, d]: readonly [number, number],
  points: readonly Point[],
): boolean {
  const [p, q, r, s] = [points[a]!, points[b]!, points[c]!, points[d]!]
  if (Math.max(p[1], q[1]) < Math.min(r[1], s[1]) || Math.max(r[1], s[1]) < Math.min(p[1], q[1])) return false
  if (c !== a && c !== b && isOn(r, p, q)) return true
  if (d !== a && d !== b && isOn(s, p, q)) return true
  if (a !== c && a !== d && isOn(p, r, s)) return true
  if (b !== c && b !== d && isOn(q, r, s)) return true
  return exactSide(p, q, r) * exactSide(p, q, s) < 0 && exactSide(r, s, p) * exactSide(r, s, q) < 0
}

/** Which side of the line through `a` and `b` a point lies on, exactly (J. R. Shewchuk's adaptive predicate): -1, 0 or 1. */
function exactSide(a: Point, b: Point, point: Point): number {
  return Math.sign(orient2d(a[0], a[1], b[0], b[1], point[0], point[1]))
}

function isOn(point: Point, a: Point, b: Point): boolean {
  const isWithin = (x: number, one: number, other: number) => x >= Math.min(one, other) && x <= Math.max(one, other)
  return isWithin(point[0], a[0], b[0]) && isWithin(point[1], a[1], b[1]) && exactSide(a, b, point) === 0
}
