import { type Check, findingOf } from './define.ts'
import { hangingBy, hangsFrom, underMarks, underOf } from './hanging.ts'
import { fieldMark } from './narrow.ts'
import { mm, mm2 } from './phrase.ts'

/** What is found. */
const texts = {
  'overhangs-none': 'Nothing of {piece} leans out farther than the {limit}° that the {printer} lays without help.',
  'overhangs-lean':
    '{area} of {piece} leans by as much as {angle}° at {where}; the {printer} lays {limit}° without help: its underside comes out rough.',
  'overhangs-droop':
    '{area} of {piece} reaches out as far as {reach} over nothing at {where}: it droops where nothing is put under it.',
  'overhangs-unknown': '{piece} has too much surface to look at all that hangs.',
} as const

/** What reaches out by so many lines droops: two beside each other have nothing at all below them, and a third hardly anything. */
const drooping = 3
/** Less than so many squares of a line hardly droops. */
const slight = 16

/** Whether what leans is carried by the layer below. */
export const overhangsCheck: Check = {
  id: 'overhangs',
  label: 'Overhangs',
  meaning: 'What leans out is carried by the layer below it.',
  texts,
  scope: 'piece',
  from: (context, piece) => hangsFrom(context, piece),
  async run(context, piece) {
    const { printer } = context.built.resolved
    const { id, name } = piece.built.piece
    const about = [{ kind: 'piece', id }] as const
    const finding = findingOf('overhangs', texts, about)
    const hanging = await hangingBy(context, piece, ({ kind }) => kind === 'reaches')
    if (hanging === 'unlaid') return []
    if (hanging === 'too large') return [finding('warning', 'overhangs-unknown', { piece: name })]
    const told = { piece: name, printer: printer.name, limit: printer.overhang }
    if (hanging.length === 0) return [finding('pass', 'overhangs-none', told, { marks: [fieldMark('leans', id)] })]
    return hanging.map(({ unders, about: steps, where, area, long }) => {
      const lean = unders.reduce((most, under) => Math.max(most, under.lean), 0)
      const values = { ...told, area: mm2(area), angle: Number(lean.toFixed(1)), reach: mm(long), where }
      const more = {
        ofPrinter: true,
        under: underOf(id, unders),
        marks: underMarks('leans', id, unders),
        by: area,
      } as const
      const droops = long >= drooping * printer.lineWidth && area >= slight * printer.lineWidth ** 2
      const say = findingOf('overhangs', texts, [...steps, ...about])
      return droops ? say('warning', 'overhangs-droop', values, more) : say('advice', 'overhangs-lean', values, more)
    })
  },
}
