import type { Edit, KeptPose, Laid, Laying } from '../../document/index.ts'
import { defaultFields, type PlaneAxis, planeTextOf } from '../../fields/index.ts'
import type { Scope, Solid } from '../../kernel/index.ts'
import { newTreatment, treatmentOf } from '../../operations/index.ts'
import { type Box, type Frame, joined, type Vec3 } from '../../place/index.ts'
import { printedInside } from '../../planning/index.ts'
import { type Built, turnFor } from '../../solids/index.ts'
import { noKeys, pegsOf, Section, splitAt } from '../../splits/index.ts'
import { formatLength, type PartUnit } from '../../units/index.ts'
import type { FoundCure } from '../define.ts'
import { clause, mm } from '../phrase.ts'
import type { CureKind } from './define.ts'
import { freeId } from './freeId.ts'

/** What is said of a piece that is printed in two. */
const texts = {
  'split-level': 'Split {piece} at a height of {at}, and put it together with two pegs',
  'split-level-pins': 'Split {piece} at a height of {at}, and put it together with two loose pins',
  'split-upright': 'Split {piece} in two upright, and put it together with two loose pins',
  'split-level-then':
    'Both halves stand on the bed, and nothing hangs there; pegs of ⌀ {size}, {depth} long, hold them together.',
  'split-pins-then':
    'Both halves lie on the cut; sockets in both take pins of ⌀ {size}, {long} long, which hold them together.',
} as const

/** Checks of what hangs. */
const hanging: readonly string[] = ['islands', 'overhangs', 'bridges']
/** Sizes that pegs come in, and how deep they go, the largest that find room first, mm. */
const pegSizes = [
  [6, 7],
  [5, 6],
  [4, 5],
  [3, 4],
] as const
const count = 2
/** A lower half is none, mm. */
const leastHalf = 3
/** Halves lie so far from each other beside the printer's least gap, mm. */
const clearOf = 3

/** A plane to split at, square to an axis, and which side of each half lies on the bed then; undefined where it stands as it is drawn. */
interface Parting {
  readonly axis: PlaneAxis
  readonly at: number
  readonly lies: readonly [Laying | undefined, Laying]
}

/**
 * What hangs, and nothing else helps, is printed in two halves: the one above on the cut, which is level with the top of what hangs; or both on
 * the cut.
 */
export const parted: CureKind = (built, { check, rank, under, code, pattern, values }, { kernel }) => {
  const { part, printer } = built.resolved
  const split = treatmentOf('split')
  const piece = built.pieces.find(({ piece: { id } }) => id === under?.piece)
  const solid = piece?.solid
  if (
    !under ||
    !hanging.includes(check) ||
    rank === 'advice' ||
    part.printPose !== '' ||
    !split ||
    !solid ||
    built.motions
  )
    return []
  // What is in two already, or printed inside another one, is split by whoever knows how it moves.
  const isAlone = built.pieces.every((other) => other === piece || other.of !== piece.of)
  if (!isAlone || !printedInside(part).some((ids) => ids.length === 1 && ids[0] === piece.of)) return []
  const box = solid.bounds()!
  return partingsOf(box, boxUnder(solid, under.triangles)).flatMap((parting): FoundCure[] => {
    const { axis, at } = parting
    const isLevel = parting.lies[0] === undefined
    const found = kernel.scope((scope) => {
      const plane = frameOf(parting, box)
      const halves = splitAt(scope, solid, plane, 0, (own) => own, noKeys).map((half) => half.bounds())
      const pegs = pegsIn(scope, solid, plane, printer.fits.snug.round.gap, !isLevel)
      return halves[0] && halves[1] && pegs ? { halves: [halves[0], halves[1]] as const, ...pegs } : undefined
    })
    if (!found) return []
    const { halves, size, depth } = found
    const length = (value: number) => formatLength(value, part.unit)
    const fields = {
      ...defaultFields(split.fields),
      ...{ at: planeTextOf({ of: { axis }, at: rounded(at, part.unit) }), keys: isLevel ? 'pegs' : 'pins' },
      ...{ count: `${count}`, size: length(size), depth: length(depth) },
    }
    const step = newTreatment(freeId(part, 'split'), { treatment: split, fields })
    const others = built.pieces.flatMap((each) => (each !== piece && each.solid ? [each.solid.bounds()!] : []))
    const pose: KeptPose = {
      ...{ id: freePose(built), name: 'In two', set: [] },
      laid: laidBeside(built, piece.piece.id, parting, halves, others),
    }
    const edits: Edit[] = [
      { type: 'add-step', piece: piece.piece.id, step },
      { type: 'keep-pose', pose },
      { type: 'print-pose', id: pose.id },
    ]
    const told = { piece: piece.piece.name, at: mm(at), size: mm(size), depth: mm(depth), long: mm(2 * depth) }
    return [
      {
        label: clause(texts, isLevel ? 'split-level' : axis === 'z' ? 'split-level-pins' : 'split-upright', told),
        ...{ edits, free: 'all', before: { code, pattern, values } },
        after: clause(texts, isLevel ? 'split-level-then' : 'split-pins-then', told),
      },
    ]
  })
}

