import { centreOf } from '../mesh/index.ts'
import { add, cross, dot, norm, scaled, subtract } from '../place/index.ts'
import { length } from '../units/index.ts'
import { axisOf, type ReadoutDefinition } from './define.ts'

/** Under a face: how far inside. From an axis: how far aside, 0 where the piece is balanced about it. */
export const centreOfMass: ReadoutDefinition = {
  kind: 'centre-of-mass',
  label: 'centre of mass',
  dimension: length,
  takes: 1,
  from: 'solid',
  meaning:
    'How far the centre of mass of the whole piece lies behind a flat face, or beside the axis of a round face or a step: 0 where it is balanced about that.',
  read: ([place], solid) => {
    const centre = centreOf(solid.mass())
    if (!centre) return { detail: 'the piece has no volume' }
    if (place!.kind === 'flat') {
      const { origin, n } = place!.frame
      const behind = -dot(subtract(centre, origin), n)
      return { value: behind, how: 'behind the face', between: [add(centre, scaled(n, behind)), centre] }
    }
    const { point, direction } = axisOf(place!)
    const away = subtract(centre, point)
    const foot = add(point, scaled(direction, dot(away, direction)))
    return { value: norm(cross(direction, away)), how: 'beside the axis', between: [foot, centre] }
  },
}
