import { add, cross, dot, norm, scaled, subtract, type Vec3 } from '../place/index.ts'

/** Where two things are nearest to each other, mm. */
export interface Near {
  readonly distance: number
  readonly from: Vec3
  readonly to: Vec3
}
export type Triangle = readonly [Vec3, Vec3, Vec3]

function near(from: Vec3, to: Vec3): Near {
  return { distance: norm(subtract(to, from)), from, to }
}

/** The place on a triangle that is nearest to a point. */
export function nearestOnTriangle(p: Vec3, [a, b, c]: Triangle): Vec3 {
  scratch.set(a)
  scratch.set(b, 3)
  scratch.set(c, 6)
  const [x, y, z] = nearestInto(scratch, p, found)
  return [x!, y!, z!]
}

const scratch = new Float64Array(9)
const found = new Float64Array(3)

/**
 * The place on a triangle, nine numbers, that is nearest to a point, into three numbers (Ericson, Real-Time Collision Detection, 2005,
 * 5.1.5). By its coordinates, without making vectors: trees ask it of a hundred triangles for each place.
 */
export function nearestInto(corners: Float64Array, [px, py, pz]: Vec3, to: Float64Array): Float64Array {
  const ax = corners[0]!
  const ay = corners[1]!
  const az = corners[2]!
  const bx = corners[3]!
  const by = corners[4]!
  const bz = corners[5]!
  const cx = corners[6]!
  const cy = corners[7]!
  const cz = corners[8]!
  const abx = bx - ax
  const aby = by - ay
  const abz = bz - az
  const acx = cx - ax
  const acy = cy - ay
  const acz = cz - az
  const d1 = abx * (px - ax) + aby * (py - ay) + abz * (pz - az)
  const d2 = acx * (px - ax) + acy * (py - ay) + acz * (pz - az)
  if (d1 <= 0 && d2 <= 0) return put(to, ax, ay, az)
  const d3 = abx * (px - bx) + aby * (py - by) + abz * (pz - bz)
  const d4 = acx * (px - bx) + acy * (py - by) + acz * (pz - bz)
  if (d3 >= 0 && d4 <= d3) return put(to, bx, by, bz)
  const vc = d1 * d4 - d3 * d2
  if (vc <= 0 && d1 >= 0 && d3 <= 0) {
    const share = d1 / (d1 - d3)
    return put(to, ax + abx * share, ay + aby * share, az + abz * share)
  }
  const d5 = abx * (px - cx) + aby * (py - cy) + abz * (pz - cz)
  const d6 = acx * (px - cx) + acy * (py - cy) + acz * (pz - cz)
  if (d6 >= 0 && d5 <= d6) return put(to, cx, cy, cz)
  const vb = d5 * d2 - d1 * d6
  if (vb <= 0 && d2 >= 0 && d6 <= 0) {
    const share = d2 / (d2 - d6)
    return put(to, ax + acx * share, ay + acy * share, az + acz * share)
  }
  const va = d3 * d6 - d5 * d4
  if (va <= 0 && d4 >= d3 && d5 >= d6) {
    const share = (d4 - d3) / (d4 - d3 + (d5 - d6))
    return put(to, bx + (cx - bx) * share, by + (cy - by) * share, bz + (cz - bz) * share)
  }
  const whole = va + vb + vc
  const [s, t] = [vb / whole, vc / whole]
  return put(to, ax + (abx * s + acx * t), ay + (aby * s + acy * t), az + (abz * s + acz * t))
}

function put(to: Float64Array, x: number, y: number, z: number): Float64Array {
  to[0] = x
  to[1] = y
  to[2] = z
  return to
}

const within1 = (value: number) => Math.min(1, Math.max(0, value))

