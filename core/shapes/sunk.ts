import { size } from '../fields/index.ts'
import type { Ring } from '../kernel/index.ts'
import type { Vec3 } from '../place/index.ts'
import type { Prism, ShapeContext } from './define.ts'
import { topFace } from './faces.ts'
import { type Surface, type Surfaces, surfacesOf } from './surfaces.ts'

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

/**
 * The surfaces of a hole: its walls, its bottom, on which something can stand where it does not go through, and its mouth,
 * which is seen where it is added.
 */
export function sunkSurfaces(
  { reach, depth }: Sunk,
  width: number,
  long: number,
  walls: readonly Surface[],
  at?: (point: Vec3, normal: Vec3) => string | undefined,
): Surfaces {
  const floor = reach === 'through' ? { name: 'bottom' } : topFace(-depth, width, long, 'bottom')
  return surfacesOf([floor, ...walls, { name: 'mouth' }], {
    within: true,
    at(p, normal) {
      if (normal[2] > 0.999) return 'mouth'
      if (normal[2] < -0.999 && (reach === 'through' || p[2] < 0.01 - depth)) return 'bottom'
      return at?.(p, normal)
    },
  })
}

/** Farther out of the face than this it goes because it leans, mm. */
const upright = 0.0051

/**
 * A countersink goes on through the face as it is, so that none of its corners lies in the face, where the last digit would decide on
 * which side; one that leans goes on straight.
 */
export function sinkEnd(head: number, slope: number, overlap: number): readonly (readonly [number, number])[] {
  return overlap > upright
    ? [
        [head, 0],
        [head, overlap],
      ]
    : [[head + slope * overlap, overlap]]
}
