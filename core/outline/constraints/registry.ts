import { registered } from '../../fields/index.ts'
import { angle } from './angle.ts'
import { coincident } from './coincident.ts'
import { concentric } from './concentric.ts'
import type { ConstraintDefinition } from './define.ts'
import { diameter } from './diameter.ts'
import { distance } from './distance.ts'
import { distanceX } from './distanceX.ts'
import { distanceY } from './distanceY.ts'
import { equal } from './equal.ts'
import { fixed } from './fixed.ts'
import { halfAxis } from './halfAxis.ts'
import { horizontal } from './horizontal.ts'
import { midpoint } from './midpoint.ts'
import { onCurve } from './onCurve.ts'
import { parallel } from './parallel.ts'
import { perpendicular } from './perpendicular.ts'
import { radius } from './radius.ts'
import { symmetric } from './symmetric.ts'
import { tangent } from './tangent.ts'
import { vertical } from './vertical.ts'

/** Every kind of constraint and dimension. A new one is its file and its line here. */
export const constraints = [
  coincident,
  onCurve,
  horizontal,
  vertical,
  parallel,
  perpendicular,
  tangent,
  equal,
  concentric,
  symmetric,
  midpoint,
  fixed,
  distance,
  distanceX,
  distanceY,
  radius,
  diameter,
  halfAxis,
  angle,
] as const satisfies readonly ConstraintDefinition[]

export const constraintOf = registered<ConstraintDefinition>(constraints)