/** Where two stretches are nearest to each other (Ericson 2005, 5.1.9). */
export function nearestOnStretches(a: Vec3, b: Vec3, c: Vec3, d: Vec3): Near {
  const [u, v, w] = [subtract(b, a), subtract(d, c), subtract(a, c)]
  const [uu, uv, vv, uw, vw] = [dot(u, u), dot(u, v), dot(v, v), dot(u, w), dot(v, w)]
  // Of parallel ones any place will do to begin with.
  const across = uu * vv - uv * uv
  let s = across > 1e-14 * uu * vv ? within1((uv * vw - uw * vv) / across) : 0
  let t = vv > 0 ? (uv * s + vw) / vv : 0
  if (t < 0 || t > 1) {
    t = within1(t)
    s = uu > 0 ? within1((uv * t - uw) / uu) : 0
  }
  return near(add(a, scaled(u, s)), add(c, scaled(v, t)))
}

/** Where a stretch goes through a triangle; undefined where it does not, or lies in its plane. */
export function piercing(p: Vec3, q: Vec3, [a, b, c]: Triangle): Vec3 | undefined {
  const n = cross(subtract(b, a), subtract(c, a))
  const [from, to] = [dot(n, subtract(p, a)), dot(n, subtract(q, a))]
  if (from > 0 === to > 0 || from === to) return undefined
  const at = add(p, scaled(subtract(q, p), from / (from - to)))
  const sides = [
    [a, b],
    [b, c],
    [c, a],
  ] as const
  return sides.every(([m, o]) => dot(n, cross(subtract(o, m), subtract(at, m))) >= 0) ? at : undefined
}

/**
 * Whether a side of a triangle, from corner `side` to the next, goes through another one, nine numbers each: as `piercing` tells, without
 * making vectors, since surfaces are asked it of many thousand pairs.
 */
export function sideGoesThrough(one: Float64Array, side: number, other: Float64Array): boolean {
  const [p, q] = [3 * side, 3 * ((side + 1) % 3)]
  const [ax, ay, az] = [other[0]!, other[1]!, other[2]!]
  const [ux, uy, uz] = [other[3]! - ax, other[4]! - ay, other[5]! - az]
  const [vx, vy, vz] = [other[6]! - ax, other[7]! - ay, other[8]! - az]
  const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx]
  const [px, py, pz] = [one[p]!, one[p + 1]!, one[p + 2]!]
  const [qx, qy, qz] = [one[q]!, one[q + 1]!, one[q + 2]!]
  const from = nx * (px - ax) + ny * (py - ay) + nz * (pz - az)
  const to = nx * (qx - ax) + ny * (qy - ay) + nz * (qz - az)
  if (from > 0 === to > 0 || from === to) return false
  const share = from / (from - to)
  const [x, y, z] = [px + (qx - px) * share, py + (qy - py) * share, pz + (qz - pz) * share]
  for (let m = 0; m < 9; m += 3) {
    const o = m === 6 ? 0 : m + 3
    const [sx, sy, sz] = [other[o]! - other[m]!, other[o + 1]! - other[m + 1]!, other[o + 2]! - other[m + 2]!]
    const [tx, ty, tz] = [x - other[m]!, y - other[m + 1]!, z - other[m + 2]!]
    if (nx * (sy * tz - sz * ty) + ny * (sz * tx - sx * tz) + nz * (sx * ty - sy * tx) < 0) return false
  }
  return true
}

/** Where two triangles are nearest to each other; at distance 0 where they meet. */
export function nearestOfTriangles(one: Triangle, other: Triangle): Near {
  let best: Near = { distance: Number.POSITIVE_INFINITY, from: one[0], to: other[0] }
  const take = (found: Near) => {
    if (found.distance < best.distance) best = found
  }
  for (let i = 0; i < 3; i++) {
    const [p, q] = [one[i]!, one[(i + 1) % 3]!]
    const [r, s] = [other[i]!, other[(i + 1) % 3]!]
    const through = piercing(p, q, other) ?? piercing(r, s, one)
    if (through) return { distance: 0, from: through, to: through }
    take(near(p, nearestOnTriangle(p, other)))
    take(near(nearestOnTriangle(r, one), r))
    for (let k = 0; k < 3; k++) take(nearestOnStretches(p, q, other[k]!, other[(k + 1) % 3]!))
  }
  return best
}
