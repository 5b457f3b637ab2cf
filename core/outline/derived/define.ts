import type { Fields, ValuesOf } from '../../fields/index.ts'
import type { DrawnCurve, LineSegment, Vec2 } from '../../plane/index.ts'

/** What something derived works on: the curves so far, and where what it names is. */
export interface DerivedContext {
  /** its own id, for the curves that it makes */
  readonly id: string
  readonly of: readonly string[]
  readonly curves: readonly DrawnCurve[]
  point(id: string): Vec2 | undefined
  /** a straight line of the drawing, helpers and axes too */
  line(id: string): LineSegment | undefined
}

export interface DerivedDefinition<F extends Fields = Fields> {
  readonly kind: string
  readonly label: string
  readonly meaning: string
  /** SVG path data in a 16 × 16 box */
  readonly icon: string
  /** what it is put on, in words, for where the choice does not fit */
  readonly takes: string
  /** whether a choice of points, curves and straight lines can be worked on */
  fits(choice: { readonly points: number; readonly curves: number; readonly lines: number }): boolean
  readonly fields: F
  sentence(values: ValuesOf<F>): readonly (string | { readonly field: string })[]
  /** The curves afterwards, or why that cannot be done. */
  apply(values: ValuesOf<F>, context: DerivedContext): readonly DrawnCurve[] | { readonly detail: string }
}

export function defineDerived<const F extends Fields>(definition: DerivedDefinition<F>): DerivedDefinition {
  return definition as unknown as DerivedDefinition
}

/** The curves that a list of ids names. */
export function named({ curves, of }: DerivedContext): DrawnCurve[] {
  return curves.filter(({ id }) => of.includes(id))
}
