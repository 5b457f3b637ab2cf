import { circumradius, type Ring, type Scope, type Solid, segmentsFor } from '../kernel/index.ts'

/**
 * A solid of revolution about z: its corners are (radius, height), counter-clockwise in the half-plane, mm. Where it makes room its flats
 * lie outside the rounds.
 */
export function turned(scope: Scope, corners: Ring, fineness: number, makesRoom = false): Solid {
  const segments = segmentsFor(Math.max(...corners.map(([r]) => r)), fineness, makesRoom)
  const grown = makesRoom ? circumradius(1, segments) : 1
  return scope.revolve(
    corners.map(([r, z]) => [r * grown, z] as const),
    segments,
  )
}

/** A tube about z: `outside` and `inside` are corners from foot to head, (radius, height); its bore is a round of its own. */
export function tube(scope: Scope, outside: Ring, inside: Ring, fineness: number): Solid {
  return scope.difference(turned(scope, closedOn(outside), fineness), [turned(scope, closedOn(inside), fineness, true)])
}

/** Corners from foot to head, closed along the axis. */
export function closedOn(corners: Ring): Ring {
  const [first, last] = [corners[0]!, corners.at(-1)!]
  return [[0, first[1]], ...corners, [0, last[1]]]
}
