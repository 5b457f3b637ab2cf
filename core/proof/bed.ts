import { liesOn } from '../fits/index.ts'
import { type Box, joined } from '../place/index.ts'
import { printedInside } from '../planning/index.ts'
import type { Built } from '../solids/index.ts'
import { type Check, findingOf, type ProofPiece } from './define.ts'
import { mm } from './phrase.ts'

/** What is found. */
const texts = {
  'bed-fits': 'The part, {size}, fits the {printer}.',
  'bed-fits-turned': 'The part, {size}, fits the {printer} when turned by 90°.',
  'bed-by-pieces': 'The part is {size} and does not fit the {printer} at once; each of its pieces does by itself.',
  'bed-too-large': 'The part is {size} and does not fit the {printer} ({bed}).',
} as const

/** Whether the part fits the printer. */
export const fitsCheck: Check = {
  id: 'bed',
  label: 'On the bed',
  meaning: 'The part fits the printer.',
  texts,
  scope: 'part',
  from: ({ built: { resolved }, pieces }) => [
    ...[resolved.printer, printedInside(resolved.part)],
    pieces.map(({ built: { of } }) => of),
  ],
  run({ built, pieces }) {
    const { printer } = built.resolved
    const solid = pieces.filter(({ figures }) => figures)
    const all = solid.reduce<ReturnType<typeof joined> | undefined>(
      (box, { figures }) => joined(box, figures!),
      undefined,
    )
    if (!all) return []
    const size = sizeOf(all)
    const about = solid.map(({ built: { piece } }) => ({ kind: 'piece', id: piece.id }) as const)
    const finding = findingOf('bed', texts, about)
    const told = { size: mm(...size), printer: printer.name }
    const lies = liesOn(size, printer.bed)
    if (lies) return [finding('pass', lies === 'as it is' ? 'bed-fits' : 'bed-fits-turned', told)]
    const tooLarge = printedTogether(built, solid)
      .map((group) => sizeOf(group.map(({ figures }) => figures!).reduce<Box | undefined>(joined, undefined)!))
      .filter((own) => !liesOn(own, printer.bed))
    if (tooLarge.length === 0) return [finding('advice', 'bed-by-pieces', told)]
    return [finding('fault', 'bed-too-large', { ...told, bed: mm(...printer.bed) }, { ofPrinter: true })]
  },
}

type Size = readonly [number, number, number]

function sizeOf({ min, max }: Box): Size {
  return [max[0] - min[0], max[1] - min[1], max[2] - min[2]]
}

/** Pieces that are printed in one go, since they are made inside one another. */
function printedTogether({ resolved }: Built, pieces: readonly ProofPiece[]): ProofPiece[][] {
  const groups = printedInside(resolved.part).map((ids) => pieces.filter(({ built }) => ids.includes(built.piece.id)))
  // The further halves of what a step has split are printed by themselves.
  const split = pieces.filter(({ built }) => built.piece.id !== built.of).map((piece) => [piece])
  return [...groups, ...split].filter((group) => group.length > 0)
}
