import type { Kernel } from '../kernel/index.ts'
import { world } from '../place/index.ts'
import { poseOf } from '../planning/index.ts'
import type { Built, TwiceBuilt } from '../solids/index.ts'
import { sharedVolume, trueGap } from './gap.ts'

/** The pieces of a joint with its freedoms at these positions. */
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
      const { motions } = poseOf(built, { [jointId]: positions })
      const solidOf = (id: string) => {
        const solid = built.pieces.find(({ piece }) => piece.id === id)?.solid
        return solid && scope.placed(solid, motions.get(id) ?? world)
      }
      return meetingPieces(built, jointId).map(([a, b]) => [solidOf(a), solidOf(b)] as const)
    })
    let least: { readonly gap: number | undefined; readonly overlap: number } | undefined
    for (const [i, [a, b]] of one!.entries()) {
      if (!a || !b) return undefined
      const [coarseA, coarseB] = two![i]!
      const gap = trueGap([a, b], [a, b], coarseA && coarseB && [coarseA, coarseB])
      const overlap = gap === 0 ? sharedVolume(kernel, a, b) : 0
      if (!least || (gap ?? Infinity) < (least.gap ?? Infinity) || overlap > least.overlap) least = { gap, overlap }
    }
    return least && { positions, ...least }
  })
}

/** The pieces that a joint has run in each other, by their ids: its two, or each of them with what goes in between. */
function meetingPieces({ resolved, plan }: Built, jointId: string): (readonly [string, string])[] {
  const joint = resolved.joints.get(jointId)?.joint
  if (!joint) return []
  const between = (plan.joints.get(jointId)?.beside ?? [])
    .map(({ piece }) => piece)
    .filter((piece) => !joint.pieces.includes(piece))
  if (between.length === 0) return [joint.pieces]
  return between.flatMap((piece) => joint.pieces.map((own) => [own, piece] as const))
}

/** `count` positions spread evenly over a joint's travel, both ends included. */
export function swingPositions(from: number, to: number, count: number): number[] {
  return Array.from({ length: count }, (_, i) => from + ((to - from) * i) / Math.max(1, count - 1))
}
