import type { KeptPose } from '../document/index.ts'
import type { Kernel, Solid } from '../kernel/index.ts'
import { pieceIsThere } from '../planning/index.ts'
import { ProblemError } from '../problems/index.ts'
import { type Built, type BuiltPiece, inPose, type TwiceBuilt } from '../solids/index.ts'

/** Along which way a file is given a size, in the order of the axes. */
export const sizedWays = ['width', 'depth', 'height'] as const

/** The size of a file, where that is not as it is drawn: so many times as large, or of so many mm along one way. */
export type FileSize =
  | { readonly by: 'factor'; readonly factor: number }
  | { readonly by: (typeof sizedWays)[number]; readonly mm: number }

/** A file is at least this share of what was drawn, and at most so many times as large. */
const [leastScale, mostScale] = [0.01, 100]

/**
 * How many times as large as these solids a file of them is.
 * @throws ProblemError scale-limits
 */
export function scaleFor(size: FileSize | undefined, solids: readonly Solid[]): number {
  if (!size) return 1
  const scale = size.by === 'factor' ? size.factor : size.mm / extent(solids, sizedWays.indexOf(size.by))
  if (!(scale >= leastScale && scale <= mostScale))
    throw new ProblemError('scale-limits', { least: leastScale * 100, most: mostScale * 100 })
  return scale
}

function extent(solids: readonly Solid[], axis: number): number {
  const { min, max } = boxesOf(solids)
  return max[axis]! - min[axis]!
}

export interface Bounds {
  readonly min: readonly [number, number, number]
  readonly max: readonly [number, number, number]
}

export function boundsOf(all: readonly { readonly min: readonly number[]; readonly max: readonly number[] }[]): Bounds {
  const bound = (pick: (...values: number[]) => number, which: 'min' | 'max') =>
    [0, 1, 2].map((i) => pick(...all.map((each) => each[which][i]!))) as [number, number, number]
  return { min: bound(Math.min, 'min'), max: bound(Math.max, 'max') }
}

/** The box that holds all of them, mm. */
export const boxesOf = (solids: readonly Solid[]): Bounds => boundsOf(solids.map((solid) => solid.bounds()!))

/** What leaves, and how large. */
export interface Sized {
  readonly piece?: string | undefined
  readonly size?: FileSize | undefined
}

/**
 * How many times as large as it is drawn the file of a built part is.
 * @throws ProblemError scale-limits
 */
export function fileScale(built: Built, { piece, size }: Sized): number {
  return scaleFor(
    size,
    chosenOf(built, piece).flatMap(({ solid }) => solid ?? []),
  )
}

/** All that are there; one that is named, by itself or in what it is printed in one with. */
export function chosenOf({ pieces, resolved }: Built, named: string | undefined): readonly BuiltPiece[] {
  return pieces.filter(({ piece, of, holds }) =>
    named === undefined ? pieceIsThere(resolved, of) : piece.id === named || holds?.some(({ id }) => id === named),
  )
}

/** A part is built no finer and no coarser than this, mm. */
const [finest, coarsest] = [0.001, 1]

/** How fine a part must be built, mm, so that its file is so fine at its own size. `pose`: that it leaves in. */
export async function drawnFineness(
  kernel: Kernel,
  pose: KeptPose | undefined,
  twice: TwiceBuilt,
  { fineness, ...sized }: Sized & { readonly fineness: number },
): Promise<number> {
  if (!sized.size) return fineness
  const scale = await inPose(kernel, pose, { built: twice.fine, twice }, async ({ built }) => fileScale(built, sized))
  return Math.min(coarsest, Math.max(finest, fineness / scale))
}
