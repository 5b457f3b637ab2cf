import type { Offset } from '@makrel/core/document'
import { add, type Seating, scaled, type Vec3 } from '@makrel/core/place'
import { create } from 'zustand'

/** What a sentence names, while the pointer is on that: a step, a face of one, or an edge of a face by its ends. */
export type Pointed =
  | { readonly kind: 'step'; readonly id: string; readonly face?: string | undefined }
  | { readonly kind: 'edge'; readonly ends: readonly [Vec3, Vec3] }

export const usePointed = create<{ readonly pointed: Pointed | undefined }>()(() => ({ pointed: undefined }))

/** The edge of a face that a distance is measured from; undefined where that is a middle, or the face is a round or endless one. */
export function edgeMeasuredFrom(
  { frame, size, round }: Seating,
  axis: 'across' | 'along',
  { from, of }: Offset,
): Pointed | undefined {
  const half = [size[0] / 2, size[1] / 2] as const
  if (of !== undefined || from === 'centre' || round !== undefined || half[0] === 0 || half[1] === 0) return undefined
  const side = from === 'low' ? -1 : 1
  const end = (other: 1 | -1): Vec3 => {
    const [u, v] = axis === 'across' ? [side * half[0], other * half[1]] : [other * half[0], side * half[1]]
    return add(frame.origin, add(scaled(frame.u, u), scaled(frame.v, v)))
  }
  return { kind: 'edge', ends: [end(-1), end(1)] }
}
