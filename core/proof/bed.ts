import { joined } from '../place/index.ts'
import { formatNumber } from '../units/index.ts'
import type { Check, Finding } from './define.ts'

/** Whether the part fits the printer. */
export const fitsCheck: Check = {
  id: 'bed',
  label: 'On the bed',
  meaning: 'The part fits the printer.',
  scope: 'part',
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
    return findings
  },
}
