import type { Built, BuiltPiece } from '../build/index.ts'
import { joined } from '../place/index.ts'
import { formatNumber } from '../units/index.ts'
import { type Check, type Finding, millimetres, type ProofPiece } from './define.ts'
import { gapBetween } from './gap.ts'

/** Lower than this counts as standing on the bed, mm. */
const touching = 0.001

/** A piece this near to another one is printed on it or in it, mm. */
const printedWith = 1

/** The piece that carries one that begins above the bed: its partner in a joint, or what it stands on or in. */
function carrierOf(built: Built, { piece, solid }: BuiltPiece, all: readonly ProofPiece[]): string | undefined {
  const partners = built.resolved.part.joints.flatMap(({ pieces }) => (pieces.includes(piece.id) ? pieces : []))
  const carrier = all.find(({ built: other }) => {
    if (other.piece.id === piece.id || !other.solid || !solid) return false
    if (partners.includes(other.piece.id)) return true
    const gap = gapBetween(solid, other.solid)
    return gap !== undefined && gap <= printedWith
  })
  return carrier?.built.piece.name
}

/** Whether the part stands on the bed and fits the printer. */
export const bedCheck: Check = {
  id: 'bed',
  label: 'On the bed',
  meaning: 'The part fits the printer, and every piece touches the bed.',
  run({ built, pieces }) {
    const { printer } = built.resolved
    const solid = pieces.filter(({ figures }) => figures)
    const all = solid.reduce<ReturnType<typeof joined> | undefined>(
      (box, { figures }) => joined(box, figures!),
      undefined,
    )
    if (!all) return []
    const findings: Finding[] = []
    const size = [0, 1, 2].map((i) => all.max[i]! - all.min[i]!) as [number, number, number]
    const [x, y, z] = printer.bed
    const lies = size[0] <= x && size[1] <= y
    const turned = size[1] <= x && size[0] <= y
    const shown = size.map((value) => formatNumber(value)).join(' × ')
    const about = solid.map(({ built: { piece } }) => ({ kind: 'piece', id: piece.id }) as const)
    if ((!lies && !turned) || size[2] > z)
      findings.push({
        check: 'bed',
        rank: 'fault',
        text: `The part is ${shown} mm and does not fit the ${printer.name} (${printer.bed.join(' × ')} mm).`,
        about,
        ofPrinter: true,
      })
    else
      findings.push({
        check: 'bed',
        rank: 'pass',
        text: `The part, ${shown} mm, fits the ${printer.name}${lies ? '' : ' when turned by 90°'}.`,
        about,
      })
    for (const { built: piece, figures } of solid) {
      const low = figures!.min[2]
      const aboutPiece = [{ kind: 'piece', id: piece.piece.id } as const]
      const { name } = piece.piece
      const carrier = low > touching ? carrierOf(built, piece, pieces) : undefined
      if (carrier)
        findings.push({
          check: 'bed',
          rank: 'pass',
          text: `${name} begins ${millimetres(low)} above the bed, where ${carrier} carries it.`,
          about: aboutPiece,
        })
      else if (low > touching)
        findings.push({
          check: 'bed',
          rank: 'warning',
          text: `${name} floats ${millimetres(low)} above the bed.`,
          about: aboutPiece,
        })
      else if (low < -touching)
        findings.push({
          check: 'bed',
          rank: 'fault',
          text: `${name} reaches ${millimetres(-low)} below the bed.`,
          about: aboutPiece,
        })
      else findings.push({ check: 'bed', rank: 'pass', text: `${name} stands on the bed.`, about: aboutPiece })
    }
    return findings
  },
}
