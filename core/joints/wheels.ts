import type { StepValue } from '../fields/index.ts'
import { openingOf, type Teeth } from '../gears/index.ts'
import { type ToothValues, teethOf, type WormValues, wormTeeth } from '../shapes/index.ts'

/** One side of a mesh: teeth outside of it, inside of it, or along a line. */
export interface Wheel {
  readonly kind: 'outside' | 'inside' | 'line'
  readonly teeth: Teeth
  readonly values: ToothValues
  /** threads that wind about it, which run with a gear on a crossed axis */
  readonly isWorm: boolean
}

/** What runs in a mesh, of the step that it is. */
export function wheelOf({ shape, adds, values: own }: StepValue): Wheel {
  if (shape === 'worm') {
    const values = wormTeeth(own as unknown as WormValues)
    return { kind: 'outside', values, teeth: teethOf(values), isWorm: true }
  }
  const given = own as unknown as ToothValues
  const values = { ...given, shift: given.shift ?? 0, tips: given.tips ?? 'sharp', tip: given.tip ?? 1 }
  const base = { values, isWorm: false }
  if (shape === 'rack') return { ...base, kind: 'line', teeth: teethOf(values) }
  const opens = shape === 'ring-gear' || !adds
  if (!opens) return { ...base, kind: 'outside', teeth: teethOf(values) }
  return { ...base, kind: 'inside', teeth: openingOf(teethOf({ ...values, play: 0 }), values.play) }
}

export const shown = (x: number) => Number(x.toFixed(3))
export const rad = (degrees: number) => (degrees * Math.PI) / 180
/** Wheels that stand so near to where they should are there, mm. */
export const near = 5e-4
