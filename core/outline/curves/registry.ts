import { registered } from '../../fields/index.ts'
import { arc } from './arc.ts'
import { circle } from './circle.ts'
import type { CurveDefinition } from './define.ts'
import { ellipse } from './ellipse.ts'
import { letters } from './letters.ts'
import { line } from './line.ts'
import { near } from './near.ts'
import { through } from './through.ts'

/** Every kind of drawn curve. A new one is its file and its line here. */
export const curves = [line, arc, circle, ellipse, through, near, letters] as const satisfies readonly CurveDefinition[]

export const curveOf = registered<CurveDefinition>(curves)
