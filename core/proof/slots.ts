import type { Printer } from '../fits/index.ts'
import { type FacingSpot, shellsOf, type TriangleTree, wallAt } from '../mesh/index.ts'
import type { Vec3 } from '../place/index.ts'
import { type Check, findingOf } from './define.ts'
import { areaBetween, fieldMark, groupsOf, isTooLarge, narrowest, narrowSpots, nearSpots, spotMarks } from './narrow.ts'
import { clause, mm, mm2 } from './phrase.ts'
import { whoseIn } from './whose.ts'

/** What is found. */
const texts = {
  'slots-wide': 'Every slot, groove and hole of {piece} is wide enough to stay open.',
  'slots-close': '{piece} is open by {gap} at {where}; the {printer} needs {needed}: {area} of it closes.',
  'slots-hole':
    'A hole of {gap} at {where} of {piece} closes: the {printer} prints it {tighter} tighter and needs {needed}.',
  'slot-then': 'Open by {size}: the {printer} needs {needed}.',
  'slots-unknown': '{piece} has too much surface to measure all that is open in it.',
} as const

/** A slot that is short of what it needs by less is as wide as it was asked for, mm. */
const hardly = 1e-3
/** A groove whose sides meet within so many times of what would stay open is none that closes: as of a ball on a plate. */
const edgeWithin = 15
/** As a share of the least gap, how deep a groove is that closes unnoticed. */
const shallow = 0.8
/** Where less than so many squares of a line close, that is hardly missed: where a coil runs into its end ring. */
const slight = 16

/** How far apart two surfaces of one piece have to be, mm: sideways, or by layers where they lie above each other. */
function slotLimit({ leastGap, leastLayers, layerHeight }: Printer, normal: Vec3): number {
  return Math.max(leastGap * Math.hypot(normal[0], normal[1]), leastLayers * layerHeight * Math.abs(normal[2]))
}

/** How much tighter a small round hole prints across, mm. */
function tighterBy({ holeOffset }: Printer): number {
  return 2 * Math.max(0, holeOffset)
}

/** How wide it has to be at a place to stay open, mm: a round hole prints tighter than it is. */
export function slotLimits(printer: Printer, tree: TriangleTree) {
  const isHole = holesIn(tree)
  const tighter = tighterBy(printer)
  return {
    isHole,
    at: (spot: FacingSpot) => slotLimit(printer, spot.normal) + (isHole(spot) ? tighter : 0) - hardly,
    /** what cannot be too narrow, whatever it is of */
    isWide: ({ across, normal }: FacingSpot) => across >= slotLimit(printer, normal) + tighter - hardly,
  }
}

/** What is nearer than this is looked at, and how closely, mm. */
export function slotSearch(printer: Printer) {
  const { leastGap, leastLayers, layerHeight, lineWidth } = printer
  return { below: Math.max(leastGap, leastLayers * layerHeight) + tighterBy(printer), fine: lineWidth }
}

/** Whether what is open in a piece stays open when it is printed. */
export const slotsCheck: Check = {
  id: 'slots',
  label: 'Slots',
  meaning: 'Slots, grooves and holes are wide enough not to close when they are printed.',
  texts,
  scope: 'piece',
  from: (context, piece) => [context.built.resolved.printer, whoseIn(context, piece).all()],
  async run(context, piece) {
    const { printer } = context.built.resolved
    const { id, name } = piece.built.piece
    const about = [{ kind: 'piece', id }] as const
    const finding = findingOf('slots', texts, about)
    if (isTooLarge(piece)) return [finding('warning', 'slots-unknown', { piece: name })]
    const near = await nearSpots(context, piece, 'air', slotSearch(printer))
    const { spots, isWhole } = near
    const whose = whoseIn(context, piece)
    const { at: limitAt, isHole, isWide } = slotLimits(printer, near.tree)
    // How near solids of one piece come to each other is told by a check of its own.
    const shellOf = piece.figures!.solids > 1 ? shellsOf(piece.built.solid!.mesh()).shellOf : undefined
    const narrow = await narrowSpots(
      { ...near, edgeWithin, speck: 2 * printer.lineWidth ** 2, shallow: shallow * printer.leastGap },
      spots.filter((spot) => !isWide(spot) && (!shellOf || shellOf[spot.triangle] === shellOf[spot.against])),
      limitAt,
    )
    const found = groupsOf(narrow, (spot) => whose.keyOf([spot.triangle, spot.against])).map((own) => {
      const area = areaBetween(own)
      const least = narrowest(own)
      const { about: steps, where } = whose.of(own.flatMap(({ triangle, against }) => [triangle, against]))
      const values = { piece: name, gap: mm(least.across), where, printer: printer.name }
      const needed = mm(slotLimit(printer, least.normal))
      const isRound = own.every(isHole)
      const limit = slotLimit(printer, least.normal) + (isRound ? tighterBy(printer) : 0)
      const resize = {
        ...{ from: least.across, to: limit },
        after: clause(texts, 'slot-then', { size: 'so', printer: printer.name, needed: mm(limit) }),
      }
      const more = {
        ofPrinter: true,
        marks: spotMarks('slots', piece, own),
        by: resize.to - resize.from,
        resize,
      } as const
      const told = findingOf('slots', texts, [...steps, ...about])
      // A slot may have round ends.
      return isRound
        ? told('fault', 'slots-hole', { ...values, needed, tighter: mm(tighterBy(printer)) }, more)
        : told(
            area < slight * printer.lineWidth ** 2 ? 'advice' : 'fault',
            'slots-close',
            { ...values, needed, area: mm2(area) },
            more,
          )
    })
    if (!isWhole) return [...found, finding('warning', 'slots-unknown', { piece: name })]
    if (found.length > 0) return found
    return [finding('pass', 'slots-wide', { piece: name }, { marks: [fieldMark('slots', id)] })]
  },
}

/** Whether a place lies on the wall of a round hole, asked of each triangle once. */
function holesIn(tree: TriangleTree): (spot: FacingSpot) => boolean {
  const { mesh } = tree.nodes
  const known = new Map<number, boolean>()
  return ({ triangle }) => {
    if (!known.has(triangle)) {
      const wall = wallAt(mesh, triangle)
      known.set(triangle, wall?.kind === 'round' && !wall.convex)
    }
    return known.get(triangle)!
  }
}
