import { circumradius, type Ring, type Solid, segmentsFor } from '../../kernel/index.ts'
import type { Box, Frame, Vec3 } from '../../place/index.ts'
import type { ShapeContext } from '../define.ts'
import { type Surfaces, surfacesOf } from '../surfaces.ts'

/** A groove with square walls round a bar or a bore, about the middle of its seat; mm. */
export interface Groove {
  /** diameter of the bar or bore */
  readonly round: number
  readonly on: 'outside' | 'inside'
  /** diameter of its floor */
  readonly floor: number
  /** along the axis */
  readonly width: number
}

/** The axis lies below a bar's seat, and above a bore's. */
const axisOf = ({ on, round }: Groove) => (on === 'outside' ? -round / 2 : round / 2)
const farthest = ({ round, floor }: Groove) => Math.max(round, floor) / 2

/** Whether its floor lies within the bar, or beyond the bore. */
export function isGroove({ on, round, floor }: Groove): boolean {
  return on === 'outside' ? floor > 0 && floor < round : floor > round
}

export function grooveBox(groove: Groove): Box {
  const [axis, far, y] = [axisOf(groove), farthest(groove), groove.width / 2]
  return { min: [-far, -y, axis - far], max: [far, y, axis + far] }
}

/** As it is placed: by its middle, and by its walls along the axis. */
export function grooveReach({ width }: Groove, [, y]: Vec3): number {
  return (Math.abs(y) * width) / 2
}

export function grooveSurfaces(groove: Groove): Surfaces {
  const axis = axisOf(groove)
  return surfacesOf([{ name: 'floor' }, { name: 'wall' }, { name: 'mouth' }], {
    within: true,
    at([x, , z], [, b]) {
      if (Math.abs(b) > 0.999) return 'wall'
      const far = Math.hypot(x, z - axis)
      return Math.abs(far - groove.floor / 2) < Math.abs(far - groove.round / 2) ? 'floor' : 'mouth'
    },
  })
}

export function grooveSolid(groove: Groove, { scope, fineness, overlap }: ShapeContext): Solid {
  const segments = segmentsFor(farthest(groove), fineness, true)
  const isBar = groove.on === 'outside'
  // A bar keeps its core, whose flats are inscribed; a bore takes what has the diameter of the floor.
  const [low, high] = isBar
    ? [groove.floor / 2, circumradius(groove.round / 2 + overlap, segments)]
    : [groove.round / 2 - overlap, circumradius(groove.floor / 2, segments)]
  const half = groove.width / 2
  const profile: Ring = [
    [low, -half],
    [high, -half],
    [high, half],
    [low, half],
  ]
  const lying: Frame = { origin: [0, 0, axisOf(groove)], u: [1, 0, 0], v: [0, 0, -1], n: [0, 1, 0] }
  return scope.placed(scope.revolve(profile, segments), lying)
}
