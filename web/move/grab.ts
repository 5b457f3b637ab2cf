import type { Joint } from '@makrel/core/document'
import { type Freedom, followed, openAt, type Sight, seenFrom, type Wanted, withPosition } from '@makrel/core/mechanism'
import { type Frame, pointIn, pointOut, type Vec3, world } from '@makrel/core/place'
import { tried } from '@makrel/core/problems'
import type { useWorked } from '../state/built.ts'
import { poseIn } from './swing.ts'

type Worked = NonNullable<ReturnType<typeof useWorked>>

/** A freedom of a joint, and where it stands. */
export interface Grip {
  readonly joint: Joint
  readonly index: number
  readonly freedom: Freedom
}

/** Nearer than this two freedoms follow the pointer equally well, mm. */
const alike = 0.5

/**
 * What takes a piece along by a place on it: for each line of sight, which freedom was moved, and what is wanted then. The freedom is
 * that with which the place comes nearest to the first line; of several, the one of a joint that carries the piece. Undefined where
 * no joint moves the place.
 */
export function grabbed(
  worked: Worked,
  { piece, point, wanted, held }: { piece: string; point: Vec3; wanted: Wanted; held: string | undefined },
): ((sight: Sight) => { readonly grip: Grip; readonly wanted: Wanted }) | undefined {
  const seen = (of: Wanted): Frame => seenFrom(poseIn(worked, of).motions, held).get(piece) ?? world
  const own = pointIn(seen(wanted), point)
  const { positions } = poseIn(worked, wanted)
  const grips = gripsOf(worked)
    .map((grip) => {
      const at = positions[grip.joint.id]?.[grip.index] ?? grip.freedom.atRest
      return { grip, at, pointAt: (to: number) => pointOut(seen(withPosition(wanted, idOf(grip), to)), own) }
    })
    .filter(({ grip, at, pointAt }) => moves(pointAt, at, grip.freedom))
  if (grips.length === 0) return undefined
  let chosen: (typeof grips)[number] | undefined
  let last = 0
  return (sight) => {
    if (!chosen) {
      const tries = grips.map((each) => ({
        each,
        off: followed(each.pointAt, sight, { at: each.at, ...openAt(each.grip.freedom, each.at) }).off,
      }))
      const least = Math.min(...tries.map(({ off }) => off))
      const good = tries.filter(({ off }) => off < least + alike).map(({ each }) => each)
      chosen = good.find(({ grip }) => grip.joint.pieces[1] === piece) ?? good[0]!
      last = chosen.at
    }
    const { grip, pointAt } = chosen
    last = followed(pointAt, sight, { at: last, ...openAt(grip.freedom, last) }).position
    return { grip, wanted: withPosition(wanted, idOf(grip), last) }
  }
}

const idOf = ({ joint, index }: Grip) => ({ joint: joint.id, index })

function gripsOf({ resolved, plan }: Worked): Grip[] {
  return [...resolved.joints.values()].flatMap(({ joint, definition, values }) => {
    if (!plan.joints.has(joint.id) || !definition || !values) return []
    const freedoms = tried(() => definition.freedoms(values)) ?? []
    return freedoms.map((freedom, index) => ({ joint, index, freedom }))
  })
}

/** Whether a place moves with a freedom. */
function moves(pointAt: (position: number) => Vec3, at: number, { from, to }: Freedom): boolean {
  const by = Math.min(1, (to - from) / 4)
  const [a, b] = [pointAt(at), pointAt(at + by > to ? at - by : at + by)]
  return Math.hypot(...a.map((x, k) => x - b[k]!)) > 1e-6
}
