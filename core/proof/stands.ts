import type { SolidMesh } from '../kernel/index.ts'
import { printedInside } from '../planning/index.ts'
import type { Built, BuiltPiece } from '../solids/index.ts'
import { type Check, type Cure, type Finding, type Mark, millimetres, type ProofPiece } from './define.ts'
import { gapBetween } from './gap.ts'
import { loweredBy } from './lowered.ts'

/** Lower than this counts as standing on the bed, mm. */
const touching = 0.001

/** A piece this near to another one is printed on it or in it, mm. */
const printedWith = 1

/** The piece that carries one that begins above the bed: its partner in a joint, or what it stands on or in. */
function carrierOf(built: Built, { piece, solid }: BuiltPiece, all: readonly ProofPiece[]): string | undefined {
  const { joints } = built.resolved.part
  // What is turned about an axis only need not hang on it while it is printed.
  const inside = printedInside(built.resolved.part).find((ids) => ids.includes(piece.id)) ?? []
  const partners = joints
    .flatMap(({ pieces }) => (pieces.includes(piece.id) ? pieces : []))
    .filter((id) => inside.includes(id))
  const carrier = all.find(({ built: other }) => {
    if (other.piece.id === piece.id || !other.solid || !solid) return false
    if (partners.includes(other.piece.id)) return true
    const gap = gapBetween(solid, other.solid)
    return gap !== undefined && gap <= printedWith
  })
  return carrier?.built.piece.name
}

/** Whether every piece touches the bed. */
export const standsCheck: Check = {
  id: 'stands',
  label: 'Standing',
  meaning: 'Every piece touches the bed, or is carried by another one.',
  scope: 'piece',
  run({ built, pieces }, { built: piece, figures }): Finding[] {
    const low = figures!.min[2]
    const { name, id } = piece.piece
    const finding = (rank: Finding['rank'], text: string, more: Partial<Finding> = {}): Finding[] => [
      { check: 'stands', rank, text, about: [{ kind: 'piece', id }], ...more },
    ]
    if (Math.abs(low) <= touching) return finding('pass', `${name} stands on the bed.`)
    // One half of what a step has split is printed by itself: the other one does not carry it.
    const isSplit = pieces.some(({ built: other }) => other !== piece && other.of === piece.of)
    if (isSplit && low > 0)
      return finding(
        'advice',
        `${name} begins ${millimetres(low)} above the bed: set it down on it to print it by itself.`,
      )
    const carrier = low > 0 ? carrierOf(built, piece, pieces) : undefined
    if (carrier)
      return finding('pass', `${name} begins ${millimetres(low)} above the bed, where ${carrier} carries it.`)
    // In a pose it is not where its steps put it.
    const edits = built.motions ? undefined : loweredBy(built.resolved.part, id, low, built.solidReadings)
    const text =
      low > 0
        ? `${name} floats ${millimetres(low)} above the bed.`
        : `${name} reaches ${millimetres(-low)} below the bed.`
    const cure: Cure | undefined = edits && {
      label: low > 0 ? `Lower it by ${millimetres(low)}` : `Raise it by ${millimetres(-low)}`,
      edits,
      before: text,
      after: `${name} stands on the bed.`,
    }
    return finding(low > 0 ? 'warning' : 'fault', text, {
      marks: marksOf(piece.solid!.mesh(), low),
      ...(cure ? { cures: [cure] } : {}),
    })
  },
}

/** The underside that hangs in the air, or all that is below the bed; and how far it is from the bed. */
function marksOf({ positions, triangles }: SolidMesh, low: number): Mark[] {
  const height = (i: number) => positions[3 * triangles[i]! + 2]!
  const shown: number[] = []
  const lowest = [...new Set(triangles)].filter((v) => positions[3 * v + 2]! - low <= touching)
  for (let c = 0; c < triangles.length; c += 3) {
    const highest = Math.max(height(c), height(c + 1), height(c + 2))
    if (highest > (low > 0 ? low + touching : touching)) continue
    for (const i of [c, c + 1, c + 2]) {
      const v = triangles[i]!
      shown.push(positions[3 * v]!, positions[3 * v + 1]!, positions[3 * v + 2]!)
    }
  }
  // Down to the bed from the outermost corners, in eight directions.
  const outermost = new Set(
    Array.from({ length: 8 }, (_, i) => {
      const [x, y] = [Math.cos((i * Math.PI) / 4), Math.sin((i * Math.PI) / 4)]
      const far = (v: number) => positions[3 * v]! * x + positions[3 * v + 1]! * y
      return lowest.reduce((best, v) => (far(v) > far(best) ? v : best))
    }),
  )
  const plumb = [...outermost].flatMap((v) => {
    const [x, y, z] = [positions[3 * v]!, positions[3 * v + 1]!, positions[3 * v + 2]!]
    return [x, y, z, x, y, 0]
  })
  return [
    { kind: 'triangles', points: Float32Array.from(shown) },
    { kind: 'lines', points: Float32Array.from(plumb) },
  ]
}
