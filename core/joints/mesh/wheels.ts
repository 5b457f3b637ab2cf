import type { StepValue } from '../../fields/index.ts'
import { type Bevel, openingOf, type Teeth } from '../../gears/index.ts'
import type { Frame } from '../../place/index.ts'
import {
  apexOf,
  type BevelValues,
  bevelOf,
  type ToothValues,
  teethOf,
  type WormValues,
  wormTeeth,
} from '../../shapes/index.ts'
import { toDecimals } from '../../units/index.ts'
import type { Fitting, Judged } from '../define.ts'

/** One side of a mesh: teeth outside of it, inside of it, along a line, wound about it, or on a cone. */
export interface Wheel {
  readonly kind: 'outside' | 'inside' | 'line' | 'worm' | 'bevel'
  readonly teeth: Teeth
  readonly values: ToothValues
  /** of a bevel gear */
  readonly cone?: { readonly bevel: Bevel; readonly apex: number }
}

/** How two wheels of certain kinds run in each other. `second`: where the second one stands in the frame of the first. */
export interface Mesh {
  /** Why they never can, wherever they stand; undefined where they may. */
  impossible(one: Wheel, two: Wheel): { readonly field: 'first' | 'second'; readonly detail: string } | undefined
  /** What the second does for each degree, or mm, of the first. */
  ratio(one: Wheel, two: Wheel, second: Frame): number
  judged(one: Wheel, two: Wheel, second: Frame): Judged
  /** Where the second one would run as it should: moved straight from where it is, turned about its axis, and laid over where that must cross. */
  settled(one: Wheel, two: Wheel, second: Frame): Frame | undefined
  /** What one of both would have to be like, where it is not. */
  fitting?(one: Wheel, two: Wheel, second: Frame): Fitting | undefined
}

/** What runs in a mesh, of the step that it is. */
export function wheelOf({ shape, adds, values: own }: StepValue): Wheel {
  if (shape === 'worm') {
    const values = wormTeeth(own as unknown as WormValues)
    return { kind: 'worm', values, teeth: teethOf(values) }
  }
  if (shape === 'bevel-gear') {
    const given = own as unknown as BevelValues
    const values = { ...plainTeeth, ...given, height: given.width }
    return { kind: 'bevel', values, teeth: teethOf(values), cone: { bevel: bevelOf(given), apex: apexOf(given) } }
  }
  const given = own as unknown as ToothValues
  const values = { ...given, shift: given.shift ?? 0, tips: given.tips ?? 'sharp', tip: given.tip ?? 1 }
  if (shape === 'rack') return { kind: 'line', values, teeth: teethOf(values) }
  const opens = shape === 'ring-gear' || !adds
  if (!opens) return { kind: 'outside', values, teeth: teethOf(values) }
  return { kind: 'inside', values, teeth: openingOf(teethOf({ ...values, play: 0 }), values.play) }
}

/** What teeth are like that nothing is said of. */
const plainTeeth = { run: 'straight', helix: 0, hand: 'right', shift: 0, root: 0.38, tips: 'sharp', tip: 1 } as const

export const shown = (x: number) => toDecimals(x, 3)
export const rad = (degrees: number) => (degrees * Math.PI) / 180
/** Wheels that stand so near to where they should are there, mm. */
export const near = 5e-4
