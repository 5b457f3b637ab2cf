import type { SolidMesh } from '../kernel/index.ts'
import {
  type Check,
  type Cure,
  type Finding,
  type Mark,
  millimetres,
  type ProofContext,
  type ProofPiece,
} from './define.ts'
import { loweredBy } from './lowered.ts'

/** Lower than this counts as standing on the bed, mm. */
export const touching = 0.001

/** What lies no farther below a piece than this carries it: it droops that far onto it, mm. */
const carriedOver = 1

/** Pieces that are held up, each by another one; by none where it stands on the bed. */
type Held = ReadonlyMap<ProofPiece, ProofPiece | undefined>

/** Those on the bed, then those that such a one carries, then those that these carry: pieces in the air hold nothing up. */
function heldUp(context: ProofContext): Held {
  const known = heldIn.get(context)
  if (known) return known
  const pieces = context.pieces.filter(({ figures }) => figures)
  const held = new Map<ProofPiece, ProofPiece | undefined>()
  for (const piece of pieces) if (piece.figures!.min[2] <= touching) held.set(piece, undefined)
  for (let found = true; found; ) {
    found = false
    for (const piece of pieces.filter((each) => !held.has(each))) {
      const carrier = [...held.keys()].find((other) => carries(context, other, piece))
      if (!carrier) continue
      held.set(piece, carrier)
      found = true
    }
  }
  heldIn.set(context, held)
  return held
}
const heldIn = new WeakMap<ProofContext, Held>()

/** Whether a piece has material right below where another one begins. */
function carries({ kernel, built, sections }: ProofContext, below: ProofPiece, piece: ProofPiece): boolean {
  const [low, high] = [piece.figures!, below.figures!]
  if (![0, 1].every((k) => low.min[k]! <= high.max[k]! && high.min[k]! <= low.max[k]!)) return false
  const { printer } = built.resolved
  const begins = low.min[2]
  const first = sections(piece).at(begins + printer.layerHeight / 2)
  const steps = Math.ceil(carriedOver / printer.layerHeight)
  return Array.from({ length: steps }, (_, i) => begins - (i + 0.5) * (carriedOver / steps)).some((z) => {
    const under = sections(below).at(z)
    return kernel.scope((scope) => scope.commonRegions(first, under).length > 0)
  })
}

/** Whether every piece touches the bed. */
export const standsCheck: Check = {
  id: 'stands',
  label: 'Standing',
  meaning: 'Every piece touches the bed, or is carried by another one.',
  scope: 'piece',
  run(context, own): Finding[] {
    const { built, pieces } = context
    const { built: piece, figures } = own
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
    const carrier = low > 0 ? heldUp(context).get(own) : undefined
    if (carrier)
      return finding(
        'pass',
        `${name} begins ${millimetres(low)} above the bed, where ${carrier.built.piece.name} carries it.`,
      )
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
    return finding('fault', text, {
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
