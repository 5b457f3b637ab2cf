import { size } from '../fields/index.ts'
import type { Ring } from '../kernel/index.ts'
import type { NamedFace, Prism, ShapeContext } from './define.ts'
import { topFace } from './faces.ts'

/** What shapes that enter a face have in common: how deep they go. */
export const reachField = {
  kind: 'choice',
  label: 'Reach',
  default: 'through',
  choices: { through: 'through', blind: 'to a depth of', upto: 'up to' },
  meaning: 'Through passes everything that is behind the face; up to ends at a face or datum of another step.',
} as const

export const depthField = size('Depth', '8', 'Depth from the face to the flat bottom.')

export interface Sunk {
  readonly reach: 'through' | 'blind' | 'upto'
  readonly depth: number
}

/** "through" or "to a depth of 8", behind the sizes. */
export function reachWords({ reach }: Sunk): readonly { readonly field: string }[] {
  return reach === 'blind' ? [{ field: 'reach' }, { field: 'depth' }] : [{ field: 'reach' }]
}

/** Where what it goes up to is not known, a hole is as deep as its depth says. */
export function deep({ reach, depth }: Sunk, through: number): number {
  return reach === 'through' ? through : depth
}

/** A hole that goes up to something has the depth that was found for it. */
export const deepened = {
  wanted: ({ reach }: Sunk): boolean => reach === 'upto',
  to: <V extends Sunk>(values: V, depth: number): V => ({ ...values, depth }),
}

/** A prism from the bottom up to `overlap` above the face. */
export function sunkPrism(
  values: Sunk,
  { through, overlap }: Pick<ShapeContext, 'through' | 'overlap'>,
  rings: () => readonly Ring[],
): Prism {
  return { low: -deep(values, through), high: overlap, rings }
}

/** The floor of a hole that does not go through, on which something can stand. */
export function floorOf(values: Sunk, width: number, depth: number): NamedFace[] {
  return values.reach === 'through' ? [] : [topFace(-values.depth, width, depth, 'bottom')]
}

export function sunkFaceAt(normal: readonly [number, number, number]): string {
  return Math.abs(normal[2]) > 0.999 ? 'bottom' : 'wall'
}
