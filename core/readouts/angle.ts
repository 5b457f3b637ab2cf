import { cross, dot, norm, type Vec3 } from '../place/index.ts'
import { angle as angleDimension } from '../units/index.ts'
import { axisOf, type ReadoutDefinition, type ReadPlace } from './define.ts'

/** Two faces that look the same way are at 0°, back to back at 180°; axes are at most 90° apart. */
export const angle: ReadoutDefinition = {
  kind: 'angle',
  label: 'angle',
  dimension: angleDimension,
  takes: 2,
  from: 'faces',
  meaning: 'Between the directions that two faces look, between two axes, or between a face and an axis.',
  read: ([a, b]) => {
    const [one, two] = [directionOf(a!), directionOf(b!)]
    const turned = (Math.atan2(norm(cross(one, two)), dot(one, two)) * 180) / Math.PI
    if (a!.kind === 'flat' && b!.kind === 'flat') return { value: turned, how: 'between the directions the faces look' }
    const acute = Math.min(turned, 180 - turned)
    if (a!.kind === 'flat' || b!.kind === 'flat') return { value: 90 - acute, how: 'between the face and the axis' }
    return { value: acute, how: 'between the axes' }
  },
}

function directionOf(place: ReadPlace): Vec3 {
  return place.kind === 'flat' ? place.frame.n : axisOf(place).direction
}
