import { type HangingRegion, hangingRegions } from '../layers/index.ts'
import { withTurns } from '../pacing/index.ts'
import type { Found, Mark, ProofContext, ProofPiece } from './define.ts'
import { groupsOf, isTooLarge } from './narrow.ts'
import { type Under, undersides } from './undersides.ts'
import { whoseIn } from './whose.ts'

/** What overhangs, bridges and what begins in mid-air have in common: what of a piece has nothing below it. */

const known = new WeakMap<ProofContext, Map<ProofPiece, Promise<readonly HangingRegion[]>>>()

/** What of a piece that has material goes farther beyond what is below it than its printer lays without help. */
export function hangingOf(context: ProofContext, piece: ProofPiece): Promise<readonly HangingRegion[]> {
  const own = known.get(context) ?? new Map<ProofPiece, Promise<readonly HangingRegion[]>>()
  known.set(context, own)
  const before = own.get(piece)
  if (before) return before
  const found = (async () => {
    const { kernel, sections, pause } = context
    const { printer } = context.built.resolved
    const places = (await context.laid(piece)).flat()
    const others = besides(context, piece).map(sections)
    const { lineWidth, overhang } = printer
    return hangingRegions(kernel, sections(piece), { heights: printer, lineWidth, overhang, places, others, pause })
  })()
  own.set(piece, found)
  return found
}

/** Pieces that a piece may lie on: those printed with it that reach below some of it. */
function besides({ pieces }: ProofContext, piece: ProofPiece): readonly ProofPiece[] {
  const { min, max } = piece.figures!
  return pieces.filter(
    ({ built, figures }) =>
      // Halves of what a step has split are printed by themselves.
      built.of !== piece.built.of &&
      figures &&
      figures.min[2] < max[2] &&
      [0, 1].every((k) => figures.min[k]! <= max[k]! && min[k]! <= figures.max[k]!),
  )
}

/** All that the findings of what hangs follow from beside the solid and the name of the piece. */
export function hangsFrom(context: ProofContext, piece: ProofPiece): unknown {
  const names = whoseIn(context, piece).all()
  return [context.built.resolved.printer, names, besides(context, piece).map(({ built }) => built.key)]
}

/** What of a piece hangs by the same steps. */
export interface Hanging {
  readonly unders: readonly Under[]
  /** steps and joints that it is of, and their names */
  readonly about: Found['about']
  readonly where: readonly string[]
  /** mm² */
  readonly area: number
  /** how far the farthest of it reaches, or the longest of it spans, mm */
  readonly long: number
}

/** What is smaller than so many squares of a line is a speck. */
const specks = 2

/**
 * What of a piece hangs in such a way, by what it comes from, the largest first, but for specks. Not looked at is what nothing is laid of,
 * which is told by a check of its own, and what has too much surface.
 */
export async function hangingBy(
  context: ProofContext,
  piece: ProofPiece,
  isWanted: (region: HangingRegion) => boolean,
): Promise<'unlaid' | 'too large' | readonly Hanging[]> {
  if ((await context.laid(piece)).length === 0) return 'unlaid'
  if (isTooLarge(piece)) return 'too large'
  const { kernel, built } = context
  const regions = (await hangingOf(context, piece)).filter(isWanted)
  if (regions.length === 0) return []
  const whose = whoseIn(context, piece)
  const { printer } = built.resolved
  const all = await withTurns(
    undersides(kernel, piece.built.solid!.mesh(), regions, { printer, hanging: true }),
    context.pause,
  )
  return (
    groupsOf(all, ({ triangle }) => whose.keyOf([triangle]))
      .map((unders) => {
        const { about, where } = whose.of(unders.map(({ triangle }) => triangle))
        const area = unders.reduce((sum, under) => sum + under.area, 0)
        const long = unders.reduce((most, { region }) => Math.max(most, region!.long), 0)
        return { unders, about, where, area, long }
      })
      // What begins is no speck: it has room for a line.
      .filter(({ area, unders }) => unders[0]!.region!.kind === 'begins' || area >= specks * printer.lineWidth ** 2)
  )
}

/** More triangles than these are not shown. */
const mostShown = 20_000

export function underMarks(field: string, piece: string, unders: readonly Under[]): Mark[] {
  const shown: number[] = []
  for (const { corners } of unders) {
    if (shown.length >= 9 * mostShown) break
    shown.push(...corners)
  }
  const points = Float32Array.from(shown.slice(0, 9 * mostShown))
  return [
    { kind: 'field', field, pieces: [piece] },
    { kind: 'triangles', points },
  ]
}

/** The triangles that hang, for what may be put under them. */
export function underOf(piece: string, unders: readonly Under[]): NonNullable<Found['under']> {
  return { piece, triangles: [...new Set(unders.map(({ triangle }) => triangle))] }
}
