import { compensationFor, isMadeUp } from '../compensation/index.ts'
import { layerMiddle } from '../layers/index.ts'
import { type Ring, RingSides } from '../plane/index.ts'
import { trianglesOf } from '../solids/index.ts'
import { type Check, type Found, findingOf, type Mark, type ProofContext, type ProofPiece, stepName } from './define.ts'
import { mm } from './phrase.ts'
import { touching } from './stands.ts'
import { takingsOf } from './takes.ts'

/** What is found. */
const texts = {
  'flare-room': 'What has to fit keeps its room on the bed: the first layer is pressed out by {flare}.',
  'flare-pinches':
    'The first layer is pressed {flare} into the mouth of {where} on the bed: of the {left} per side that {fit} leaves, nothing is left there.',
  'flare-fuses':
    '{pieces} are {gap} apart on the bed: the first layer is pressed out by {flare} on both sides, and they fuse there.',
} as const

/** What runs together by less breaks when it is moved first, mm. */
const hardly = 0.1

/** Whether what the first layer is pressed out by leaves room for what has to fit, or to move. */
export const flareCheck: Check = {
  id: 'flare',
  label: 'First layer',
  meaning: 'What has to fit, or to move, keeps its room where the first layer is pressed out on the bed.',
  texts,
  scope: 'part',
  from: ({ sheet }) => sheet(),
  async run(context): Promise<readonly Found[]> {
    const { built, pieces } = context
    const { printer, part } = built.resolved
    // A file that makes up for it cuts its first layer back.
    const isCutBack = isMadeUp(part) && compensationFor(part).flare > 0
    if (isCutBack || !(printer.flare > 0)) return []
    const found: Found[] = []
    let looked = 0
    for (const { step, fit, gap, off } of takingsOf(built)) {
      if (!fit || fit === 'press') continue
      const left = gap - off
      // What leaves nothing anywhere is told by its own check.
      if (!(left > 0)) continue
      const points = pieces.flatMap((piece) => onBedOf(piece, built, step))
      if (points.length === 0) continue
      looked++
      if (left > printer.flare) continue
      const where = stepName(built.resolved, step)
      const marks: Mark[] = [{ kind: 'triangles', points: Float32Array.from(points) }]
      const values = { where, fit, flare: mm(printer.flare), left: mm(left) }
      const about = [{ kind: 'step', id: step }] as const
      found.push(
        findingOf('flare', texts, about)('advice', 'flare-pinches', values, {
          ofPrinter: true,
          marks,
          by: printer.flare - left,
        }),
      )
    }
    for (const [i, a] of pieces.entries())
      for (const b of pieces.slice(i + 1)) {
        await context.pause()
        const gap = apartOnBed(context, a, b)
        if (gap === undefined) continue
        looked++
        if (gap > 2 * printer.flare) continue
        const about = [a, b].map(({ built: { piece } }) => ({ kind: 'piece', id: piece.id }) as const)
        const values = {
          pieces: [a, b].map(({ built: { piece } }) => piece.name),
          gap: mm(gap),
          flare: mm(printer.flare),
        }
        found.push(
          findingOf('flare', texts, about)(
            2 * printer.flare - gap > hardly ? 'warning' : 'advice',
            'flare-fuses',
            values,
            {
              ofPrinter: true,
              by: 2 * printer.flare - gap,
            },
          ),
        )
      }
    if (found.length > 0 || looked === 0) return found
    return [findingOf('flare', texts, [])('pass', 'flare-room', { flare: mm(printer.flare) })]
  },
}

/** Triangles of the walls of a step that stand on the bed: nine numbers each. */
function onBedOf(
  { built: piece, figures }: ProofPiece,
  { plan }: ProofContext['built'],
  step: string,
): readonly number[] {
  if (!piece.solid || !figures || Math.abs(figures.min[2]) > touching) return []
  const { positions, triangles } = piece.solid.mesh()
  return trianglesOf(piece, plan, { step, face: '' }).flatMap((t) => {
    const corners = [0, 1, 2].map((k) => 3 * triangles[3 * t + k]!)
    const onBed = corners.filter((v) => Math.abs(positions[v + 2]!) <= touching)
    // What lies on the bed as a whole is no wall.
    return onBed.length === 0 || onBed.length === 3
      ? []
      : corners.flatMap((v) => [positions[v]!, positions[v + 1]!, positions[v + 2]!])
  })
}

/** How far two pieces that stand on the bed together are from each other there; undefined where one does not, or they are far apart, mm. */
function apartOnBed({ built, sections }: ProofContext, a: ProofPiece, b: ProofPiece): number | undefined {
  const { printer } = built.resolved
  // Halves of what a step has split are printed by themselves.
  if (!a.figures || !b.figures || a.built.of === b.built.of) return undefined
  if ([a, b].some(({ figures }) => figures!.min[2] > touching)) return undefined
  const far = 4 * printer.flare
  const isNear = [0, 1].every(
    (k) => a.figures!.min[k]! - far < b.figures!.max[k]! && b.figures!.min[k]! - far < a.figures!.max[k]!,
  )
  if (!isNear) return undefined
  const [one, other] = [a, b].map((piece) => sections(piece).at(layerMiddle(0, printer))) as [
    readonly Ring[],
    readonly Ring[],
  ]
  const [sides, others] = [new RingSides(one), new RingSides(other)]
  const least = Math.min(
    one.flat().reduce((best, p) => Math.min(best, others.distanceFrom(p)), far),
    other.flat().reduce((best, p) => Math.min(best, sides.distanceFrom(p)), far),
  )
  return least < far ? least : undefined
}
