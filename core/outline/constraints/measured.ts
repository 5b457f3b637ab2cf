import { cross2, dot2, minus, norm2, type Vec2 } from '../../plane/index.ts'

/** What a dimension measures, and where that is; all in mm. */
export type Measured =
  /** from one place to another; along the unit direction `along`, where it is not straight from one to the other */
  | { readonly kind: 'length'; readonly from: Vec2; readonly to: Vec2; readonly along?: Vec2 }
  /** the radius of a round, or what is `across` it */
  | { readonly kind: 'round'; readonly centre: Vec2; readonly radius: number; readonly across: boolean }
  /** between two directions from a corner, which is undefined where they are parallel */
  | { readonly kind: 'angle'; readonly corner: Vec2 | undefined; readonly legs: readonly [Vec2, Vec2] }

/** mm, or degrees for an angle */
export function amountOf(measured: Measured): number {
  switch (measured.kind) {
    case 'length': {
      const way = minus(measured.to, measured.from)
      return measured.along ? Math.abs(dot2(way, measured.along)) : norm2(way)
    }
    case 'round':
      return measured.across ? 2 * measured.radius : measured.radius
    case 'angle': {
      const [d, e] = measured.legs
      return (Math.abs(Math.atan2(cross2(d, e), dot2(d, e))) * 180) / Math.PI
    }
  }
}
