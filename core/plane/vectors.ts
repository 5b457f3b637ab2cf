/** A point or direction of the plane, mm. */
export type Vec2 = readonly [number, number]

/** A closed flat outline, counter-clockwise; further rings in a list bound holes when they run clockwise. */
export type Ring = readonly Vec2[]

export const plus = (a: Vec2, b: Vec2): Vec2 => [a[0] + b[0], a[1] + b[1]]
export const minus = (a: Vec2, b: Vec2): Vec2 => [a[0] - b[0], a[1] - b[1]]
export const times = (a: Vec2, by: number): Vec2 => [a[0] * by, a[1] * by]
export const dot2 = (a: Vec2, b: Vec2): number => a[0] * b[0] + a[1] * b[1]
/** Positive where b lies to the left of a. */
export const cross2 = (a: Vec2, b: Vec2): number => a[0] * b[1] - a[1] * b[0]
export const norm2 = (a: Vec2): number => Math.hypot(a[0], a[1])
export const distance2 = (a: Vec2, b: Vec2): number => Math.hypot(a[0] - b[0], a[1] - b[1])
/** A quarter turn to the left. */
export const leftOf = (a: Vec2): Vec2 => [-a[1], a[0]]
export const between2 = (a: Vec2, b: Vec2, t: number): Vec2 => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]

/** Of length 1; the null vector stays as it is. */
export function unit2(a: Vec2): Vec2 {
  const long = norm2(a)
  return long === 0 ? a : [a[0] / long, a[1] / long]
}

/** A motion of the plane, possibly mirrored: p -> origin + x·u + y·v. */
export interface Motion2 {
  readonly origin: Vec2
  readonly u: Vec2
  readonly v: Vec2
}
export const stay: Motion2 = { origin: [0, 0], u: [1, 0], v: [0, 1] }

export function movedBy({ origin, u, v }: Motion2, p: Vec2): Vec2 {
  return [origin[0] + p[0] * u[0] + p[1] * v[0], origin[1] + p[0] * u[1] + p[1] * v[1]]
}
/** Where `movedBy` brings to p; the motion keeps sizes. */
export function movedBackBy({ origin, u, v }: Motion2, p: Vec2): Vec2 {
  const d = minus(p, origin)
  return [dot2(d, u), dot2(d, v)]
}
export function turnedBy({ u, v }: Motion2, d: Vec2): Vec2 {
  return [d[0] * u[0] + d[1] * v[0], d[0] * u[1] + d[1] * v[1]]
}
/** Twice the signed area is the sum of cross products; positive for a ring that runs counter-clockwise, mm². */
export function ringArea(ring: Ring): number {
  let twice = 0
  for (let i = 0; i < ring.length; i++) twice += cross2(ring[i]!, ring[(i + 1) % ring.length]!)
  return twice / 2
}

/** Whether a point lies inside rings, counted by how often a ray leaves them (even and odd). */
export function insideRings(rings: readonly Ring[], [x, y]: Vec2): boolean {
  let inside = false
  for (const ring of rings)
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const [a, b] = [ring[i]!, ring[j]!]
      if (a[1] > y !== b[1] > y && x < ((b[0] - a[0]) * (y - a[1])) / (b[1] - a[1]) + a[0]) inside = !inside
    }
  return inside
}

/** How far a point is from the straight side from a to b, mm. */
export function offSide([x, y]: Vec2, [ax, ay]: Vec2, [bx, by]: Vec2): number {
  const [ux, uy] = [bx - ax, by - ay]
  const long = ux * ux + uy * uy
  const t = long > 0 ? Math.min(1, Math.max(0, ((x - ax) * ux + (y - ay) * uy) / long)) : 0
  return Math.hypot(x - ax - t * ux, y - ay - t * uy)
}
