import type { Ring } from '../kernel/index.ts'
import { type LaidPlace, layerMiddle } from '../layers/index.ts'
import { isOutside, shellsOf, type TriangleTree } from '../mesh/index.ts'
import type { Vec3 } from '../place/index.ts'
import { ringArea, unpackedRings, type Vec2 } from '../plane/index.ts'
import { type Check, findingOf, type Mark, type ProofPiece } from './define.ts'
import { mm } from './phrase.ts'
import { whoseIn } from './whose.ts'

/** What is found. */
const texts = {
  'joined-wide': '{piece} holds together by at least a line of {line}.',
  'joined-narrow': '{piece} is joined by less than a line of {line}: the {printer} would print it in {count} parts.',
} as const

/** What is meant to be one holds together by at least a line. */
export const joinedCheck: Check = {
  id: 'joined',
  label: 'Joined',
  meaning: 'Each solid holds together by at least a line of the printer.',
  texts,
  scope: 'piece',
  from: (context, piece) => [context.built.resolved.printer, whoseIn(context, piece).all()],
  async run(context, piece) {
    const { built, laid, tree } = context
    const { id, name } = piece.built.piece
    const { lineWidth, name: printer } = built.resolved.printer
    const finding = findingOf('joined', texts, [{ kind: 'piece', id }])
    const groups = await laid(piece)
    // That nothing of it is laid is told by its own check.
    if (groups.length === 0) return []
    const told = { piece: name, line: mm(lineWidth) }
    const at: At = ([x, y], layer) => [x, y, layerMiddle(layer, built.resolved.printer)]
    const apart = piece.figures!.solids === 1 ? [groups] : bodiesOf(groups, tree(piece), piece, at)
    const broken = apart.filter((own) => own.length > 1)
    if (broken.length === 0) return [finding('pass', 'joined-wide', told)]
    const count = broken.reduce((sum, own) => sum + own.length, 0)
    const marks = broken.flatMap((own) => marksOf(own, at))
    // What comes nearest there is what could be moved together.
    const near = marks.flatMap(({ points }) => trianglesAt(tree(piece), points))
    const steps = whoseIn(context, piece).of(near).about
    const about = [...steps, { kind: 'piece', id } as const]
    return [findingOf('joined', texts, about)('fault', 'joined-narrow', { ...told, printer, count }, { marks })]
  },
}

type PointMark = Extract<Mark, { readonly points: Float32Array }>

/** The triangles that lie nearest to some points: x, y, z of each. */
function trianglesAt(tree: TriangleTree, points: Float32Array): number[] {
  return Array.from({ length: points.length / 3 }, (_, i) => {
    return tree.nearest([points[3 * i]!, points[3 * i + 1]!, points[3 * i + 2]!])!.triangle
  })
}

type Group = readonly LaidPlace[]
/** Where a place of a layer's section is. */
type At = (p: Vec2, layer: number) => Vec3

/** The groups of each solid that a piece falls into: what lies apart on purpose is joined by nothing. */
function bodiesOf(
  groups: readonly Group[],
  surface: TriangleTree,
  { built }: ProofPiece,
  at: At,
): (readonly Group[])[] {
  const { shells, shellOf } = shellsOf(built.solid!.mesh())
  const bodies = new Map<number, Group[]>()
  for (const group of groups) {
    const { inside, layer } = group[0]!
    // From inside a solid its own surface is the nearest one.
    const near = surface.nearest(at(inside, layer))!
    const shell = shellOf[near.triangle]!
    const body = isOutside(shells[shell]!) ? shell : shells[shell]!.within
    bodies.set(body, [...(bodies.get(body) ?? []), group])
  }
  return [...bodies.values()]
}

/** Where the smaller groups of a solid come nearest to its others, layer by layer, or where they lie, if that is not to be seen. */
function marksOf(groups: readonly Group[], at: At): PointMark[] {
  const areaOf = (group: Group) => group.reduce((sum, { core }) => sum + areaIn(unpackedRings(core)), 0)
  const [, ...smaller] = [...groups].sort((a, b) => areaOf(b) - areaOf(a))
  return smaller.slice(0, mostMarked).flatMap((group): PointMark[] => {
    const necks = necksOf(
      group,
      groups.filter((other) => other !== group),
    )
    if (necks.length > 0) {
      const points = Float32Array.from(necks.flatMap((pair) => pair.flatMap(({ p, layer }) => at(p, layer))))
      return [
        { kind: 'lines', points },
        { kind: 'points', points },
      ]
    }
    const { inside, layer } = group[0]!
    return [{ kind: 'points', points: Float32Array.from(at(inside, layer)) }]
  })
}

/** More groups than these are not shown, nor more layers of one. */
const [mostMarked, mostLayers] = [20, 30]
/** Of a ring with more corners some are passed over. */
const mostCorners = 60
/** In which layers a neck is shown: where it is no longer than the shortest by so much, mm. */
const longer = 0.2

interface Spot {
  readonly p: Vec2
  readonly layer: number
}
interface Neck {
  readonly pair: readonly [Spot, Spot]
  /** mm */
  readonly long: number
}

/** Where a group comes nearest to others in the layers of both, or right above each other. */
function necksOf(group: Group, others: readonly Group[]): Neck['pair'][] {
  const byLayer = new Map<number, LaidPlace[]>()
  for (const place of others.flat()) byLayer.set(place.layer, [...(byLayer.get(place.layer) ?? []), place])
  const stride = Math.ceil(group.length / mostLayers)
  const necks = group
    .filter((_, i) => i % stride === 0 || i === group.length - 1)
    .flatMap((own) => {
      const beside = [-1, 0, 1].flatMap((up) => byLayer.get(own.layer + up) ?? [])
      return beside.length > 0 ? [neckOf(own, beside)] : []
    })
  const shortest = Math.min(...necks.map(({ long }) => long))
  return necks.flatMap(({ pair, long }) => (long <= shortest + longer ? [pair] : []))
}

function neckOf(own: LaidPlace, others: readonly LaidPlace[]): Neck {
  let best: Neck | undefined
  const corners = cornersOf(unpackedRings(own.core))
  for (const other of others) {
    const theirs = cornersOf(unpackedRings(other.core))
    for (const p of corners)
      for (const q of theirs) {
        const long = Math.hypot(p[0] - q[0], p[1] - q[1])
        if (best && best.long <= long) continue
        best = {
          long,
          pair: [
            { p, layer: own.layer },
            { p: q, layer: other.layer },
          ],
        }
      }
  }
  return best!
}

function cornersOf(core: readonly Ring[]): Vec2[] {
  return core.flatMap((ring) => {
    const stride = Math.ceil(ring.length / mostCorners)
    return ring.filter((_, i) => i % stride === 0)
  })
}

function areaIn(core: readonly Ring[]): number {
  return core.reduce((sum, ring) => sum + ringArea(ring), 0)
}
