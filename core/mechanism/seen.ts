import { compose, dot, type Frame, inverse, type Vec3 } from '../place/index.ts'

/** Motions as seen from a piece that is held, so that all others go about it; as they are without such a piece. */
export function seenFrom(motions: ReadonlyMap<string, Frame>, held: string | undefined): Map<string, Frame> {
  const own = held === undefined ? undefined : motions.get(held)
  if (!own) return new Map(motions)
  const back = inverse(own)
  return new Map([...motions].map(([piece, motion]) => [piece, compose(back, motion)]))
}

/** How far a motion turns, degrees: about an axis where it is along that, counter-clockwise above 0; above 0 about any other. */
export function turnOf({ u, v, n }: Frame, axis: Vec3): number {
  const turn: Vec3 = [v[2] - n[1], n[0] - u[2], u[1] - v[0]]
  const sine = Math.hypot(...turn) / 2
  const degrees = (Math.atan2(sine, (u[0] + v[1] + n[2] - 1) / 2) * 180) / Math.PI
  return dot(turn, axis) < -1e-9 * sine ? -degrees : degrees
}
