import { type Box, corners, dot, type Frame, inverse, norm, pointOut, subtract } from '../place/index.ts'

/** Two pieces at one position of what moves. */
export interface PairStanding {
  readonly pieces: readonly [string, string]
  /** mm; 0 where they meet, and no more than is looked at */
  readonly gap: number
  /** where the second one is in the frame of the first, and the box of each in its own */
  readonly frame: Frame
  readonly boxes: readonly [Box, Box]
}

export interface PairsAt {
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
/** Into so many stretches a travel is parted at least. */
const stretches = 24
/** No piece turns farther over a stretch than this, seen from another one, degrees; what turns on is not seen to have come round. */
const mostTurned = 30
/** Over a stretch, which is taken with up to twice that turn, a point goes on an arc: so much farther than straight, at most. */
const arc = arcOf(2 * mostTurned)
/** How fast pieces turn is found over this share of a travel. */
const aLittle = 1e-5
/** Pieces as near as this meet, mm. */
export const touching = 1e-4

/**
 * How far something goes freely from `from` towards `to`; undefined where all the way. Between two positions nothing can meet that is
 * farther apart at both than it moves in between; where that cannot be told, the position half way is looked at as well (after
 * conservative advancement: Mirtich, Impulse-based Dynamic Simulation, 1996). Pieces that meet at `from` already are not looked at.
 */
export async function reachOf(
  standingAt: (position: number) => PairsAt | Promise<PairsAt>,
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
  const turned = (p: At, q: At) =>
    watched.reduce((most, i) => Math.max(most, turnBetween(p.pairs[i]!.frame, q.pairs[i]!.frame)), 0)
  const way = to - from
  const next = await look(from + way * aLittle)
  /** the share of its travel that the next stretch is */
  let share = Math.min(1 / stretches, (aLittle * mostTurned) / Math.max(turned(start, next), 1e-12))
  let [before, gone] = [start, 0]
  while (gone < 1) {
    const then = Math.min(1, gone + share)
    const after = await look(then === 1 ? to : from + way * then)
    const turn = turned(before, after)
    // Twice as fast as it was: it is looked at sooner.
    if (turn > 2 * mostTurned && share > least) {
      share /= 2
      continue
    }
    const found = await first(before, after)
    if (found) return found
    // From one stretch to the next it may come to turn faster, but not by much at once.
    share = Math.min(1 / stretches, 1.3 * share, (then - gone) * (mostTurned / Math.max(turn, 1e-9)))
    before = after
    gone = then
  }
  return undefined
}

/** Shorter stretches than this share of a travel are not parted again. */
const least = 1e-5

/** An arc of so many degrees, as a share of its chord. */
function arcOf(degrees: number): number {
  const half = (degrees * Math.PI) / 360
  return half / Math.sin(half)
}

/** By how many degrees a frame is turned from another one, 180 at most. */
function turnBetween(a: Frame, b: Frame): number {
  const trace = dot(a.u, b.u) + dot(a.v, b.v) + dot(a.n, b.n)
  return (Math.acos(Math.min(1, Math.max(-1, (trace - 1) / 2))) * 180) / Math.PI
}

type At = PairsAt & { readonly position: number }

/** The farthest that a point of the one goes, seen from the other; from whichever it is less. */
function wayOf(p: PairStanding, q: PairStanding): number {
  // How far a point of a solid goes is greatest at a corner of any box about it.
  const way = (box: Box, before: Frame, after: Frame) =>
    corners(box).reduce((most, c) => Math.max(most, norm(subtract(pointOut(after, c), pointOut(before, c)))), 0)
  return Math.min(way(p.boxes[1], p.frame, q.frame), way(p.boxes[0], inverse(p.frame), inverse(q.frame)))
}
