import type { Frame } from '../place/index.ts'

/** One way in which the second piece of a joint can move against the first. */
export interface Freedom {
  /** what it does, in a word: "folding", "sliding" */
  readonly label: string
  readonly unit: 'degrees' | 'mm'
  readonly from: number
  readonly to: number
  /** where it stands as printed */
  readonly atRest: number
  /** what comes back after so much need be looked at only so far */
  readonly period?: number
  /** it goes on only, as a ratchet does: back no farther than to the last of its periods */
  readonly oneWay?: boolean
  /** the fields of its joint that the ends of its travel are told by */
  readonly told?: { readonly from?: string; readonly to?: string }
}

/** A joint as the mechanism sees it. */
export interface MovingJoint {
  readonly id: string
  /** the first one stays, where nothing else moves it */
  readonly pieces: readonly [string, string]
  /** where it stands as printed, in the bed's frame */
  readonly frame: Frame
  readonly freedoms: readonly Freedom[]
  /** of one that turns both of its pieces together, about axes that stand still; all in the joint's own frame */
  readonly together?: {
    motions(positions: readonly number[]): readonly [Frame, Frame]
    /** the positions at which the piece of one side has moved so */
    positions(side: 0 | 1, motion: Frame): readonly number[]
  }
  /** Where the second piece is against the first, in the joint's own frame; the world at the printed positions. */
  motion(positions: readonly number[]): Frame
}

/** A position for each freedom of a joint, by the joint's id. */
export type Positions = Readonly<Record<string, readonly number[]>>

/** Positions that are set, by the joint's id, the latest last; freedoms that are not set follow where they must. */
export type Wanted = Readonly<Record<string, readonly (number | undefined)[]>>

export interface Pose {
  /** where each piece has moved to from where it is printed, by its id */
  readonly motions: ReadonlyMap<string, Frame>
  /** of all joints, those that followed too */
  readonly positions: Positions
  /** how far joints that close a loop are from holding, mm; 0 where they hold */
  readonly off: number
}
