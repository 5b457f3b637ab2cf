import { layerBottom } from '../layers/index.ts'
import { type Check, findingOf } from './define.ts'
import { groupsOfUnder, hangingOf, hangsFrom, isUnlaid, underMarks } from './hanging.ts'
import { isTooLarge } from './narrow.ts'
import { mm, mm2 } from './phrase.ts'
import { whoseIn } from './whose.ts'

/** What is found. */
const texts = {
  'islands-none': 'Every layer of {piece} lies on the one below it: nothing begins in mid-air.',
  'islands-begin':
    '{piece} begins in mid-air at {where}, {height} above the bed: {area} of it is laid on nothing and falls.',
  'islands-unknown': '{piece} has too much surface to look at all that begins.',
} as const

/** Whether something begins where nothing is. */
export const islandsCheck: Check = {
  id: 'islands',
  label: 'Islands',
  meaning: 'Every layer has something of the one below it under it: nothing begins in mid-air.',
  texts,
  scope: 'piece',
  from: (context, piece) => hangsFrom(context, piece),
  async run(context, piece) {
    const { printer } = context.built.resolved
    if (await isUnlaid(context, piece)) return []
    const { id, name } = piece.built.piece
    const about = [{ kind: 'piece', id }] as const
    const finding = findingOf('islands', texts, about)
    if (isTooLarge(piece)) return [finding('warning', 'islands-unknown', { piece: name })]
    const beginning = (await hangingOf(context, piece)).filter(({ kind }) => kind === 'begins')
    const whose = whoseIn(context, piece)
    const told = { piece: name }
    const found = groupsOfUnder(context, piece, beginning, whose.keyOf).map((own) => {
      const area = own.reduce((sum, under) => sum + under.area, 0)
      const layer = own.reduce((least, { region }) => Math.min(least, region!.layer), Number.POSITIVE_INFINITY)
      const { about: steps, names: where } = whose.of(own.map(({ triangle }) => triangle))
      const values = { ...told, where, area: mm2(area), height: mm(layerBottom(layer, printer)) }
      const more = { ofPrinter: true, marks: underMarks('leans', id, own), by: area } as const
      return findingOf('islands', texts, [...steps, ...about])('fault', 'islands-begin', values, more)
    })
    return found.length > 0 ? found : [finding('pass', 'islands-none', told)]
  },
}
