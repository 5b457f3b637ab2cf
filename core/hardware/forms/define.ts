/** The sizes of one thread, mm: what its row of a table says, or what was typed. */
export interface ThreadSizes {
  /** nominal diameter */
  readonly thread: number
  readonly pitch: number
  /** of the forms that have tables of it: diameter between the ridges of an outside thread */
  readonly root?: number
}

/** Half of a thread: what an outside thread fills, or what an inside one leaves free. Diameters and radii, mm. */
export interface ThreadHalf {
  /** diameter over its ridges */
  readonly crest: number
  /** diameter between its ridges */
  readonly root: number
  /** radii where a flank runs into its ridge and into its root; 0 is a corner */
  readonly crestRound: number
  readonly rootRound: number
}

/** How a kind of thread looks in a section along its axis. */
export interface ThreadForm {
  /** stored in part files */
  readonly id: string
  readonly label: string
  /** the standard that draws it, with its edition as far as it is known */
  readonly standard: string
  /** what its flanks are off a plane square to the axis, degrees: the one that looks down the axis, and the one that looks up */
  readonly flanks: readonly [number, number]
  /** the diameter at which a ridge is as wide as `ridge` of the pitch: mm */
  pitchDiameter(sizes: ThreadSizes): number
  /** as a share of the pitch; a half where it is left out */
  readonly ridge?: number
  /** how much its diameter changes along its length; 0 where it is left out */
  readonly taper?: number
  outside(sizes: ThreadSizes): ThreadHalf
  inside(sizes: ThreadSizes): ThreadHalf
}
