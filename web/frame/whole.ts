import { type Box, joined } from '@makrel/core/place'
import type { DrawnPiece } from '../state/build.ts'

/** The box round all pieces, mm. */
export function wholeBox(pieces: readonly Pick<DrawnPiece, 'bounds'>[]): Box | undefined {
  return pieces.reduce<Box | undefined>((box, { bounds }) => (bounds ? joined(box, bounds) : box), undefined)
}

export function sizeOf(box: Box): [number, number, number] {
  return [0, 1, 2].map((i) => box.max[i]! - box.min[i]!) as [number, number, number]
}
