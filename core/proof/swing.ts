import type { Kernel } from '../kernel/index.ts'
import { jointMotion, type TwiceBuilt } from '../solids/index.ts'
import { sharedVolume, trueGap } from './gap.ts'

/** The two pieces of a joint at one position of its travel. */
export interface SwingPosition {
  /** degrees, or mm for a sliding joint */
  readonly position: number
  /** smallest distance between the pieces, mm; 0 where they meet, undefined where they are far apart */
  readonly gap: number | undefined
  /** mm³ they share there; 0 unless they collide */
  readonly overlap: number
}

/** Gap and collision of a joint's pieces at a position; undefined where the joint or a piece is not built. */
export function swingAt(
  kernel: Kernel,
  { fine, coarse }: TwiceBuilt,
  jointId: string,
  position: number,
): SwingPosition | undefined {
  return kernel.scope((scope) => {
    const [one, two] = [fine, coarse].map((built) => {
      const joint = built.joints.find((candidate) => candidate.joint.id === jointId)?.joint
      const [stays, moves] = (joint?.pieces ?? []).map((id) => built.pieces.find(({ piece }) => piece.id === id)?.solid)
      return stays && moves && ([stays, scope.placed(moves, jointMotion(built, jointId, position))] as const)
    })
    if (!one) return undefined
    const gap = trueGap(one, one, two)
    return { position, gap, overlap: gap === 0 ? sharedVolume(kernel, ...one) : 0 }
  })
}

/** `count` positions spread evenly over a joint's travel, both ends included. */
export function swingPositions(from: number, to: number, count: number): number[] {
  return Array.from({ length: count }, (_, i) => from + ((to - from) * i) / Math.max(1, count - 1))
}
