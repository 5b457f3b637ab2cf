import type { Pivot } from '../document/index.ts'
import type { AnyValues, Fields, SentencePart, StepValue, ValuesOf, Versioned } from '../fields/index.ts'
import type { Scope, Solid } from '../kernel/index.ts'
import type { Freedom } from '../mechanism/index.ts'
import type { Box, Frame, Vec3 } from '../place/index.ts'
import type { DimensionLine, HeldItem, ImpossibleBy, SpringFacts, SpringStuff, Surfaces } from '../shapes/index.ts'

/** What a joint does to its two pieces, in the joint's own frame. The first piece stays, the second one moves. */
export interface JointSolids {
  /** taken from each piece's own steps, to make room */
  readonly cuts: readonly [readonly Solid[], readonly Solid[]]
  /** then added to it */
  readonly adds: readonly [readonly Solid[], readonly Solid[]]
}

/** Something to know of a joint, with what it comes to in words. */
export interface Fact {
  readonly label: string
  readonly text: string
}

/** What a joint is made with. */
export interface JointContext {
  readonly scope: Scope
  readonly fineness: number
  /** the bed's up in the frame of the joint */
  readonly up: Vec3
}

export interface Judged {
  readonly facts: readonly Fact[]
  readonly faults: readonly { readonly detail: string; readonly rank: 'fault' | 'warning' | 'advice' }[]
}

/** Values for one of two steps with which they would run together, and what says so on a button. */
export interface Fitting {
  readonly side: 0 | 1
  readonly fields: Readonly<Record<string, string>>
  readonly label: string
}

/** A step that runs with the first of a joint by another joint. */
export interface Beside {
  readonly step: StepValue
  /** where it stands in the frame of the first */
  readonly frame: Frame
}

/** Steps that a joint wants beside its two, in the order in which they stand. */
export interface WantedSteps {
  /** what says so on a button, and what has been done then */
  readonly label: string
  readonly done: string
  readonly steps: readonly {
    /** one that is there; a new one, like the first, without */
    readonly id?: string
    readonly fields: Readonly<Record<string, string>>
    /** where it is to stand in the frame of the first */
    readonly frame: Frame
  }[]
}

/** A joint that turns two steps together. `second`: where the second one stands in the frame of the first. */
export interface Between<V = AnyValues> {
  steps(values: V): readonly [first: string, second: string]
  /** Where both pieces have moved to with the freedoms at these positions, in the frame of the first step. */
  motions(values: V, second: Frame, positions: readonly number[]): readonly [Frame, Frame]
  /** The positions at which the piece of one side has moved so. */
  positions(values: V, second: Frame, side: 0 | 1, motion: Frame): readonly number[]
  judged(values: V, second: Frame, beside: readonly Beside[]): Judged
  /** what says on a button that the second is put where it runs, and what has been done then */
  readonly puts: { readonly label: string; readonly done: string }
  /** Where the second step would run as it should, in the frame of the first, as near to where it is as may be. */
  settled(values: V, second: Frame): Frame | undefined
  /** What one of both steps would have to be like, where it is not. */
  fitting?(values: V, second: Frame): Fitting | undefined
  /** For what goes in between the two, each tied to the first by a joint of a kind. */
  readonly fellows?: {
    readonly by: string
    /** what each is called, with its number */
    readonly name: string
    /** those that are not there, or not as they must be; undefined where all are */
    wanted(values: V, second: Frame, beside: readonly Beside[]): WantedSteps | undefined
  }
}

export interface JointDefinition<F extends Fields = Fields> extends Versioned {
  readonly kind: string
  readonly label: string
  /** what else it is called: it is found by these too */
  readonly words: readonly string[]
  readonly icon: string
  readonly fields: F
  sentence(values: ValuesOf<F>): readonly SentencePart[]
  impossible?(values: ValuesOf<F>): ImpossibleBy<keyof F & string> | undefined
  /** What there is to know of it, and what is wrong with it, by the bed's up in its frame. */
  judged?(values: ValuesOf<F>, up: Vec3): Judged
  box(values: ValuesOf<F>): Box
  dimensions(values: ValuesOf<F>): readonly DimensionLine[]
  /** The surfaces that it has on its first or second piece, in its own frame. */
  surfaces(values: ValuesOf<F>, side: 0 | 1): Surfaces
  /** @throws ProblemError too-many-triangles, kernel-failed */
  solids(values: ValuesOf<F>, context: JointContext): JointSolids
  /**
   * What of it bends out of the way while it moves, as solids that hold it, for each piece: left out where the pieces are moved against
   * each other.
   * @throws ProblemError too-many-triangles, kernel-failed
   */
  bends?(values: ValuesOf<F>, context: JointContext): readonly [readonly Solid[], readonly Solid[]]
  /** What does bend, by its formula. */
  spring?(values: ValuesOf<F>, stuff: SpringStuff): SpringFacts | undefined
  /** In which ways the second piece can move, any number of them; none for what holds two pieces together. */
  freedoms(values: ValuesOf<F>): readonly Freedom[]
  /** For a joint between two steps, one in each of its pieces: it stands in the frame of the first, and adds nothing. */
  readonly between?: Between<ValuesOf<F>>
  /** whether pieces tied by it make a chain: one hangs on the next by another like it */
  readonly chains?: true
  /** Whether its pieces come apart, and can be printed one by one, by what its fields say. */
  comesApart?(texts: Readonly<Record<string, string>>): boolean
  /** Whether it makes one body of its two pieces, which are printed and handed off as one. */
  joins?(texts: Readonly<Record<string, string>>): boolean
  /** For a joint that stands on a line of a step, which is its own n; where it is placed does not matter then. */
  readonly standsOn?: (values: ValuesOf<F>) => { readonly step: string; readonly line: Pivot['line'] }
  /** The items that it is held by, in its frame. */
  held?(values: ValuesOf<F>): readonly HeldItem[]
  /** Where the second piece stands with each freedom at a position: a motion in the joint's frame. */
  motion(values: ValuesOf<F>, positions: readonly number[]): Frame
}

export function defineJoint<const F extends Fields>(definition: JointDefinition<F>): JointDefinition {
  return definition as unknown as JointDefinition
}
