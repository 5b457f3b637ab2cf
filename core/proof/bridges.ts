import { type Check, findingOf } from './define.ts'
import { hangingBy, hangingOf, hangsFrom, underMarks } from './hanging.ts'
import { fieldMark } from './narrow.ts'
import { mm, mm2 } from './phrase.ts'

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
    const { id, name } = piece.built.piece
    const about = [{ kind: 'piece', id }] as const
    const finding = findingOf('bridges', texts, about)
    const hanging = await hangingBy(context, piece, ({ kind, long }) => kind === 'spans' && long > printer.bridge)
    if (hanging === 'unlaid') return []
    if (hanging === 'too large') return [finding('warning', 'bridges-unknown', { piece: name })]
    const told = { piece: name, printer: printer.name, limit: mm(printer.bridge) }
    if (hanging.length > 0)
      return hanging.map(({ unders, about: steps, where, area, long }) => {
        const values = { ...told, where, area: mm2(area), span: mm(long) }
        const more = { ofPrinter: true, marks: underMarks('spans', id, unders), by: long } as const
        return findingOf('bridges', texts, [...steps, ...about])('warning', 'bridges-long', values, more)
      })
    const spans = (await hangingOf(context, piece)).filter(
      ({ kind, long }) => kind === 'spans' && long <= printer.bridge,
    )
    const longest = spans.reduce((most, { long }) => Math.max(most, long), 0)
    if (longest < printer.lineWidth) return [finding('pass', 'bridges-none', told)]
    return [finding('pass', 'bridges-short', { ...told, span: mm(longest) }, { marks: [fieldMark('spans', id)] })]
  },
}
