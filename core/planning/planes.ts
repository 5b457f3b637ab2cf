import type { AnyValues, Fields, PlaneAxis, PlaneValue } from '../fields/index.ts'
import { type Frame, moved, scaled } from '../place/index.ts'
import { ProblemError } from '../problems/index.ts'
import type { Seats } from './seats.ts'

/** Planes through the bed's origin, square to its axes, which are their normals. */
const square: Readonly<Record<PlaneAxis, Frame>> = {
  x: { origin: [0, 0, 0], u: [0, 1, 0], v: [0, 0, 1], n: [1, 0, 0] },
  y: { origin: [0, 0, 0], u: [-1, 0, 0], v: [0, 0, 1], n: [0, 1, 0] },
  z: { origin: [0, 0, 0], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] },
}

/**
 * Where the planes lie that fields name; undefined where one of them is not there, which is told.
 * @throws ProblemError plane-round
 */
export function planesOf(
  fields: Fields,
  values: AnyValues,
  seats: Seats,
  path: readonly string[],
): Readonly<Record<string, Frame>> | undefined {
  const found: Record<string, Frame> = {}
  for (const [field, { kind }] of Object.entries(fields)) {
    if (kind !== 'plane') continue
    const { of, at } = values[field] as PlaneValue
    const plane = 'axis' in of ? square[of.axis] : faceOf(of.face, seats, [...path, 'fields', field])
    if (!plane) return undefined
    found[field] = moved(plane, scaled(plane.n, at))
  }
  return found
}

function faceOf(
  { step, face = '' }: { step: string; face: string | undefined },
  seats: Seats,
  path: readonly string[],
) {
  const seating = seats.seating({ kind: 'face', step, face }, path)
  if (seating?.round !== undefined) throw new ProblemError('plane-round', {})
  return seating?.frame
}
