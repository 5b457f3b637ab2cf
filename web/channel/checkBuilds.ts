import { type Compensation, compensates, compensationFor } from '@makrel/core/compensation'
import type { KeptPose, Part } from '@makrel/core/document'
import { sameThing } from '@makrel/core/fits'
import type { Kernel } from '@makrel/core/kernel'
import type { Frame } from '@makrel/core/place'
import { printPoseOf } from '@makrel/core/planning'
import {
  asPrinted,
  Builder,
  type Built,
  leaving,
  Measurer,
  measuringFineness,
  motionsIn,
  type Posed,
  type Printed,
  type TwiceBuilt,
} from '@makrel/core/solids'
import type { Turn } from './serving.ts'

/** What was built, as it leaves in a pose, or as it is drawn. */
interface Kept {
  readonly of: Built
  readonly pose: KeptPose | undefined
  readonly motions: ReadonlyMap<string, Frame> | undefined
  readonly posed: Posed
}

/** What was made of a part last, kept until it is asked for of another one. */
class Latest<T> {
  #known: { readonly part: Part | undefined; readonly made: T } | undefined

  async of(part: Part | undefined, make: () => Promise<T>): Promise<T> {
    if (!this.#known || this.#known.part !== part) this.#known = { part, made: await make() }
    return this.#known.made
  }
}

/** What the worker that checks has built of a part: at the finenesses that are asked for, in poses, and as it is printed. */
export class CheckBuilds {
  readonly #kernel: Kernel
  readonly #builder: Builder
  readonly measurer: Measurer
  #trials: Builder | undefined
  #compensated: { readonly of: Built; readonly compensation: Compensation; readonly compensated: Printed } | undefined
  #posed: Kept[] = []
  /** proofs that are under way: their solids stay, whatever is asked for in between */
  #proofs = 0
  readonly #fine = new Latest<Built>()
  readonly #two = new Latest<TwiceBuilt>()
  readonly #twice = new Latest<TwiceBuilt>()

  constructor(kernel: Kernel) {
    this.#kernel = kernel
    this.#builder = new Builder(kernel)
    this.measurer = new Measurer(kernel, this.#builder)
  }

  /** The part at the measuring fineness. */
  fine({ part, signal, pause }: Turn): Promise<Built> {
    if (!part) throw new Error('there is no part to check')
    return this.#fine.of(part, () => this.#builder.build(part, { fineness: measuringFineness, signal, pause }))
  }

  /** The part with something changed, to try what comes of it: the solids of what is checked stay. */
  trial(part: Part, { signal, pause }: Pick<Turn, 'signal' | 'pause'>): Promise<Built> {
    this.#trials ??= new Builder(this.#kernel)
    return this.#trials.build(part, { fineness: measuringFineness, signal, pause })
  }

  /** The part at two finenesses, for gaps. */
  two(turn: Turn): Promise<TwiceBuilt> {
    const { part, signal, pause } = turn
    return this.#two.of(part, async () => this.measurer.two(part!, { signal, pause }, await this.fine(turn)))
  }

  /** The part at as many finenesses as its figures need. */
  twice(turn: Turn): Promise<TwiceBuilt> {
    const { part, signal, pause } = turn
    return this.#twice.of(part, async () => this.measurer.twice(part!, { signal, pause }, await this.two(turn)))
  }

  /** The part at the measuring fineness as it is printed. */
  async asPrinted(turn: Turn): Promise<Built> {
    return this.standing(await this.fine(turn), printPoseOf(turn.part!)).posed.built
  }

  /** What was built, as it leaves in a pose, or as it is drawn; kept until that of the same fineness is asked for otherwise. */
  standing(of: Built, pose: KeptPose | undefined): Kept {
    const known = this.#posed.find((kept) => kept.of === of && kept.pose === pose)
    if (known) return known
    // A part is looked at in one pose after another, at two finenesses.
    while (this.#proofs === 0 && this.#posed.length > 3) this.#posed.shift()!.posed.release()
    const motions = pose && motionsIn(this.#kernel, of, pose)
    const kept = { of, pose, motions, posed: leaving(this.#kernel, of, motions) }
    this.#posed.push(kept)
    return kept
  }

  /** Keeps all solids that are standing until the work is done. */
  async holding<T>(work: () => Promise<T>): Promise<T> {
    this.#proofs++
    try {
      return await work()
    } finally {
      this.#proofs--
    }
  }

  /** As its layers are looked at: as it is drawn, or as printed; that is kept until another one is asked for. */
  layered(built: Built, compensated: boolean): Built {
    const compensation = compensationFor(built.resolved.part)
    if (!compensated || !compensates(compensation)) return built
    const known = this.#compensated
    if (known?.of === built && sameThing(known.compensation, compensation)) return known.compensated.built
    known?.compensated.release()
    this.#compensated = undefined
    const made = asPrinted(this.#kernel, built, compensation)
    this.#compensated = { of: built, compensation, compensated: made }
    return made.built
  }
}
