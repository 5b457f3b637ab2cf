import type { Joint, Piece } from '../document/index.ts'
import { whenAsked } from '../naming/index.ts'
import { compose, type Frame, inverse, placed, world } from '../place/index.ts'
import { bedSeating, type ResolvedPart } from '../planning/index.ts'
import { type Problem, ProblemError, problemFrom, tried } from '../problems/index.ts'
import { boxReach } from '../shapes/index.ts'
import type { Entry } from './cache.ts'
import type { Making } from './combining.ts'
import { jointNames } from './surfaceNames.ts'

export interface BuiltJoint {
  readonly joint: Joint
  /** where its own frame stands, in the bed's frame */
  readonly frame: Frame
}

export interface PlacedJoint extends BuiltJoint {
  readonly sides: readonly { readonly piece: string; readonly cut: Entry; readonly add: Entry }[]
}

/** What each joint takes from its pieces and adds to them, where it stands. */
export function placedJoints(
  { joints }: ResolvedPart,
  { kernel, cache, owners }: Making,
  fineness: number,
  problems: Problem[],
): PlacedJoint[] {
  const out: PlacedJoint[] = []
  for (const { joint, definition, values, place } of joints.values()) {
    if (!definition || !values || !place) continue
    try {
      const frame = placed(bedSeating, place, (d) => boxReach(definition.box(values as never), d), 'on-underside')
      if (![...frame.origin, ...frame.u, ...frame.v].every(Number.isFinite))
        throw new ProblemError('step-failed', { detail: 'it comes to no finite size or place' })
      const key = `joint|${joint.id}|${JSON.stringify([joint.kind, values, fineness, frame])}`
      const sides = ([0, 1] as const).map((side) => {
        const part = (what: 'cuts' | 'adds') =>
          cache.get(`${key}|${side}|${what}`, () =>
            kernel.scope((scope) => {
              const solids = definition.solids(values as never, { scope, fineness })[what][side]
              const { solid, id } = scope.original(scope.union(solids))
              const tell = whenAsked(() => jointNames(definition, values, side))
              owners.set(id, { kind: 'joint', id: joint.id, tell })
              return { solid: scope.handOver(scope.placed(solid, frame)), originals: [id] }
            }),
          )
        return { piece: joint.pieces[side], cut: part('cuts'), add: part('adds') }
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
  joints: readonly PlacedJoint[],
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

/** Where the second piece of a joint stands at a position of its travel, in the bed's frame. */
export function jointMotion(
  built: { readonly resolved: ResolvedPart; readonly joints: readonly BuiltJoint[] },
  jointId: string,
  position: number,
): Frame {
  const resolved = built.resolved.joints.get(jointId)
  const placedJoint = built.joints.find(({ joint }) => joint.id === jointId)
  if (!resolved?.definition || !resolved.values || !placedJoint) return world
  const { frame } = placedJoint
  // frame · motion · frame⁻¹
  const { definition, values } = resolved
  // One that cannot tell how it moves does not.
  const motion = tried(() => definition.motion(values as never, position))
  const sound = motion && [...motion.origin, ...motion.u, ...motion.v].every(Number.isFinite)
  return sound ? compose(compose(frame, motion), inverse(frame)) : world
}
