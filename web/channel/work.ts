import { create } from 'zustand'
import type { CallName } from './protocol.ts'

/** What a worker is at, as it is told once it takes long. */
const doing: Readonly<Record<CallName, string>> = {
  build: 'Building the part',
  prepare: 'Getting ready for the next edit',
  practise: 'Getting ready for edits',
  proof: 'Proving the part',
  figures: 'Measuring the part',
  cures: 'Trying what may put things right',
  field: 'Measuring all over the pieces',
  change: 'Trying what would change',
  ghost: 'Drawing a step by itself',
  items: 'Drawing what is bought',
  effect: 'Measuring what a step does',
  section: 'Cutting a layer',
  cutaway: 'Cutting the part open',
  read: 'Reading sizes off the part',
  inspect: 'Drawing the part without a step',
  areas: 'Measuring the layers',
  swing: 'Moving the pieces',
  sweep: 'Moving the pieces',
  reach: 'Looking for where pieces meet',
  posed: 'Setting the pieces in their pose',
  spread: 'Spreading the pieces out',
  lying: 'Trying ways to lie',
  flex: 'Bending it',
  handOff: 'Writing the file and reading it back',
  handOffVariants: 'Writing the files and reading them back',
  readDrawing: 'Reading the drawing',
  pictures: 'Drawing the shapes',
  tree: 'Getting ready to pick',
  compress: 'Keeping a picture of the drawing',
  readPart: 'Reading the part file',
  openMesh: 'Reading the mesh',
  bringIn: 'Bringing the mesh in',
}

export interface Work {
  /** the channel that it waits for */
  readonly of: unknown
  readonly call: CallName
  readonly text: string
  /** ms, as `performance.now` tells */
  readonly since: number
  stop(): void
}

interface WorkState {
  /** what has been running for longer than a maker should wait in the dark, and can be stopped */
  readonly running: Work | undefined
  /** what was stopped last, until it is done again or something else comes of it */
  readonly stopped: string | undefined
}

export const useWork = create<WorkState>()(() => ({ running: undefined, stopped: undefined }))

export const workText = (name: CallName) => doing[name]

/** A newer call took the place of this one. */
export class Overtaken extends Error {
  constructor() {
    super('Something newer was asked for.')
    this.name = 'Overtaken'
  }
}

/** Work was given up because somebody said so, or because it took longer than it may. */
export class Stopped extends Error {
  readonly call: CallName
  constructor(call: CallName, why: string) {
    super(why)
    this.name = 'Stopped'
    this.call = call
  }
}
