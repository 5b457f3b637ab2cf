import type { Kernel, Solid } from '../kernel/index.ts'
import type { Positions, Wanted } from '../mechanism/index.ts'
import { apart, TriangleTree, towards } from '../mesh/index.ts'
import {
  type Box,
  boxOut,
  compose,
  type Frame,
  inverse,
  meet,
  norm,
  pointOut,
  type Vec3,
  world,
} from '../place/index.ts'
import { poseOf } from '../planning/index.ts'
import { alikeIn, type Built, type BuiltPiece, type TwiceBuilt } from '../solids/index.ts'
import { type PairsAt, type Reach, reachOf, touching } from './contact.ts'
import { searchWithin, sharedVolume } from './gap.ts'
import { isIn } from './inside.ts'

/** How all pieces stand to each other at one position of what moves. */
export interface SwingPosition {
  /** of all joints, those that followed too */
  readonly positions: Positions
  /** smallest distance between two pieces that move against each other, mm; 0 where they meet, undefined where all are far apart */
  readonly gap: number | undefined
  /** between which, by their ids, and where both are nearest there, mm */
  readonly nearest: { readonly pieces: readonly [string, string]; readonly from: Vec3; readonly to: Vec3 } | undefined
  /** smallest distance between the two pieces of the joint that was asked for, as `gap` */
  readonly own?: number | undefined
  /** which pieces are in each other, by how many mm³ */
  readonly collisions: readonly { readonly pieces: readonly [string, string]; readonly volume: number }[]
  /** how far joints that close a loop are from holding, mm; 0 where they hold */
  readonly off: number
}

/** Measures what moves at one position after another. What it has found out about the pieces is kept from one to the next. */
export class Swing {
  readonly #kernel: Kernel
  readonly #trees = new WeakMap<Solid, TriangleTree>()
  /** what was found of two of them last */
  readonly #known = new WeakMap<TriangleTree, WeakMap<TriangleTree, Known>>()

  constructor(kernel: Kernel) {
    this.#kernel = kernel
  }

  /** All pieces with joints at these positions, the latest last; `joint`: of which the pieces are measured by themselves too. */
  at({ fine, coarse }: TwiceBuilt, wanted: Wanted, joint?: string): SwingPosition {
    const alike = alikeIn(fine, coarse)
    const { motions, positions, off } = poseOf(fine, wanted)
    const moved = movedBy(fine, motions)
    let least: { readonly gap: number; readonly a: Moved; readonly b: Moved; readonly near: Near } | undefined
    const collisions: { pieces: readonly [string, string]; volume: number }[] = []
    for (const [a, b] of nearFirst(pairsOf(fine, moved))) {
      const within = Math.min(searchWithin, Math.max(least?.gap ?? searchWithin, touching))
      const near = this.near(a.solid, b.solid, compose(inverse(a.motion), b.motion), within)
      const meets = near && near.distance < touching
      if (meets || this.holds(a, b)) {
        const volume = this.shared(a, b)
        if (volume > 0) collisions.push({ pieces: [a.piece.piece.id, b.piece.piece.id], volume })
      }
      if (near && (!least || near.distance < least.gap)) least = { gap: near.distance, a, b, near }
    }
    const inside = collisions[0]?.pieces
    const nearest = least && {
      pieces: [least.a.piece.piece.id, least.b.piece.piece.id] as const,
      from: pointOut(least.a.motion, least.near.from),
      to: pointOut(least.a.motion, least.near.to),
    }
    return {
      ...{ positions, off, collisions },
      own: this.between(moved, fine.joints.find((each) => each.joint.id === joint)?.joint.pieces, alike),
      gap: inside ? 0 : least && this.meant(least, alike),
      nearest: inside && !(least && least.gap < touching) ? undefined : nearest,
    }
  }

  /**
   * How far one freedom can go from where it is printed towards `to`, all others as they are set, before pieces meet or a loop locks;
   * undefined where all the way. `pause` is waited for now and then.
   */
  reach(
    { fine }: TwiceBuilt,
    wantedAt: (position: number) => Wanted,
    { from, to, pause }: { readonly from: number; readonly to: number; pause?(): Promise<void> },
  ): Promise<Reach | undefined> {
    const standingAt = async (position: number): Promise<PairsAt> => {
      await pause?.()
      const { motions, off } = poseOf(fine, wantedAt(position))
      const pairs = pairsOf(fine, movedBy(fine, motions)).map(([a, b]) => {
        const frame = compose(inverse(a.motion), b.motion)
        const near = awayOf(a.box, b.box) < searchWithin ? this.near(a.solid, b.solid, frame, searchWithin) : undefined
        const lies = !(near && near.distance < touching) && this.holds(a, b)
        return {
          pieces: [a.piece.piece.id, b.piece.piece.id] as const,
          gap: lies ? 0 : (near?.distance ?? searchWithin),
          frame,
          boxes: [a.own, b.own] as const,
        }
      })
      return { pairs, closes: off < loose }
    }
    return reachOf(standingAt, from, to)
  }

  /** The gap between two pieces alone, by their ids. */
  private between(moved: readonly Moved[], pieces: readonly string[] | undefined, coarse: readonly BuiltPiece[]) {
    const [a, b] = (pieces ?? []).map((id) => moved.find(({ piece }) => piece.of === id))
    const near = a && b && this.near(a.solid, b.solid, compose(inverse(a.motion), b.motion), searchWithin)
    return near && this.meant({ gap: near.distance, a, b }, coarse)
  }

