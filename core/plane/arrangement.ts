import type { Segment } from './segments.ts'
import type { Vec2 } from './vectors.ts'

/** Ends nearer than this are one point, mm. */
export const joinWithin = 1e-6

/** A drawn curve: its segments one behind the other, as they run. */
export interface DrawnCurve {
  readonly id: string
  readonly segments: readonly Segment[]
}

/** Segments one behind the other. Closed: the last one ends where the first one starts. */
export interface Chain {
  readonly segments: readonly Segment[]
  /** the drawn curve of each segment */
  readonly curves: readonly string[]
  readonly closed: boolean
}

/** A closed region: what bounds it (material on the left of `outer` and of each hole), and what it is called by. */
export interface Face {
  /** the curves round it with the way they are run through; the same as long as the same curves bound it. No two are alike */
  readonly key: string
  readonly outer: Chain
  readonly holes: readonly Chain[]
  /** mm², without the holes */
  readonly area: number
  /** how many closed drawings lie round the one that it is of */
  readonly depth: number
  /** all that bounds it, as numbers of edges; an edge that is run through backwards as `~number` */
  readonly sides: readonly number[]
}

export interface Arrangement {
  readonly faces: readonly Face[]
  /** drawn curves that end nowhere */
  readonly loose: readonly LooseEnd[]
  /** where curves cross other than at their ends */
  readonly crossed: readonly CrossedAt[]
  /** stretches that bound no region, one behind the other */
  readonly open: readonly Chain[]
  readonly edges: readonly Edge[]
}
export interface LooseEnd {
  readonly at: Vec2
  readonly curve: string
  /** what it nearly meets, and how far that is, mm; undefined where nothing is near */
  readonly near: { readonly at: Vec2; readonly distance: number; readonly curve: string } | undefined
}
export interface CrossedAt {
  readonly at: Vec2
  readonly curves: readonly [string, string]
}

/** A stretch between two nodes, as it was drawn. */
export interface Edge {
  readonly curve: string
  readonly segment: Segment
  readonly from: number
  readonly to: number
}
