import type { SolidMesh } from '../kernel/index.ts'
import { carriedOver } from '../layers/index.ts'
import {
  type Check,
  type Found,
  type FoundCure,
  findingOf,
  type Mark,
  type ProofContext,
  type ProofPiece,
} from './define.ts'
import { loweredBy } from './lowered.ts'
import { clause, mm } from './phrase.ts'

/** What is found, and what cures it. */
const texts = {
  'stands-on-bed': '{piece} stands on the bed.',
  'stands-half': '{piece} begins {height} above the bed: set it down on it to print it by itself.',
  'stands-carried': '{piece} begins {height} above the bed, where {carrier} carries it.',
  'stands-floats': '{piece} floats {height} above the bed.',
  'stands-below': '{piece} reaches {depth} below the bed.',
  'lower-it': 'Lower it by {height}',
  'raise-it': 'Raise it by {depth}',
} as const

/** Lower than this counts as standing on the bed, mm. */
export const touching = 0.001

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
  return Array.from({ length: steps }, (_, i) => begins - (i + 1) * (carriedOver / steps)).some((z) => {
    const under = sections(below).at(z)
    return kernel.scope((scope) => scope.commonRegions(first, under).length > 0)
  })
}

/** Whether every piece touches the bed. */
export const standsCheck: Check = {
  id: 'stands',
  label: 'Standing',
  meaning: 'Every piece touches the bed, or is carried by another one.',
  texts,
  scope: 'piece',
  // What stands on the bed does so whatever else there is.
  from: ({ built, pieces, sheet }, { figures }) =>
    Math.abs(figures!.min[2]) > touching && [
      ...[sheet(), built.motions !== undefined],
      pieces.map(({ built: { piece, of, key } }) => [piece.id, piece.name, of, key]),
    ],
  run(context, own): readonly Found[] {
    const { built, pieces } = context
    const { built: piece, figures } = own
    const low = figures!.min[2]
    const { name, id } = piece.piece
    const finding = findingOf('stands', texts, [{ kind: 'piece', id }])
    const stands = { piece: name }
    const begins = { ...stands, height: mm(low) }
    if (Math.abs(low) <= touching) return [finding('pass', 'stands-on-bed', stands)]
    // One half of what a step has split is printed by itself: the other one does not carry it.
    const isSplit = pieces.some(({ built: other }) => other !== piece && other.of === piece.of)
    if (isSplit && low > 0) return [finding('advice', 'stands-half', begins)]
    const carrier = low > 0 ? heldUp(context).get(own) : undefined
    if (carrier) return [finding('pass', 'stands-carried', { ...begins, carrier: carrier.built.piece.name })]
    // In a pose it is not where its steps put it.
    const edits = built.motions ? undefined : loweredBy(built.resolved.part, id, low, built.solidReadings)
    const marks = marksOf(piece.solid!.mesh(), low)
    const reaches = { ...stands, depth: mm(-low) }
    const before = low > 0 ? clause(texts, 'stands-floats', begins) : clause(texts, 'stands-below', reaches)
    const cure: FoundCure | undefined = edits && {
      label: low > 0 ? clause(texts, 'lower-it', { height: mm(low) }) : clause(texts, 'raise-it', { depth: mm(-low) }),
      edits,
      before,
      after: clause(texts, 'stands-on-bed', stands),
    }
    const more = { marks, ...(cure ? { cures: [cure] } : {}) }
    return [low > 0 ? finding('fault', 'stands-floats', begins, more) : finding('fault', 'stands-below', reaches, more)]
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
