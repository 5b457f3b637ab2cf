import type { Kernel } from '../kernel/index.ts'
import { world } from '../place/index.ts'
import { poseOf } from '../planning/index.ts'
import type { TwiceBuilt } from '../solids/index.ts'
import { sharedVolume, trueGap } from './gap.ts'

/** The two pieces of a joint with its freedoms at these positions. */
export interface SwingPosition {
  /** degrees, or mm where it slides */
  readonly positions: readonly number[]
  /** smallest distance between the pieces, mm; 0 where they meet, undefined where they are far apart */
  readonly gap: number | undefined
  /** mm³ they share there; 0 unless they collide */
  readonly overlap: number
}

/** Gap and collision of a joint's pieces at positions of its travel; undefined where the joint or a piece is not built. */
export function swingAt(
  kernel: Kernel,
  { fine, coarse }: TwiceBuilt,
  jointId: string,
  positions: readonly number[],
): SwingPosition | undefined {
  return kernel.scope((scope) => {
    const [one, two] = [fine, coarse].map((built) => {
      const joint = built.joints.find((candidate) => candidate.joint.id === jointId)?.joint
      const { motions } = poseOf(built, { [jointId]: positions })
      const [a, b] = (joint?.pieces ?? []).map((id) => {
        const solid = built.pieces.find(({ piece }) => piece.id === id)?.solid
        return solid && scope.placed(solid, motions.get(id) ?? world)
      })
      return a && b && ([a, b] as const)
    })
    if (!one) return undefined
    const gap = trueGap(one, one, two)
    return { positions, gap, overlap: gap === 0 ? sharedVolume(kernel, ...one) : 0 }
  })
}

/** `count` positions spread evenly over a joint's travel, both ends included. */
export function swingPositions(from: number, to: number, count: number): number[] {
  return Array.from({ length: count }, (_, i) => from + ((to - from) * i) / Math.max(1, count - 1))
}
