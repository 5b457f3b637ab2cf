import { add, type Box, boxOf, corners, cross, dot, scaled, subtract, type Vec3 } from './vectors.ts'

/**
 * A rigid frame: origin and three unit directions, right-handed (n = u × v) but for mirrored copies. n points out of the
 * material.
 */
export interface Frame {
  readonly origin: Vec3
  readonly u: Vec3
  readonly v: Vec3
  readonly n: Vec3
}

export const world: Frame = { origin: [0, 0, 0], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] }

export function frame(origin: Vec3, u: Vec3, v: Vec3): Frame {
  return { origin, u, v, n: cross(u, v) }
}

/** A point given in `f`, in the frame that `f` is given in. */
export function pointOut(f: Frame, p: Vec3): Vec3 {
  return add(f.origin, directionOut(f, p))
}
export function directionOut({ u, v, n }: Frame, [x, y, z]: Vec3): Vec3 {
  // Written out: this is called for every corner of every step with each keystroke.
  return [u[0] * x + v[0] * y + n[0] * z, u[1] * x + v[1] * y + n[1] * z, u[2] * x + v[2] * y + n[2] * z]
}
/** The inverse of `pointOut`. */
export function pointIn(f: Frame, p: Vec3): Vec3 {
  return directionIn(f, subtract(p, f.origin))
}
export function directionIn(f: Frame, d: Vec3): Vec3 {
  return [dot(f.u, d), dot(f.v, d), dot(f.n, d)]
}

/** `inner`, given in `outer`, as a frame where `outer` is given. */
export function compose(outer: Frame, inner: Frame): Frame {
  return {
    origin: pointOut(outer, inner.origin),
    u: directionOut(outer, inner.u),
    v: directionOut(outer, inner.v),
    n: directionOut(outer, inner.n),
  }
}

/** The frame that undoes `f`: compose(inverse(f), f) is the world. */
export function inverse(f: Frame): Frame {
  const row = (i: 0 | 1 | 2): Vec3 => [f.u[i], f.v[i], f.n[i]]
  return { u: row(0), v: row(1), n: row(2), origin: scaled(directionIn(f, f.origin), -1) }
}

/** Whether a frame is that of a mirrored copy. */
export function isMirrored(f: Frame): boolean {
  return dot(cross(f.u, f.v), f.n) < 0
}

export function moved(f: Frame, by: Vec3): Frame {
  return { ...f, origin: add(f.origin, by) }
}

export function boxOut(f: Frame, box: Box): Box {
  return boxOf(corners(box).map((corner) => pointOut(f, corner)))!
}

/** Sine and cosine of an angle in degrees, exact at multiples of 90 so that square parts stay square. */
export function sineCosine(degrees: number): [number, number] {
  const quarter = degrees / 90
  if (Number.isInteger(quarter)) {
    const q = ((quarter % 4) + 4) % 4
    return [[0, 1, 0, -1][q]!, [1, 0, -1, 0][q]!]
  }
  const rad = (degrees * Math.PI) / 180
  return [Math.sin(rad), Math.cos(rad)]
}

/** Turned counter-clockwise about z by `degrees`, as a frame in the frame it turns in. */
export function turnedZ(degrees: number): Frame {
  const [s, c] = sineCosine(degrees)
  return { origin: [0, 0, 0], u: [c, s, 0], v: [-s, c, 0], n: [0, 0, 1] }
}
export function turnedX(degrees: number): Frame {
  const [s, c] = sineCosine(degrees)
  return { origin: [0, 0, 0], u: [1, 0, 0], v: [0, c, s], n: [0, -s, c] }
}

export function turnedY(degrees: number): Frame {
  const [s, c] = sineCosine(degrees)
  return { origin: [0, 0, 0], u: [c, 0, -s], v: [0, 1, 0], n: [s, 0, c] }
}

/** The turns about z, then x, then y, degrees, that make a rotation: what `turnedZ`, `turnedX` and `turnedY` make of it is the same again. */
export function anglesOf({ u, v, n }: Pick<Frame, 'u' | 'v' | 'n'>): {
  readonly turn: number
  readonly tilt: number
  readonly lean: number
} {
  const degrees = (rad: number) => (rad * 180) / Math.PI
  const tilt = degrees(Math.asin(Math.max(-1, Math.min(1, v[2]))))
  // Tilted upright, turn and lean are about one axis.
  if (Math.abs(v[2]) > 1 - 1e-12) return { tilt, turn: degrees(Math.atan2(u[1], u[0])), lean: 0 }
  return { tilt, turn: degrees(Math.atan2(-v[0], v[1])), lean: degrees(Math.atan2(-u[2], n[2])) }
}

/** Turned by `degrees` about the line through `point` along the unit vector `axis` (Rodrigues' formula). */
export function turnedAbout(point: Vec3, axis: Vec3, degrees: number): Frame {
  const [s, c] = sineCosine(degrees)
  const rotate = (p: Vec3): Vec3 =>
    add(add(scaled(p, c), scaled(cross(axis, p), s)), scaled(axis, dot(axis, p) * (1 - c)))
  return {
    origin: add(point, scaled(rotate(point), -1)),
    u: rotate([1, 0, 0]),
    v: rotate([0, 1, 0]),
    n: rotate([0, 0, 1]),
  }
}

/** The reflection in the plane through `point` across the unit vector `normal`: a left-handed frame. */
export function mirroredAbout(point: Vec3, normal: Vec3): Frame {
  const image = (p: Vec3): Vec3 => subtract(p, scaled(normal, 2 * dot(p, normal)))
  return {
    origin: scaled(normal, 2 * dot(point, normal)),
    u: image([1, 0, 0]),
    v: image([0, 1, 0]),
    n: image([0, 0, 1]),
  }
}

/** As a column-major 4 × 4 matrix. */
export function matrixOf(f: Frame) {
  return [...f.u, 0, ...f.v, 0, ...f.n, 0, ...f.origin, 1] as const
}