/** Where a box is split about what hangs in it, the best first. */
function partingsOf({ min, max }: Box, under: Box): readonly Parting[] {
  const middle = (k: number) => (under.min[k]! + under.max[k]!) / 2
  const all: readonly Parting[] = [
    { axis: 'z', at: under.max[2], lies: [undefined, 'bottom'] },
    { axis: 'x', at: middle(0), lies: ['right', 'left'] },
    { axis: 'y', at: middle(1), lies: ['back', 'front'] },
    { axis: 'z', at: (min[2] + max[2]) / 2, lies: ['top', 'bottom'] },
  ]
  return all.filter(({ axis, at }) => {
    const k = ['x', 'y', 'z'].indexOf(axis)
    return at - min[k]! > leastHalf && max[k]! - at > leastHalf
  })
}

/** The frame of a plane: first lies what is before it. */
function frameOf({ axis, at }: Parting, { min, max }: Box): Frame {
  const [x, y, z] = [0, 1, 2].map((k) => (min[k]! + max[k]!) / 2) as [number, number, number]
  if (axis === 'x') return { origin: [at, y, z], u: [0, 1, 0], v: [0, 0, 1], n: [1, 0, 0] }
  if (axis === 'y') return { origin: [x, at, z], u: [0, 0, 1], v: [1, 0, 0], n: [0, 1, 0] }
  return { origin: [x, y, at], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] }
}

/** The box round what looks down on nothing. */
function boxUnder(solid: Solid, shown: readonly number[]): Box {
  const corners = solid.corners()
  const { triangles } = solid.mesh()
  let box: Box | undefined
  for (const t of shown)
    for (const k of [0, 1, 2]) {
      const v = 3 * triangles[3 * t + k]!
      const at: Vec3 = [corners[v]!, corners[v + 1]!, corners[v + 2]!]
      box = joined(box, { min: at, max: at })
    }
  return box!
}

/** Two pegs of the largest size that finds room; undefined where none does. */
function pegsIn(scope: Scope, solid: Solid, plane: Frame, gap: number, loose: boolean) {
  const section = new Section(scope, solid, plane)
  for (const [diameter, depth] of pegSizes) {
    const { fault } = pegsOf(scope, section, { count, diameter, depth, gap, loose }, 0.05, (own) => own)
    if (!fault) return { size: diameter, depth }
  }
  return undefined
}

/** A height as it is written, rounded down: where a plane lies above what it is meant for, a film of that is left below it. */
function rounded(at: number, unit: PartUnit): string {
  return `${Math.floor(at * 1000) / 1000}${unit === 'mm' ? '' : ' mm'}`
}

function freePose({ resolved: { part } }: Built): string {
  for (let i = 1; ; i++) if (!part.poses.some(({ id }) => id === `halves-${i}`)) return `halves-${i}`
}

/** Where halves lie that do not stand as they are drawn: in a row beside all that does. */
function laidBeside(
  { resolved: { printer } }: Built,
  piece: string,
  { lies }: Parting,
  halves: readonly [Box, Box],
  others: readonly Box[],
): readonly Laid[] {
  const apart = printer.leastGap + clearOf
  const drawn = lies[0] === undefined ? [...others, halves[0]] : others
  const rest = drawn.reduce<Box | undefined>(joined, undefined)
  const sizes = halves.map(({ min, max }, i) => {
    const turn = turnFor(lies[i] ?? 'bottom', () => [0, 0, -1])
    const size = [max[0] - min[0], max[1] - min[1], max[2] - min[2]] as const
    // How far a box that is turned by quarters reaches along x and y.
    return [0, 1].map(
      (k) => Math.abs(turn.u[k]!) * size[0] + Math.abs(turn.v[k]!) * size[1] + Math.abs(turn.n[k]!) * size[2],
    ) as [number, number]
  })
  const own = lies.flatMap((side, i) => (side ? [{ side, id: i === 0 ? piece : `${piece}.2`, size: sizes[i]! }] : []))
  // Along the side of the bed that has more room for them.
  const wide = (k: number) =>
    (rest ? rest.max[k]! - rest.min[k]! : 0) + own.reduce((sum, { size }) => sum + size[k]! + apart, 0)
  const k = wide(0) <= printer.bed[0] || wide(0) - printer.bed[0] <= wide(1) - printer.bed[1] ? 0 : 1
  const across = rest ? (rest.min[1 - k]! + rest.max[1 - k]!) / 2 : 0
  let from = rest ? rest.max[k]! + apart : -(wide(k) - apart) / 2
  return own.map(({ side, id, size }): Laid => {
    const along = from + size[k]! / 2
    from += size[k]! + apart
    const at = (k === 0 ? [along, across] : [across, along]).map((each) => Number(each.toFixed(2)))
    return { piece: id, down: side, turn: 0, at: at as [number, number] }
  })
}
