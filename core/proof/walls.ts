import type { Printer } from '../fits/index.ts'
import type { FacingSpot } from '../mesh/index.ts'
import type { Vec3 } from '../place/index.ts'
import { type Check, findingOf } from './define.ts'
import { areaBetween, fieldMark, groupsOf, isTooLarge, narrowest, narrowSpots, nearSpots, spotMarks } from './narrow.ts'
import { clause, mm, mm2 } from './phrase.ts'
import { whoseIn } from './whose.ts'

/** What is found. */
const texts = {
  'walls-wide':
    'Every wall of {piece} is wide enough for two lines of {line}, and high enough for two layers of {layer}.',
  'walls-not-laid':
    '{piece} is {thick} thick at {where}, less than a line of {line}: the {printer} leaves out {area} of wall there.',
  'walls-film':
    '{piece} is {thick} thick at {where}, less than half a layer of {layer}: the {printer} leaves out {area} of it.',
  'walls-one-line': '{piece} is {thick} thick at {where}: {area} of wall there is a single line of {line}.',
  'walls-one-layer': '{piece} is {thick} thick at {where}: {area} of it is a single layer of {layer}.',
  'wall-then': '{size} thick: wide enough for two lines of {line}, or two layers of {layer}.',
  'walls-unknown': '{piece} has too much surface to measure all of its walls.',
} as const

/** A wall that is short of its line by this share is laid all the same: walls are made as wide as so many lines. */
const slack = 0.02
/** What tapers from the width of a line to nothing within so many lines is no more than an edge: a wedge of 11°. */
const edgeWithin = 5
/** As a share of a thin wall, what is round it. */
const rim = 0.1

/** How thick a solid has to be at a place, mm. */
interface WallLimits {
  /** for it to be laid at all */
  readonly laid: number
  /** for two lines beside each other, or two layers one on the other */
  readonly twice: number
  /** whether layers count there, not lines */
  readonly flat: boolean
}

/**
 * What counts for a wall is how wide its layers cut it, which is more than it is thick where it leans; for what lies flat it is how high it
 * is: what is no higher than half a layer may come between the middles of two.
 */
export function wallLimits({ lineWidth, layerHeight }: Printer, normal: Vec3): WallLimits {
  const [upright, level] = [Math.hypot(normal[0], normal[1]), Math.abs(normal[2])]
  const [line, film] = [lineWidth * upright, (layerHeight / 2) * level]
  return {
    laid: (1 - slack) * Math.max(line, film),
    twice: (1 - slack) * Math.max(2 * line, 2 * layerHeight * level),
    flat: film > line,
  }
}

/** What is nearer than this on both of its sides is looked at, and how closely, mm. */
export function wallSearch({ lineWidth, layerHeight }: Printer) {
  return { below: 2 * Math.max(lineWidth, layerHeight), fine: lineWidth }
}

/** Whether walls are as wide as the lines of the printer that they take. */
export const wallsCheck: Check = {
  id: 'walls',
  label: 'Walls',
  meaning: 'Walls are wide enough for two lines of the printer: what is less than one is not printed.',
  texts,
  scope: 'piece',
  from: (context, piece) => [context.built.resolved.printer, whoseIn(context, piece).all()],
  async run(context, piece) {
    const { printer } = context.built.resolved
    // That nothing of it is laid is told by its own check.
    if ((await context.laid(piece)).length === 0) return []
    const { id, name } = piece.built.piece
    const about = [{ kind: 'piece', id }] as const
    const finding = findingOf('walls', texts, about)
    if (isTooLarge(piece)) return [finding('warning', 'walls-unknown', { piece: name })]
    const near = await nearSpots(context, piece, 'solid', wallSearch(printer))
    const { spots, isWhole } = near
    const told = { piece: name, line: mm(printer.lineWidth), layer: mm(printer.layerHeight), printer: printer.name }
    const whose = whoseIn(context, piece)
    /** how much of it was told of the same steps before, mm² */
    const areas = new Map<string, number>()
    const findingsOf = async (rank: 'fault' | 'advice', limit: 'laid' | 'twice') => {
      // What is less than a line, and was not told, is an edge or a speck.
      const isLess = ({ across, normal }: FacingSpot) => across < wallLimits(printer, normal).laid
      const left = limit === 'laid' ? spots : spots.filter((spot) => !isLess(spot))
      const thin = await narrowSpots(
        { ...near, edgeWithin, speck: printer.lineWidth ** 2 },
        left,
        ({ normal }) => wallLimits(printer, normal)[limit],
      )
      const isFlat = ({ normal }: FacingSpot) => wallLimits(printer, normal).flat
      const keyOf = (spot: FacingSpot) => `${whose.keyOf([spot.triangle, spot.against])} ${isFlat(spot)}`
      return groupsOf(thin, keyOf).flatMap((own) => {
        const area = areaBetween(own)
        // Where a thin wall begins it grows thicker: that is no other place.
        if (area < rim * (areas.get(keyOf(own[0]!)) ?? 0)) return []
        areas.set(keyOf(own[0]!), area)
        const least = narrowest(own)
        const { about: steps, where, faces } = whose.of(own.flatMap(({ triangle, against }) => [triangle, against]))
        const [ofLayers, ofLines] =
          limit === 'laid'
            ? (['walls-film', 'walls-not-laid'] as const)
            : (['walls-one-layer', 'walls-one-line'] as const)
        const values = { ...told, thick: mm(least.across), where, area: mm2(area) }
        const code = isFlat(least) ? ofLayers : ofLines
        const resize = {
          ...{ from: least.across, to: wallLimits(printer, least.normal).twice / (1 - slack) },
          after: clause(texts, 'wall-then', { ...told, size: 'so' }),
        }
        const more = {
          ofPrinter: true,
          marks: spotMarks('walls', piece, own),
          by: resize.to - resize.from,
          between: { piece: id, faces },
          resize,
        } as const
        return findingOf('walls', texts, [...steps, ...about])(rank, code, values, more)
      })
    }
    const found = [...(await findingsOf('fault', 'laid')), ...(await findingsOf('advice', 'twice'))]
    if (!isWhole) return [...found, finding('warning', 'walls-unknown', { piece: name })]
    if (found.length > 0) return found
    return [finding('pass', 'walls-wide', told, { marks: [fieldMark('walls', id)] })]
  },
}
