import { type Check, findingOf } from './define.ts'
import { groupsOfUnder, hangingOf, hangsFrom, isUnlaid, underMarks } from './hanging.ts'
import { fieldMark, isTooLarge } from './narrow.ts'
import { mm, mm2 } from './phrase.ts'
import { whoseIn } from './whose.ts'

/** What is found. */
const texts = {
  'bridges-none': 'Nothing of {piece} has to be bridged.',
  'bridges-short': 'The longest bridge of {piece} is {span}; the {printer} spans {limit}.',
  'bridges-long': '{piece} is bridged over {span} at {where}; the {printer} spans {limit}: {area} of it sags.',
  'bridges-unknown': '{piece} has too much surface to look at all that is bridged.',
} as const

/** Whether what is bridged is short enough for the printer. */
export const bridgesCheck: Check = {
  id: 'bridges',
  label: 'Bridges',
  meaning: 'What has nothing below it between two sides is no longer than the printer spans.',
  texts,
  scope: 'piece',
  from: (context, piece) => hangsFrom(context, piece),
  async run(context, piece) {
    const { printer } = context.built.resolved
    if (await isUnlaid(context, piece)) return []
    const { id, name } = piece.built.piece
    const about = [{ kind: 'piece', id }] as const
    const finding = findingOf('bridges', texts, about)
    if (isTooLarge(piece)) return [finding('warning', 'bridges-unknown', { piece: name })]
    const spanning = (await hangingOf(context, piece)).filter(({ kind }) => kind === 'spans')
    const long = spanning.filter((region) => region.long > printer.bridge)
    const whose = whoseIn(context, piece)
    const told = { piece: name, printer: printer.name, limit: mm(printer.bridge) }
    const found = groupsOfUnder(context, piece, long, whose.keyOf).map((own) => {
      const area = own.reduce((sum, under) => sum + under.area, 0)
      const span = own.reduce((most, { region }) => Math.max(most, region!.long), 0)
      const { about: steps, names: where } = whose.of(own.map(({ triangle }) => triangle))
      const values = { ...told, where, area: mm2(area), span: mm(span) }
      const more = { ofPrinter: true, marks: underMarks('spans', id, own), by: span } as const
      return findingOf('bridges', texts, [...steps, ...about])('warning', 'bridges-long', values, more)
    })
    if (found.length > 0) return found
    const longest = spanning.reduce((most, region) => Math.max(most, region.long), 0)
    if (longest < printer.lineWidth) return [finding('pass', 'bridges-none', told)]
    return [finding('pass', 'bridges-short', { ...told, span: mm(longest) }, { marks: [fieldMark('spans', id)] })]
  },
}
