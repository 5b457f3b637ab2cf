import { registered } from '../fields/index.ts'
import { angle } from './angle.ts'
import { centreOfMass } from './centreOfMass.ts'
import type { ReadoutDefinition } from './define.ts'
import { diameter } from './diameter.ts'
import { distance } from './distance.ts'
import { edgeAngle, edgeLength, edgeRadius } from './edge.ts'
import { gearBase, gearPins, gearPitch, gearRoot, gearSpan, gearTip } from './teeth.ts'
import { thickness } from './thickness.ts'
import { volume } from './volume.ts'

/** Everything that can be read off a part. A new one is its file and its line here. */
export const readouts: readonly ReadoutDefinition[] = [
  distance,
  angle,
  diameter,
  thickness,
  edgeLength,
  edgeRadius,
  edgeAngle,
  volume,
  centreOfMass,
  gearPitch,
  gearBase,
  gearTip,
  gearRoot,
  gearSpan,
  gearPins,
]

export const readoutOf = registered(readouts)
