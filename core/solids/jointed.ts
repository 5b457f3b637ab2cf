import type { Piece } from '../document/index.ts'
import { whenAsked } from '../naming/index.ts'
import { directionIn } from '../place/index.ts'
import type { Plan, ResolvedPart, StandingJoint } from '../planning/index.ts'
import { type Problem, problemFrom } from '../problems/index.ts'
import type { Entry } from './cache.ts'
import type { Making } from './combining.ts'
import { jointNames } from './surfaceNames.ts'

export interface JointSides extends StandingJoint {
  readonly sides: readonly {
    readonly piece: string
    readonly cut: Entry
    readonly add: Entry
    /** what of it bends out of the way */
    readonly bends?: Entry | undefined
  }[]
}

/** What each joint takes from its pieces and adds to them, where it stands. */
export function madeJoints(
  { joints }: ResolvedPart,
  plan: Plan,
  { kernel, cache, owners }: Making,
  fineness: number,
  problems: Problem[],
): JointSides[] {
  const out: JointSides[] = []
  for (const { joint, definition, values } of joints.values()) {
    const { frame, second } = plan.joints.get(joint.id) ?? {}
    if (!definition || !values || !frame) continue
    if (definition.between) {
      out.push({ joint, frame, second, sides: [] })
      continue
    }
    try {
      const context = { fineness, up: directionIn(frame, [0, 0, 1]) }
      const key = `joint|${joint.id}|${JSON.stringify([joint.kind, values, fineness, frame])}`
      const sides = ([0, 1] as const).map((side) => {
        const part = (what: 'cuts' | 'adds') =>
          cache.get(`${key}|${side}|${what}`, () =>
            kernel.scope((scope) => {
              const solids = definition.solids(values, { scope, ...context })[what][side]
              const { solid, id } = scope.original(scope.union(solids))
              const tell = whenAsked(() => jointNames(definition, values, side))
              owners.set(id, { kind: 'joint', id: joint.id, tell })
              return { solid: scope.handOver(scope.placed(solid, frame)), originals: [id] }
            }),
          )
        const bends =
          definition.bends &&
          cache.get(`${key}|${side}|bends`, () => ({
            solid: kernel.scope((scope) => {
              const solids = definition.bends!(values, { scope, ...context })[side]
              return scope.handOver(scope.placed(scope.union(solids), frame))
            }),
          }))
        return { piece: joint.pieces[side], cut: part('cuts'), add: part('adds'), bends }
      })
      out.push({ joint, frame, sides })
    } catch (error) {
      problems.push(problemFrom(error, ['joints', joint.id]))
    }
  }
  return out
}

/** The piece with what its joints take from it and add to it. */
export function withJoints(
  own: Entry | undefined,
  piece: Piece,
  joints: readonly JointSides[],
  { kernel, cache }: Making,
  problems: Problem[],
): Entry | undefined {
  const sides = joints.flatMap((joint) => joint.sides.filter((side) => side.piece === piece.id))
  if (sides.length === 0) return own
  const key = `joined|${own?.id ?? ''}|${sides.map(({ cut, add }) => `${cut.id},${add.id}`).join('|')}`
  try {
    return cache.get(key, () => ({
      solid: kernel.scope((scope) => {
        const cut = own && [
          scope.difference(
            own.solid,
            sides.map((side) => side.cut.solid),
          ),
        ]
        return scope.handOver(scope.union([...(cut ?? []), ...sides.map((side) => side.add.solid)]))
      }),
    }))
  } catch (error) {
    problems.push(problemFrom(error, ['pieces', piece.id]))
    return own
  }
}

/** The piece without what bends out of the way in its joints; undefined where nothing does. */
export function withoutBends(
  whole: Entry | undefined,
  piece: Piece,
  joints: readonly JointSides[],
  { kernel, cache }: Making,
): Entry | undefined {
  const bends = joints
    .flatMap(({ sides }) => sides.flatMap((side) => (side.piece === piece.id ? [side.bends] : [])))
    .filter((each) => each?.solid.isEmpty() === false) as Entry[]
  if (!whole || bends.length === 0) return undefined
  return cache.get(`stiff|${whole.id}|${bends.map(({ id }) => id).join()}`, () => ({
    solid: kernel.scope((scope) =>
      scope.handOver(
        scope.difference(
          whole.solid,
          bends.map(({ solid }) => solid),
        ),
      ),
    ),
  }))
}
