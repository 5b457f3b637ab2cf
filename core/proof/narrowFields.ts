import type { Printer } from '../fits/index.ts'
import { Facing, type FacingSpot, type TriangleTree } from '../mesh/index.ts'
import type { FieldKind, SurfaceField } from './field.ts'
import { slotLimits, slotSearch } from './slots.ts'
import { wallLimits, wallSearch } from './walls.ts'

/** How far it is across from all of a surface: thickness, or how far it is open. */
function across(
  id: string,
  through: 'solid' | 'air',
  label: string,
  search: (printer: Printer) => { readonly below: number; readonly fine: number },
  /** what the scale says: of what stands upright */
  upright: (printer: Printer) => number,
  limits: (printer: Printer, tree: TriangleTree) => (spot: FacingSpot) => number,
): FieldKind {
  return {
    id,
    async of({ built, tree, pause }, pieces) {
      const { printer } = built.resolved
      const { below, fine } = search(printer)
      const surfaces: SurfaceField['surfaces'][number][] = []
      for (const piece of pieces) {
        const facing = new Facing(tree(piece), through)
        const { spots } = await facing.spots({ below, fine: fine / 2, withEnds: true, pause })
        const points = new Float32Array(9 * spots.length)
        const values = new Float32Array(3 * spots.length)
        const kept = new Float32Array(3 * spots.length)
        const limitAt = limits(printer, tree(piece))
        for (const [i, spot] of spots.entries()) {
          points.set(spot.corners, 9 * i)
          values.set(spot.ends!, 3 * i)
          kept.fill(limitAt(spot), 3 * i, 3 * i + 3)
        }
        surfaces.push({ piece: piece.built.piece.id, points, values, limits: kept })
      }
      return { label, unit: 'mm', from: 0, to: below, limit: upright(printer), broken: 'below', surfaces }
    },
  }
}

export const wallsField = across(
  'walls',
  'solid',
  'Walls',
  wallSearch,
  ({ lineWidth }) => lineWidth,
  (printer) =>
    ({ normal }) =>
      wallLimits(printer, normal).laid,
)
export const slotsField = across(
  'slots',
  'air',
  'Open by',
  slotSearch,
  ({ leastGap }) => leastGap,
  (printer, tree) => slotLimits(printer, tree).at,
)
