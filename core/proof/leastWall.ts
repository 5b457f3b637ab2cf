import { evaluate } from '../measures/index.ts'
import { attempt } from '../problems/index.ts'
import { type Check, findingOf } from './define.ts'
import { areaBetween, fieldMark, groupsOf, isTooLarge, narrowest, narrowSpots, nearSpots, spotMarks } from './narrow.ts'
import { clause, mm, mm2 } from './phrase.ts'
import { whoseIn } from './whose.ts'

/** What is found. */
const texts = {
  'least-wall-kept': 'No wall of {piece} is thinner than the {least} that this part asks for.',
  'least-wall-thin': '{piece} is {thick} thick at {where}, over {area}: less than the {least} that this part asks for.',
  'least-wall-then': '{size} thick: as thick as this part asks for.',
  'least-wall-unread': 'The least wall that this part asks for is not known: {why}',
  'least-wall-unknown': '{piece} has too much surface to measure all of its walls.',
} as const

/** What is short of it by this share is as thick: sizes are settled to far less, flats of rounds are not. */
const slack = 0.005
/** What tapers to nothing within so many times of it is no more than an edge, as for the lines of a printer. */
const edgeWithin = 5

/** Whether walls are as thick as the part asks for. */
export const leastWallCheck: Check = {
  id: 'leastWall',
  label: 'Least wall',
  meaning: 'Walls are as thick as the part asks for, where it does.',
  texts,
  scope: 'piece',
  from: (context, piece) => {
    const { part, measures, printer } = context.built.resolved
    if (part.leastWall === '') return ''
    const least = attempt([], () => evaluate(part.leastWall, 'length', measures.names))
    return [part.leastWall, least.ok ? least.value.value : null, printer, whoseIn(context, piece).all()]
  },
  async run(context, piece) {
    const { part, printer, measures } = context.built.resolved
    if (part.leastWall === '') return []
    const { id, name } = piece.built.piece
    const about = [{ kind: 'piece', id }] as const
    const finding = findingOf('leastWall', texts, about)
    const read = attempt([], () => evaluate(part.leastWall, 'length', measures.names))
    if (!read.ok) return [finding('warning', 'least-wall-unread', { why: read.problem.text })]
    const least = Number(read.value.value)
    if (!(least > 0)) return [finding('warning', 'least-wall-unread', { why: 'it is not more than 0.' })]
    if (isTooLarge(piece)) return [finding('warning', 'least-wall-unknown', { piece: name })]
    const fine = Math.min(printer.lineWidth, least / 2)
    const near = await nearSpots(context, piece, 'solid', { below: 1.1 * least, fine })
    const wanted = () => (1 - slack) * least
    const thin = await narrowSpots({ ...near, edgeWithin, speck: printer.lineWidth ** 2 }, near.spots, wanted)
    const whose = whoseIn(context, piece)
    const groups = groupsOf(thin, (spot) => whose.keyOf([spot.triangle, spot.against]))
    const told = { piece: name, least: mm(least) }
    const found = groups.map((own) => {
      const area = areaBetween(own)
      const thinnest = narrowest(own)
      const { about: steps, where, faces } = whose.of(own.flatMap(({ triangle, against }) => [triangle, against]))
      const resize = { from: thinnest.across, to: least, after: clause(texts, 'least-wall-then', { size: 'so' }) }
      return findingOf('leastWall', texts, [...steps, ...about])(
        'warning',
        'least-wall-thin',
        { ...told, thick: mm(thinnest.across), where, area: mm2(area) },
        { marks: spotMarks('walls', piece, own), by: least - thinnest.across, between: { piece: id, faces }, resize },
      )
    })
    if (!near.isWhole) return [...found, finding('warning', 'least-wall-unknown', { piece: name })]
    if (found.length > 0) return found
    return [finding('pass', 'least-wall-kept', told, { marks: [fieldMark('walls', id)] })]
  },
}
