import { type Check, findingOf } from './define.ts'
import { groupsOfUnder, hangingOf, hangsFrom, isUnlaid, underMarks } from './hanging.ts'
import { fieldMark, isTooLarge } from './narrow.ts'
import { mm, mm2 } from './phrase.ts'
import { whoseIn } from './whose.ts'

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
    if (await isUnlaid(context, piece)) return []
    const { id, name } = piece.built.piece
    const about = [{ kind: 'piece', id }] as const
    const finding = findingOf('overhangs', texts, about)
    if (isTooLarge(piece)) return [finding('warning', 'overhangs-unknown', { piece: name })]
    const reaching = (await hangingOf(context, piece)).filter(({ kind }) => kind === 'reaches')
    const whose = whoseIn(context, piece)
    const told = { piece: name, printer: printer.name, limit: printer.overhang }
    const found = groupsOfUnder(context, piece, reaching, whose.keyOf).map((own) => {
      const area = own.reduce((sum, under) => sum + under.area, 0)
      const reach = own.reduce((most, { region }) => Math.max(most, region!.long), 0)
      const lean = own.reduce((most, under) => Math.max(most, under.lean), 0)
      const { about: steps, names: where } = whose.of(own.map(({ triangle }) => triangle))
      const values = { ...told, area: mm2(area), angle: Number(lean.toFixed(1)), reach: mm(reach), where }
      const more = { ofPrinter: true, marks: underMarks('leans', id, own), by: area } as const
      const droops = reach >= drooping * printer.lineWidth && area >= slight * printer.lineWidth ** 2
      const say = findingOf('overhangs', texts, [...steps, ...about])
      return droops ? say('warning', 'overhangs-droop', values, more) : say('advice', 'overhangs-lean', values, more)
    })
    if (found.length > 0) return found
    return [finding('pass', 'overhangs-none', told, { marks: [fieldMark('leans', id)] })]
  },
}
