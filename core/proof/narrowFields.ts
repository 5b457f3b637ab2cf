import type { Printer } from '../fits/index.ts'
import { Facing } from '../mesh/index.ts'
import type { Vec3 } from '../place/index.ts'
import type { FieldKind, SurfaceField } from './field.ts'
import { slotLimit, slotSearch } from './slots.ts'
import { wallLimits, wallSearch } from './walls.ts'

/** How far it is across from all of a surface: thickness, or how far it is open. */
function across(
  id: string,
  through: 'solid' | 'air',
  label: string,
  search: (printer: Printer) => { readonly below: number; readonly fine: number },
  limitAt: (printer: Printer, normal: Vec3) => number,
): FieldKind {
  return {
    id,
    async of({ built, tree, pause }, pieces) {
      const { printer } = built.resolved
      const { below, fine } = search(printer)
      const surfaces: SurfaceField['surfaces'][number][] = []
      for (const piece of pieces) {
        const facing = new Facing(tree(piece), through)
        const { spots } = await facing.spots({ below, fine: fine / 2, pause })
        const points = new Float32Array(9 * spots.length)
        const values = new Float32Array(3 * spots.length)
        const limits = new Float32Array(3 * spots.length)
        for (const [i, spot] of spots.entries()) {
          points.set(spot.corners, 9 * i)
          values.set(facing.atCorners(spot, below), 3 * i)
          limits.fill(limitAt(printer, spot.normal), 3 * i, 3 * i + 3)
        }
        surfaces.push({ piece: piece.built.piece.id, points, values, limits })
      }
      // What stands upright is what the scale says.
      const limit = limitAt(printer, [1, 0, 0])
      return { label, unit: 'mm', from: 0, to: below, limit, broken: 'below', surfaces }
    },
  }
}

export const wallsField = across('walls', 'solid', 'Walls', wallSearch, (printer, n) => wallLimits(printer, n).laid)
export const slotsField = across('slots', 'air', 'Open by', slotSearch, slotLimit)
