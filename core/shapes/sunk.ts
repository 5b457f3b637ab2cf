import { size } from '../fields/index.ts'
import type { Ring, Scope, Solid } from '../kernel/index.ts'

/** What shapes that enter a face have in common: how deep they go. */
export const reachField = {
  kind: 'choice',
  label: 'Reach',
  default: 'through',
  choices: { through: 'through', blind: 'to a depth of' },
  meaning: 'Through passes everything that is behind the face.',
} as const

export const depthField = size('Depth', '8', 'Depth from the face to the flat bottom.')

interface Sunk {
  readonly reach: 'through' | 'blind'
  readonly depth: number
}

/** "through" or "to a depth of 8", behind the sizes. */
export function reachWords({ reach }: Sunk): readonly { readonly field: string }[] {
  return reach === 'blind' ? [{ field: 'reach' }, { field: 'depth' }] : [{ field: 'reach' }]
}

export function deep({ reach, depth }: Sunk, through: number): number {
  return reach === 'through' ? through : depth
}

/** A prism from the bottom up to `overlap` above the face. */
export function sunkPrism(
  scope: Scope,
  rings: readonly Ring[],
  values: Sunk,
  { through, overlap }: { readonly through: number; readonly overlap: number },
): Solid {
  const depth = deep(values, through)
  return scope.placed(scope.extrude(rings, depth + overlap), {
    origin: [0, 0, -depth],
    u: [1, 0, 0],
    v: [0, 1, 0],
    n: [0, 0, 1],
  })
}

export function sunkFaceAt(normal: readonly [number, number, number]): string {
  return Math.abs(normal[2]) > 0.999 ? 'bottom' : 'wall'
}
