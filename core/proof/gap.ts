import type { Kernel, Solid } from '../kernel/index.ts'
import { apart, betweenWalls, lookingAt, TriangleTree, towards, wallAt } from '../mesh/index.ts'
import { meet, scaled, subtract, type Vec3 } from '../place/index.ts'
import { alikeIn, type Built, type TwiceBuilt } from '../solids/index.ts'
import { type Check, type Found, findingOf, type Mark, type ProofContext, type ProofPiece } from './define.ts'
import { isIn } from './inside.ts'
import { mm, mm3 } from './phrase.ts'

/** What is found. */
const texts = {
  'gap-far': '{pieces} are more than {far} apart.',
  'gap-overlap': '{pieces} overlap by {shared}; they would print as one.',
  'gap-touch': '{pieces} touch; they would print as one.',
  'gap-touch-split': '{pieces} touch: print them one by one, or give the split a gap of {needed}.',
  'gap-wide': '{pieces} stay {gap} apart; the {printer} needs {needed}.',
  'gap-narrow': '{pieces} are {gap} apart; the {printer} needs {needed} to keep them from fusing.',
  'gap-narrow-split':
    '{pieces} are {gap} apart; the {printer} needs {needed} to keep them from fusing, unless they are printed one by one.',
  'gap-unknown': 'The gap between {pieces} could not be measured.',
} as const

/** Pieces farther apart than this do not concern each other, mm. */
export const searchWithin = 10

/** Whether pieces that print side by side or inside each other stay apart on this printer. */
export const gapCheck: Check = {
  id: 'gap',
  label: 'Gaps',
  meaning: "Different pieces are at least the printer's least gap apart.",
  texts,
  scope: 'part',
  async run(context) {
    const { built, pieces, twice: measured, kept } = context
    const { printer } = built.resolved
    const findings: Found[] = []
    if (pieces.length < 2) return findings
    const twice = await measured?.()
    for (const [i, a] of pieces.entries())
      for (const b of pieces.slice(i + 1)) {
        if (!a.built.solid || !b.built.solid) continue
        const from = [printer, a.built.of === b.built.of, twice !== undefined]
        findings.push(...(await kept('gap', [a, b], from, async () => [await gapOf(context, twice, a, b)])))
      }
    return findings
  },
}

/** What is to be said of the gap between two pieces that have material. */
async function gapOf(
  { kernel, built, tree, surface, pause }: ProofContext,
  twice: TwiceBuilt | undefined,
  a: ProofPiece,
  b: ProofPiece,
): Promise<Found> {
  const { printer } = built.resolved
  const [one, two] = [a.built.solid!, b.built.solid!]
  await pause()
  const about = [a, b].map(({ built: { piece } }) => ({ kind: 'piece', id: piece.id }) as const)
  const pieces = [a, b].map(({ built: { piece } }) => piece.name)
  const finding = findingOf('gap', texts, about)
  const field: Mark = { kind: 'field', field: 'gap', pieces: about.map(({ id }) => id) }
  const needs = { printer: printer.name, needed: mm(printer.leastGap) }
  // What a step has split can be printed one by one.
  const isSplit = a.built.of === b.built.of
  const coarse = twice && { pieces: alikeIn(twice.fine, twice.coarse) }
  const flats = trueGap([one, two], twice && pairOf(twice.fine, a, b), coarse && pairOf(coarse, a, b), surface)
  await pause()
  // What lies in another's material has no gap, however its walls face that one's.
  const gap = flats !== undefined && flats > 0 ? (wallGap(tree(a), tree(b)) ?? flats) : flats
  if (gap === undefined) return finding('pass', 'gap-far', { pieces, far: mm(searchWithin) })
  if (gap <= 0) {
    const shared = sharedMaterial(kernel, one, two)
    if (shared.volume > 0)
      return finding('fault', 'gap-overlap', { pieces, shared: mm3(shared.volume) }, { marks: shared.marks })
    const marks = nearestMarks(tree(a), tree(b))
    return isSplit
      ? finding('advice', 'gap-touch-split', { pieces, needed: needs.needed }, { marks })
      : finding('fault', 'gap-touch', { pieces }, { marks })
  }
  const told = { pieces, gap: mm(gap), ...needs }
  if (gap >= printer.leastGap - hardly) return finding('pass', 'gap-wide', told, { marks: [field] })
  const marks = [...nearestMarks(tree(a), tree(b)), field]
  if (gap > 0 && isSplit) return finding('advice', 'gap-narrow-split', told, { marks })
  if (gap > 0) return finding('fault', 'gap-narrow', told, { marks })
  return finding('warning', 'gap-unknown', { pieces })
}

