import { add, dot, norm, scaled, type Vec3 } from '../place/index.ts'

/** A plane that is to go along its unit normal by `by` mm. */
export interface Going {
  readonly normal: Vec3
  readonly by: number
}

/** A plane may be missed by so much, mm. */
const missed = 1e-3
/** A corner goes at most so many times as far as its walls. */
const farthest = 6
/** The square of what a direction must have of its own, beside those before it. */
const ownShare = 4e-4

/**
 * The shortest way that takes all of these planes along, the first one before the others; undefined where there is none, or it is far
 * more than `reach` mm.
 */
export function meetingWay(planes: readonly Going[], reach: number): Vec3 | undefined {
  let move: Vec3 = [0, 0, 0]
  const known: Vec3[] = []
  for (const { normal, by } of planes) {
    const own = known.reduce((rest, each) => add(rest, scaled(each, -dot(rest, each))), normal)
    const size = dot(own, own)
    if (size < ownShare || known.length === 3) continue
    // Along what is new in it, so that the ones before it stay where they are.
    move = add(move, scaled(own, (by - dot(normal, move)) / size))
    known.push(scaled(own, 1 / Math.sqrt(size)))
  }
  const isMissed = planes.some(({ normal, by }) => norm(normal) > 0 && Math.abs(dot(normal, move) - by) > missed)
  return isMissed || norm(move) > farthest * reach ? undefined : move
}
