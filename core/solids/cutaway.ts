import type { Kernel } from '../kernel/index.ts'
import type { Vec3 } from '../place/index.ts'
import type { Built, BuiltPiece } from './builder.ts'
import { type RenderMesh, renderMeshOf } from './renderMesh.ts'

/** A plane across one of the bed's directions; what lies beyond it, to the right, to the front or above, is taken away. */
export interface CutPlane {
  readonly across: 'x' | 'y' | 'z'
  /** mm from the bed's datum */
  readonly at: number
}

/** A piece cut open: its drawing with the flat faces of the cut, or undefined where nothing is left of it. */
export function cutawayOf(
  kernel: Kernel,
  built: Built,
  piece: BuiltPiece,
  { across, at }: CutPlane,
): RenderMesh | undefined {
  const { solid } = piece
  if (!solid) return undefined
  // The side that stays: left, back and below.
  const normal: Vec3 = across === 'x' ? [-1, 0, 0] : across === 'y' ? [0, 1, 0] : [0, 0, -1]
  return kernel.scope((scope) => {
    const rest = scope.trimmed(solid, normal, across === 'y' ? at : -at)
    return rest.isEmpty() ? undefined : renderMeshOf(built, { ...piece, solid: rest })
  })
}
