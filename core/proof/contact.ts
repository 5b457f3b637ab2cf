import { type Box, corners, type Frame, inverse, norm, pointOut, subtract } from '../place/index.ts'

/** Two pieces at one position of what moves. */
export interface PairStanding {
  readonly pieces: readonly [string, string]
  /** mm; 0 where they meet, and no more than is looked at */
  readonly gap: number
  /** where the second one is in the frame of the first, and the box of each in its own */
  readonly frame: Frame
  readonly boxes: readonly [Box, Box]
}

export interface Standing {
  /** the same pairs at each position, in one order */
  readonly pairs: readonly PairStanding[]
  /** whether all loops close there */
  readonly closes: boolean
}

/** How far something can go from where it is printed. */
export interface Reach {
  /** the farthest position that is free, all the way there; degrees or mm, to a hundredth */
  readonly position: number
  /** which pieces meet beyond it; none where a loop cannot close beyond it */
  readonly pieces: readonly [string, string] | undefined
}

/** Nothing deeper than this is passed by, mm; and this is how exactly a place is told, degrees or mm. */
const exact = 0.01
/** Into so many stretches a travel is parted to begin with. */
const stretches = 24
/** Over a stretch a point goes on an arc: so much farther than straight, at most. */
const arc = 1.05
/** Pieces as near as this meet, mm. */
export const touching = 1e-4

/**
 * How far something goes freely from `from` towards `to`; undefined where all the way. Between two positions nothing can meet that is
 * farther apart at both than it moves in between; where that cannot be told, the position half way is looked at as well (after
 * conservative advancement: Mirtich, Impulse-based Dynamic Simulation, 1996). Pieces that meet at `from` already are not looked at.
 */
export async function reachOf(
  standingAt: (position: number) => Standing | Promise<Standing>,
  from: number,
  to: number,
): Promise<Reach | undefined> {
  const look = async (position: number): Promise<At> => ({ position, ...(await standingAt(position)) })
  const start = await look(from)
  const watched = start.pairs.flatMap(({ gap }, i) => (gap < touching ? [] : [i]))
  const first = async (p: At, q: At): Promise<Reach | undefined> => {
    const met = watched.find((i) => q.pairs[i]!.gap < touching)
    const isSound = q.closes && met === undefined
    const unsure = watched.filter((i) => arc * wayOf(p.pairs[i]!, q.pairs[i]!) >= p.pairs[i]!.gap + q.pairs[i]!.gap)
    if (isSound && unsure.length === 0) return undefined
    const far = unsure.reduce((most, i) => Math.max(most, wayOf(p.pairs[i]!, q.pairs[i]!)), 0)
    if (isSound && far < exact) return undefined
    if (!isSound && Math.abs(q.position - p.position) <= exact)
      return { position: p.position, pieces: met === undefined ? undefined : q.pairs[met]!.pieces }
    const middle = await look((p.position + q.position) / 2)
    return (await first(p, middle)) ?? (await first(middle, q))
  }
  let before = start
  for (let i = 1; i <= stretches; i++) {
    const next = await look(from + ((to - from) * i) / stretches)
    const found = await first(before, next)
    if (found) return found
    before = next
  }
  return undefined
}

type At = Standing & { readonly position: number }

/** The farthest that a point of the one goes, seen from the other; from whichever it is less. */
function wayOf(p: PairStanding, q: PairStanding): number {
  // How far a point of a solid goes is greatest at a corner of any box about it.
  const way = (box: Box, before: Frame, after: Frame) =>
    corners(box).reduce((most, c) => Math.max(most, norm(subtract(pointOut(after, c), pointOut(before, c)))), 0)
  return Math.min(way(p.boxes[1], p.frame, q.frame), way(p.boxes[0], inverse(p.frame), inverse(q.frame)))
}
