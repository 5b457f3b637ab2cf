import { layerBottom } from '../layers/index.ts'
import { type Check, findingOf } from './define.ts'
import { hangingBy, hangsFrom, underMarks, underOf } from './hanging.ts'
import { mm, mm2 } from './phrase.ts'

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
    const { id, name } = piece.built.piece
    const about = [{ kind: 'piece', id }] as const
    const finding = findingOf('islands', texts, about)
    const hanging = await hangingBy(context, piece, ({ kind }) => kind === 'begins')
    if (hanging === 'unlaid') return []
    if (hanging === 'too large') return [finding('warning', 'islands-unknown', { piece: name })]
    if (hanging.length === 0) return [finding('pass', 'islands-none', { piece: name })]
    return hanging.map(({ unders, about: steps, where, area }) => {
      const layer = unders.reduce((least, { region }) => Math.min(least, region!.layer), Number.POSITIVE_INFINITY)
      const values = { piece: name, where, area: mm2(area), height: mm(layerBottom(layer, printer)) }
      const more = {
        ofPrinter: true,
        under: underOf(id, unders),
        marks: underMarks('leans', id, unders),
        by: area,
      } as const
      return findingOf('islands', texts, [...steps, ...about])('fault', 'islands-begin', values, more)
    })
  },
}
