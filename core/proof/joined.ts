import type { Ring } from '../kernel/index.ts'
import { type LaidPlace, layerMiddle } from '../layers/index.ts'
import { isOutside, shellsOf, type TriangleTree } from '../mesh/index.ts'
import type { Vec3 } from '../place/index.ts'
import { ringArea, type Vec2 } from '../plane/index.ts'
import { type Check, type Mark, millimetres, type ProofPiece } from './define.ts'

/** What is meant to be one holds together by at least a line. */
export const joinedCheck: Check = {
  id: 'joined',
  label: 'Joined',
  meaning: 'Each solid holds together by at least a line of the printer.',
  scope: 'piece',
  async run({ built, laid, tree }, piece) {
    const { id, name } = piece.built.piece
    const { lineWidth, name: printer } = built.resolved.printer
    const about = [{ kind: 'piece', id }] as const
    const groups = await laid(piece)
    // That nothing of it is laid is told by its own check.
    if (groups.length === 0) return []
    const line = `a line of ${millimetres(lineWidth)}`
    const at: At = ([x, y], layer) => [x, y, layerMiddle(layer, built.resolved.printer)]
    const apart = piece.figures!.solids === 1 ? [groups] : bodiesOf(groups, tree(piece), piece, at)
    const broken = apart.filter((own) => own.length > 1)
    if (broken.length === 0)
      return [{ check: 'joined', rank: 'pass', text: `${name} holds together by at least ${line}.`, about }]
    const count = broken.reduce((sum, own) => sum + own.length, 0)
    return [
      {
        check: 'joined',
        rank: 'fault',
        text: `${name} is joined by less than ${line}: the ${printer} would print it in ${count} parts.`,
        about,
        marks: broken.flatMap((own) => marksOf(own, at)),
      },
    ]
  },
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

/** Where the smaller groups of a solid come nearest to its others, or where they lie, if that is not to be seen. */
function marksOf(groups: readonly Group[], at: At): Mark[] {
  const areaOf = (group: Group) => group.reduce((sum, { core }) => sum + areaIn(core), 0)
  const [, ...smaller] = [...groups].sort((a, b) => areaOf(b) - areaOf(a))
  return smaller.slice(0, mostMarked).flatMap((group): Mark[] => {
    const neck = neckOf(
      group,
      groups.filter((other) => other !== group),
    )
    if (neck) {
      const points = Float32Array.from(neck.flatMap(({ p, layer }) => at(p, layer)))
      return [
        { kind: 'lines', points },
        { kind: 'points', points },
      ]
    }
    const { inside, layer } = group[0]!
    return [{ kind: 'points', points: Float32Array.from(at(inside, layer)) }]
  })
}

/** More of them than these are not shown. */
const mostMarked = 20
/** Of a ring with more corners some are passed over. */
const mostCorners = 60

interface Spot {
  readonly p: Vec2
  readonly layer: number
}

/** The places in one layer, or one above the other, where a group comes nearest to others. */
function neckOf(group: Group, others: readonly Group[]): readonly [Spot, Spot] | undefined {
  let best: { readonly pair: readonly [Spot, Spot]; readonly far: number } | undefined
  const byLayer = new Map<number, LaidPlace[]>()
  for (const place of others.flat()) byLayer.set(place.layer, [...(byLayer.get(place.layer) ?? []), place])
  for (const own of group)
    for (const other of [-1, 0, 1].flatMap((up) => byLayer.get(own.layer + up) ?? []))
      for (const p of cornersOf(own.core))
        for (const q of cornersOf(other.core)) {
          const far = Math.hypot(p[0] - q[0], p[1] - q[1])
          if (best && best.far <= far) continue
          best = {
            far,
            pair: [
              { p, layer: own.layer },
              { p: q, layer: other.layer },
            ],
          }
        }
  return best?.pair
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