  /** The gap as it is meant: flats of rounds are a little farther apart, and the more of them the less. */
  private meant(
    { gap, a, b }: { readonly gap: number; readonly a: Moved; readonly b: Moved },
    coarse: readonly BuiltPiece[],
  ) {
    if (gap < touching) return 0
    const [one, two] = [a, b].map(({ piece: { piece } }) => {
      const same = coarse.find((each) => each.piece.id === piece.id)
      return same?.stiff ?? same?.solid
    })
    if (!one || !two) return gap
    const far = this.near(one, two, compose(inverse(a.motion), b.motion), searchWithin)
    if (!far || far.distance < touching) return gap
    return Math.max(0, towards(gap, far.distance))
  }

  private near(a: Solid, b: Solid, frame: Frame, within: number): Near | undefined {
    const [one, two] = [this.tree(a), this.tree(b)]
    const others = this.#known.get(one) ?? new WeakMap<TriangleTree, Known>()
    this.#known.set(one, others)
    const known = others.get(two)
    // Most pairs stand to each other as before while one joint is moved.
    if (known && sameFrame(known.frame, frame)) {
      if (known.found) return known.found.distance < within ? known.found : undefined
      if (known.within >= within) return undefined
    }
    const found = apart(one, two, { frame, within, start: known?.start })
    others.set(two, { frame, within, found, start: found?.triangles ?? known?.start })
    return found
  }

  private tree(solid: Solid): TriangleTree {
    const tree = this.#trees.get(solid) ?? new TriangleTree(solid.mesh())
    this.#trees.set(solid, tree)
    return tree
  }

  /** Whether a body of the one lies in the material of the other, whose surfaces need not cross then. */
  private holds(a: Moved, b: Moved): boolean {
    if (!meet(a.box, b.box)) return false
    const frame = compose(inverse(a.motion), b.motion)
    const known = this.#known.get(this.tree(a.solid))?.get(this.tree(b.solid))
    const stands = known && sameFrame(known.frame, frame) ? known : undefined
    const lies = stands?.lies ?? (isIn(b.solid, a.solid, frame) || isIn(a.solid, b.solid, inverse(frame)))
    if (stands) stands.lies = lies
    return lies
  }

  private shared(a: Moved, b: Moved): number {
    return this.#kernel.scope((scope) => {
      const [one, two] = [a, b].map(({ solid, motion }) => scope.placed(solid, motion)) as [Solid, Solid]
      return sharedVolume(this.#kernel, one, two)
    })
  }
}

/** Loops that are farther than this from closing lock, mm. */
export const loose = 1e-3

interface Moved {
  readonly piece: BuiltPiece
  readonly solid: Solid
  readonly motion: Frame
  /** where it has moved to, and in its own frame */
  readonly box: Box
  readonly own: Box
}
type Near = NonNullable<ReturnType<typeof apart>>

/** Where two pieces were nearest with the second one in a frame of the first, as far as it was looked. */
interface Known {
  readonly frame: Frame
  readonly within: number
  readonly found: Near | undefined
  /** whether one lies in the other, where that was asked */
  lies?: boolean
  /** triangles that were nearest the last time that any were */
  readonly start: readonly [number, number] | undefined
}

/** Whether two frames are the same but for what arithmetic adds to the last digits. */
function sameFrame(a: Frame, b: Frame): boolean {
  return (['origin', 'u', 'v', 'n'] as const).every((axis) =>
    [0, 1, 2].every((i) => Math.abs(a[axis][i]! - b[axis][i]!) < 1e-9),
  )
}

function movedBy({ pieces }: Built, motions: ReadonlyMap<string, Frame>): Moved[] {
  return pieces.flatMap((piece) => {
    const solid = piece.stiff ?? piece.solid
    const own = solid?.bounds()
    const motion = motions.get(piece.of) ?? world
    return own ? [{ piece, motion, solid: solid!, own, box: boxOut(motion, own) }] : []
  })
}

/** Pairs that may move against each other: of which a joint has one at least. */
function pairsOf({ joints }: Built, moved: readonly Moved[]): (readonly [Moved, Moved])[] {
  const moving = new Set(joints.flatMap(({ joint }) => joint.pieces))
  return moved.flatMap((a, i) =>
    moved.slice(i + 1).flatMap((b) => {
      const moves = moving.has(a.piece.of) || moving.has(b.piece.of)
      return moves && a.piece.of !== b.piece.of ? [[a, b] as const] : []
    }),
  )
}

/** Those that are not far apart, the nearest boxes first. */
function nearFirst(pairs: readonly (readonly [Moved, Moved])[]): readonly (readonly [Moved, Moved])[] {
  return pairs
    .map((pair) => ({ pair, away: awayOf(pair[0].box, pair[1].box) }))
    .filter(({ away }) => away < searchWithin)
    .sort((p, q) => p.away - q.away)
    .map(({ pair }) => pair)
}

/** How far two boxes are apart, mm. */
function awayOf(a: Box, b: Box): number {
  return norm([0, 1, 2].map((k) => Math.max(0, a.min[k]! - b.max[k]!, b.min[k]! - a.max[k]!)) as unknown as Vec3)
}

/** All pieces with joints at these positions, the latest last. */
export function swingAt(kernel: Kernel, built: TwiceBuilt, wanted: Wanted): SwingPosition {
  return new Swing(kernel).at(built, wanted)
}

/** `count` positions spread evenly over a joint's travel, both ends included. */
export function swingPositions(from: number, to: number, count: number): number[] {
  return Array.from({ length: count }, (_, i) => from + ((to - from) * i) / Math.max(1, count - 1))
}
