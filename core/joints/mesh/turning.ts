import { dot, type Frame, scaled, turnedAbout, type Vec3, world } from '../../place/index.ts'
import type { Wheel } from './wheels.ts'

const axis: Vec3 = [0, 0, 1]

/** What a wheel that stands in a frame does at a position: degrees about the axis of the first one, or mm along itself. */
export function ownMotion({ kind }: Pick<Wheel, 'kind'>, { origin, u, n }: Frame, at: number): Frame {
  return kind === 'line' ? { ...world, origin: scaled(u, at) } : turnedAbout(origin, about(n), at)
}

/** Wheels on parallel axes turn about that of the first, whichever way up they stand. */
function about(n: Vec3): Vec3 {
  return Math.abs(n[2]) > 1 - 1e-9 ? axis : n
}

/** The position at which a wheel that stands in a frame has moved so: of `ownMotion` the inverse. */
export function positionOf({ kind }: Pick<Wheel, 'kind'>, { u, n, v }: Frame, motion: Frame): number {
  if (kind === 'line') return dot(motion.origin, u)
  // How far what looked along u has turned towards v.
  const sense = dot(about(n), n)
  const [x, y, z] = u
  const turned = [0, 1, 2].map((k) => motion.u[k]! * x + motion.v[k]! * y + motion.n[k]! * z) as unknown as Vec3
  return (sense * Math.atan2(dot(turned, v), dot(turned, u)) * 180) / Math.PI
}
