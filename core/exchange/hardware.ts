import { pauseFor } from '../layers/index.ts'
import { compose } from '../place/index.ts'
import { type Bought, itemsIn, type StandingItem, toBuy } from '../planning/index.ts'
import type { Built, BuiltPiece } from '../solids/index.ts'

/** What has to be bought, as it is written down: "M4 socket screw", its standard, its length in mm where that is told. */
export interface BoughtLine {
  readonly count: number
  readonly name: string
  readonly standard: string
  readonly length: number | undefined
}

/** Something that is put in while the print pauses. */
export interface PauseLine {
  readonly name: string
  readonly count: number
  readonly piece: string
  /** the first layer that closes over it, from 1, and where that begins, mm above the bed */
  readonly layer: number
  readonly height: number
}

export function boughtLines(bought: readonly Bought[]): readonly BoughtLine[] {
  return bought.map(({ item, count, length }) => ({
    ...{ count, name: item.label },
    ...{ standard: item.family.standard, length },
  }))
}

/** What the pieces of a built part take, and when the print has to pause for it; `scale`: how many times as large the file is. */
export function hardwareOf(built: Built, chosen: readonly BuiltPiece[], scale = 1) {
  const { resolved, plan } = built
  const isIn = ({ of, holds }: BuiltPiece, item: StandingItem) =>
    item.pieces.includes(of) || holds?.some(({ id }) => item.pieces.includes(id)) === true
  const items = itemsIn(resolved, plan)
  const own = items.filter((item) => chosen.some((piece) => isIn(piece, item)))
  const pauses = new Map<string, PauseLine>()
  for (const item of own) {
    if (item.way !== 'closed in') continue
    const piece = chosen.find((each) => isIn(each, item))!
    const motion = built.motions?.get(piece.piece.id) ?? built.motions?.get(piece.of)
    const { layer, height } = pauseFor(item, motion ? compose(motion, item.frame) : item.frame, resolved.printer, scale)
    const key = `${item.item.id} ${piece.piece.id} ${layer}`
    const count = (pauses.get(key)?.count ?? 0) + 1
    pauses.set(key, { name: item.item.label, count, piece: piece.piece.name, layer: layer + 1, height })
  }
  return {
    hardware: boughtLines(toBuy(own)),
    pauses: [...pauses.values()].sort((a, b) => a.layer - b.layer),
  }
}

/** What to buy as comma-separated values (RFC 4180), with a line of headings. */
export function boughtCsv(lines: readonly BoughtLine[]): string {
  const cell = (text: string) => (/[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text)
  const rows = lines.map(({ count, name, standard, length }) => [
    String(count),
    name,
    standard,
    length === undefined ? '' : String(length),
  ])
  return [['Count', 'Name', 'Standard', 'Length in mm'], ...rows]
    .map((row) => `${row.map(cell).join(',')}\r\n`)
    .join('')
}
