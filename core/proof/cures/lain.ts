import { type KeptPose, pieceOfBody } from '../../document/index.ts'
import type { Kernel } from '../../kernel/index.ts'
import { type Lying, lyingOf } from '../../lying/index.ts'
import { type Built, spreadOut } from '../../solids/index.ts'
import type { FoundCure } from '../define.ts'
import { clause, mm, mm2 } from '../phrase.ts'
import type { CureKind } from './define.ts'

/** What is said of another way to lie. */
const texts = {
  'lie-otherwise': 'Print {pieces} lying another way, {high} high',
  'lie-otherwise-then': 'In a pose of its own: {contact} lies on the bed, and less hangs. It is drawn as before.',
} as const

/** Checks of what hangs. */
const hanging: readonly string[] = ['islands', 'overhangs', 'bridges']
/** More ways are not tried. */
const mostWays = 2
/** Pieces that lie side by side are so far apart beside the printer's least gap, mm. */
const clearOf = 3

const known = new WeakMap<Built, Promise<readonly Lying[]>>()

/** What hangs so much that it droops, falls or sags may hang less in another way to lie; what is printed inside one another is laid together. */
export const lain: CureKind = async (built, found, { kernel, pause }) => {
  const { check, rank, about, code, pattern, values } = found
  const { part } = built.resolved
  if (!hanging.includes(check) || rank === 'advice' || part.printPose !== '') return []
  const own = known.get(built) ?? lyingOf(kernel, built, { pause })
  known.set(built, own)
  const all = await own
  const lying = all.find(({ pieces }) => pieces.some((id) => about.some((each) => each.id === id)))
  const drawn = lying?.ways.find(({ isDrawn }) => isDrawn)
  if (!lying || !drawn) return []
  const better = lying.ways.filter(
    ({ isDrawn, begins, hangs, fitsBed, kept }) =>
      !isDrawn && fitsBed && kept >= drawn.kept && begins <= drawn.begins && hangs < drawn.hangs,
  )
  const ids = new Set(part.poses.map(({ id }) => id))
  let number = 1
  while (ids.has(`lying-${number}`)) number++
  return better.slice(0, mostWays).map(({ down, size, contact }): FoundCure => {
    const alone: KeptPose = {
      ...{ id: `lying-${number}`, name: 'As laid', set: [] },
      laid: [{ piece: lying.pieces[0]!, down, turn: 0, at: [0, 0] }],
    }
    const pose = all.length > 1 ? { ...alone, laid: besideOthers(kernel, built, alone) } : alone
    const told = { pieces: lying.pieces.map((id) => pieceOfBody(part, id)?.name ?? id) }
    return {
      label: clause(texts, 'lie-otherwise', { ...told, high: mm(size[2]) }),
      edits: [
        { type: 'keep-pose', pose },
        { type: 'print-pose', id: pose.id },
      ],
      ...{ free: 'all', before: { code, pattern, values } },
      after: clause(texts, 'lie-otherwise-then', { contact: mm2(contact) }),
    }
  })
}

function besideOthers(kernel: Kernel, built: Built, pose: KeptPose): KeptPose['laid'] {
  return spreadOut(kernel, built, pose, built.resolved.printer.leastGap + clearOf)
}