/** Nearer than this the walls that face each other are asked what they are, mm. */
const closely = 2

/** By the formulas of the walls that come nearest to each other: a pin in its bore, rounds beside each other or beside a flat. */
function wallGap(a: TriangleTree, b: TriangleTree): number | undefined {
  const near = apart(a, b, { within: closely })
  if (!near || near.distance < hardly) return undefined
  const way = scaled(subtract(near.to, near.from), 1 / near.distance)
  const walls = ([a, b] as const).map(({ nodes: { mesh } }, i) => {
    const [place, out] = i === 0 ? [near.from, way] : [near.to, scaled(way, -1)]
    return wallAt(mesh, lookingAt(mesh, near.triangles[i as 0 | 1], place, out))
  })
  const [one, two] = walls
  const gap = one && two && betweenWalls(one, two)
  if (gap === undefined) return undefined
  // Flats keep farther apart than what they stand for, and by no more than they lie off it; else something else comes nearest.
  const off = walls.reduce((sum, wall) => sum + (wall?.kind === 'round' ? wall.sagitta : 0), 0)
  return gap > 0 && gap < near.distance + hardly && gap > near.distance - off - hardly ? gap : undefined
}

/** A gap that lacks less than this is as wide as it was asked for, mm: sizes are settled to far less. */
const hardly = 1e-4

/** The surface of a solid, to be asked what is near. */
type SurfaceOf = (solid: Solid) => TriangleTree

/** mm; undefined where two solids are farther apart than is looked at; 0 where they meet, or share material; NaN where they are nowhere. */
export function gapBetween(
  a: Solid,
  b: Solid,
  surface: SurfaceOf = (solid) => new TriangleTree(solid.mesh()),
): number | undefined {
  const [boxA, boxB] = [a.bounds(), b.bounds()]
  if (!boxA || !boxB) return undefined
  if (![boxA, boxB].flatMap(({ min, max }) => [...min, ...max]).every(Number.isFinite)) return Number.NaN
  if (!meet(boxA, boxB, searchWithin)) return undefined
  const gap = apart(surface(a), surface(b), { within: searchWithin })?.distance
  return (gap !== undefined && gap < meeting) || isIn(a, b) || isIn(b, a) ? 0 : gap
}

/** Surfaces meet where they are nearer than this, mm: corners are read in single precision. */
const meeting = 1e-5

type Pair = readonly [Solid, Solid]

function pairOf({ pieces }: Pick<Built, 'pieces'>, ...of: readonly [ProofPiece, ProofPiece]): Pair | undefined {
  const [one, two] = of.map(({ built }) => pieces.find(({ piece }) => piece.id === built.piece.id)?.solid)
  return one && two && [one, two]
}

/**
 * mm between round walls as they are meant: flats keep a little farther apart, and the more of them the less. Of solids at
 * two finenesses, where they are known; else of `as` they are.
 */
function trueGap(as: Pair, fine: Pair | undefined, coarse: Pair | undefined, surface: SurfaceOf): number | undefined {
  const near = gapBetween(...(fine ?? as), surface)
  const far = coarse && gapBetween(...coarse, surface)
  if (!fine || near === undefined || far === undefined || near <= 0) return near
  // Inside out, where flats come nearer than the walls they stand for, it would be the other way round: never less than none.
  return Math.max(0, towards(near, far))
}

/** mm³ that two solids share. */
export function sharedVolume(kernel: Kernel, a: Solid, b: Solid): number {
  return sharedMaterial(kernel, a, b).volume
}

/** What two solids share; a rounding skin below a thousandth of a mm³ counts as nothing. */
function sharedMaterial(kernel: Kernel, a: Solid, b: Solid): { readonly volume: number; readonly marks: Mark[] } {
  return kernel.scope((scope) => {
    const shared = scope.intersection([a, b])
    const volume = shared.volume()
    if (volume < 1e-3) return { volume: 0, marks: [] }
    const { positions, triangles } = shared.mesh()
    const points = Float32Array.from({ length: 3 * triangles.length }, (_, i) => {
      return positions[3 * triangles[Math.floor(i / 3)]! + (i % 3)]!
    })
    return { volume, marks: [{ kind: 'triangles', points }] }
  })
}

/** Where two surfaces are nearest to each other. */
export function nearestMarks(a: TriangleTree, b: TriangleTree): Mark[] {
  const near = apart(a, b, { within: searchWithin })
  return near ? marksFrom(near.from, near.to) : []
}

export function marksFrom(from: Vec3, to: Vec3): Mark[] {
  const points = Float32Array.from([...from, ...to])
  return [
    { kind: 'lines', points },
    { kind: 'points', points },
  ]
}
