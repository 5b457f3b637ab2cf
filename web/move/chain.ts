import {
  type BodyStep,
  type BundleStep,
  type Edit,
  hasBody,
  type Joint,
  newPiece,
  type Offset,
  onBed,
  type Part,
  type Piece,
  type Place,
  pieceColours,
  type SameStep,
} from '@makrel/core/document'
import { newId } from '../ids.ts'

/** Which way a chain goes on, as its pieces and joints are placed. */
export const chainWays = {
  right: { axis: 'across', sign: 1, said: 'to the right' },
  left: { axis: 'across', sign: -1, said: 'to the left' },
  back: { axis: 'along', sign: 1, said: 'to the back' },
  front: { axis: 'along', sign: -1, said: 'to the front' },
} as const
export type ChainWay = keyof typeof chainWays

interface Wanted {
  /** how many links more */
  readonly count: number
  /** from one link to the next, an expression as it is typed */
  readonly pitch: string
  readonly way: ChainWay
  /** how many of them are there, an expression; all of them without */
  readonly shown?: string | undefined
}

/**
 * The edits by which more links follow the second piece of a joint: each one has its shape, which is told once, and hangs on the one
 * before it by a joint like this one. Undefined where that piece has no shape that can be had again.
 */
export function chainEdits(
  part: Part,
  joint: Joint,
  { count, pitch, way, shown }: Wanted,
): readonly Edit[] | undefined {
  const piece = part.pieces.find(({ id }) => id === joint.pieces[1])
  const shape = piece && shapeOf(piece)
  if (!shape) return undefined
  const edits: Edit[] = [...shape.edits]
  const names = freeNames(part, piece.name, count)
  let before = piece.id
  for (let i = 1; i <= count; i++) {
    const next = newPiece(newId(), names[i - 1]!, pieceColours[(part.pieces.length + i - 1) % pieceColours.length]!)
    const { operation, place, ghost } = shape.step
    const step: SameStep = {
      kind: 'same',
      ...{ id: newId(), name: '', mute: false, when: shown ? `${termOf(shown)} >= ${i}` : '', operation, fields: {} },
      ...{ place: further(place, i, pitch, way), repeats: [], omit: [], ghost, of: shape.step.id },
    }
    edits.push(
      { type: 'add-piece', piece: next },
      { type: 'add-step', piece: next.id, step },
      {
        type: 'add-joint',
        joint: { ...joint, id: newId(), pieces: [before, next.id], place: further(joint.place, i, pitch, way) },
      },
    )
    before = next.id
  }
  return edits
}

/** What a piece consists of as one thing: its only step, or a bundle that all its steps go into. */
function shapeOf({ steps }: Piece): { readonly step: BodyStep; readonly edits: readonly Edit[] } | undefined {
  const [first] = steps
  if (!first || !hasBody(first) || first.operation !== 'add') return undefined
  if (steps.length === 1) return { step: first, edits: [] }
  if (!steps.every(hasBody)) return undefined
  const own = { from: 'centre', to: 'own', by: '0' } as const
  const bundle: BundleStep = {
    ...{ kind: 'bundle', id: newId(), name: '', mute: false, when: '', operation: 'add', fields: {} },
    ...{
      place: { ...onBed, on: first.place.on, across: own, along: own },
      repeats: [],
      omit: [],
      ghost: false,
      steps: [],
    },
  }
  return { step: bundle, edits: [{ type: 'bundle-steps', ids: steps.map(({ id }) => id), bundle }] }
}

/** The same place so many pitches further on. */
function further(place: Place, number: number, pitch: string, way: ChainWay): Place {
  const { axis, sign } = chainWays[way]
  const given: Offset = place[axis]
  const term = termOf(pitch)
  const far = number === 1 ? term : `${number} * ${term}`
  const plain = Number(given.by) === 0
  // From the high side of what it is measured from, a distance counts back.
  const grows = given.from === 'high' ? sign < 0 : sign > 0
  const by = plain ? `${grows ? '' : '-'}${far}` : `${given.by} ${grows ? '+' : '-'} ${far}`
  return { ...place, [axis]: { ...given, by } }
}

/** An expression as part of another one. */
const termOf = (typed: string) => (/^[\w.]+$/.test(typed) ? typed : `(${typed})`)

/** So many names that go on from one: "Link 2" after "Link 1". */
function freeNames({ pieces }: Part, name: string, count: number): string[] {
  const taken = new Set(pieces.map((piece) => piece.name))
  const [, stem, number] = /^(.*?)\s*(\d*)$/.exec(name)!
  const start = number === '' ? 2 : Number(number) + 1
  return Array.from({ length: count + taken.size }, (_, i) => `${stem} ${start + i}`)
    .filter((each) => !taken.has(each))
    .slice(0, count)
}
