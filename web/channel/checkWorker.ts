import { type Compensation, compensates, compensationFor } from '@makrel/core/compensation'
import type { KeptPose, Part } from '@makrel/core/document'
import {
  archiveOf,
  drawnFineness,
  formatOf,
  type HandOff,
  type HandOffOptions,
  handOff,
  handOffVariants,
  type MeshFormat,
  type StoodFor,
  withCompensation,
} from '@makrel/core/exchange'
import { sameThing } from '@makrel/core/fits'
import { flexTested, isOfPiece, sheetOfSolid } from '@makrel/core/flex'
import type { Kernel } from '@makrel/core/kernel'
import { layerAreas, sectionAt } from '@makrel/core/layers'
import { withPosition } from '@makrel/core/mechanism'
import { type Box, type Frame, joined } from '@makrel/core/place'
import { packedRings } from '@makrel/core/plane'
import { poseOf, poseToHandOff, printPoseOf, readSolids, workOut } from '@makrel/core/planning'
import { type Finding, fieldOf, ProofMemory, type ProofOptions, proofOf, type Reach, Swing } from '@makrel/core/proof'
import {
  alikeIn,
  asPrinted,
  BuildAborted,
  Builder,
  type Built,
  figuresOf,
  inPose,
  leaving,
  Measurer,
  measuringFineness,
  motionsIn,
  type Posed,
  type Printed,
  solidsToRead,
  spreadOut,
  type TwiceBuilt,
} from '@makrel/core/solids'
import { loadedKernel } from './loadedKernel.ts'
import type { HandOffWanted, NameOf } from './protocol.ts'
import { type Answers, serve, type Turn } from './serving.ts'

/** More than the printer's least gap is left between pieces that lie side by side, mm. */
const clearOf = 3

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

/** The worker that measures and checks, beside the one that builds: an edit never waits for it. */
class Checks {
  readonly #kernel: Kernel
  readonly #builder: Builder
  readonly #measurer: Measurer
  readonly #swing: Swing
  readonly #memory = new ProofMemory()
  #compensated: { readonly of: Built; readonly compensation: Compensation; readonly compensated: Printed } | undefined
  #posed: Kept[] = []
  /** proofs that are under way: their solids stay, whatever is asked for in between */
  #proofs = 0
  readonly #fine = new Latest<Built>()
  readonly #two = new Latest<TwiceBuilt>()
  readonly #twice = new Latest<TwiceBuilt>()
  /** what files are built with, and the part that they are of */
  #leaving: { readonly of: string; readonly builder: Builder } | undefined

  constructor(kernel: Kernel) {
    this.#kernel = kernel
    this.#builder = new Builder(kernel)
    this.#measurer = new Measurer(kernel, this.#builder)
    this.#swing = new Swing(kernel)
  }

  readonly answers: Answers<NameOf<'checks'>> = {
    proof: async (_, turn) => {
      const pose = printPoseOf(turn.part!)
      const standing = (built: Built) => this.standing(built, pose).posed.built
      // Its first findings need no second fineness.
      const fine = standing(await this.fine(turn))
      const twice = async () => {
        const drawn = await this.two(turn)
        return { fine: standing(drawn.fine), coarse: standing(drawn.coarse) }
      }
      return this.provedOf(fine, turn, { twice, memory: this.#memory })
    },
    figures: async (_, turn) => figuresOf(await this.twice(turn)),
    field: async ({ mark }, turn) => {
      const { built } = this.standing(await this.fine(turn), printPoseOf(turn.part!)).posed
      return fieldOf(this.#kernel, built, mark, turn)
    },
    posed: async ({ pose }, turn) => {
      const fine = await this.fine(turn)
      const { posed, motions } = this.standing(fine, pose)
      const box = posed.built.pieces.reduce<Box | undefined>((all, { solid }) => {
        const own = solid?.bounds()
        return own ? joined(all, own) : all
      }, undefined)
      return { motions: Object.fromEntries(motions ?? []), box }
    },
    flex: async ({ flex }, turn) => {
      const part = turn.part!
      if (!isOfPiece(part, flex)) return flexTested(workOut(part).resolved, flex)
      const fine = await this.fine(turn)
      const solid = fine.pieces.find(({ piece }) => piece.id === flex.of)?.solid
      return flexTested(fine.resolved, flex, () => solid && sheetOfSolid(this.#kernel, solid))
    },
    spread: async ({ pose }, turn) => {
      const fine = await this.fine(turn)
      return spreadOut(this.#kernel, fine, pose, fine.resolved.printer.leastGap + clearOf)
    },
    effect: async ({ step }, turn) => this.#measurer.effectOf(await this.two(turn), step),
    swing: async ({ wanted, joint }, turn) => {
      const twice = await this.two(turn)
      return {
        at: this.#swing.at(twice, wanted, joint),
        motions: Object.fromEntries(poseOf(twice.fine, wanted).motions),
      }
    },
    sweep: async ({ wanted, joint }, turn) => this.#swing.at(await this.two(turn), wanted, joint),
    reach: async ({ wanted, joint, index, ends }, turn) => {
      const twice = await this.two(turn)
      const found: (Reach | undefined)[] = []
      for (const [from, to] of ends)
        found.push(
          await this.#swing.reach(twice, (at) => withPosition(wanted, { joint, index }, at), {
            ...{ from, to },
            pause: async () => {
              await turn.pause()
              if (turn.signal.aborted) throw new BuildAborted()
            },
          }),
        )
      return found
    },
    section: async ({ z, compensated }, turn) => {
      const { pieces } = this.layered(await this.asPrinted(turn), compensated)
      return pieces.map(({ piece, solid }) => {
        const { rings, area } = sectionAt(this.#kernel, solid, z)
        return { piece: piece.id, area, rings: packedRings(rings) }
      })
    },
    read: async ({ readouts }, turn) => {
      const { fine, coarse } = await this.two(turn)
      const { plan } = fine
      const part = { ...fine.resolved.part, readouts }
      return readSolids(part, plan, solidsToRead(fine.pieces, plan), solidsToRead(alikeIn(fine, coarse), plan))
    },
    areas: async ({ heights, count, compensated }, turn) =>
      this.layered(await this.asPrinted(turn), compensated)
        .pieces.map(({ solid }) => layerAreas(this.#kernel, solid, heights, count))
        .reduce((sum, areas) => sum.map((area, i) => area + areas[i]!), new Array<number>(count).fill(0)),
    handOff: (wanted, turn) =>
      this.apart(wanted, turn, async (part, pose, build, written) => {
        return inPose(this.#kernel, pose, await build(part), ({ built, twice }) =>
          withCompensation(this.#kernel, built, this.compensationOf(wanted, part), async (compensated) => {
            const findings = await this.provedOf(compensated?.built ?? built, turn, { twice })
            const options = optionsOf(wanted, pose)
            return { ...handOff(built, written, { ...options, twice, compensated }), findings }
          }),
        )
      }),
    handOffVariants: (wanted, turn) =>
      this.apart(wanted, turn, async (part, pose, build, written) => {
        const files: (HandOff & { findings: readonly Finding[] })[] = []
        const options = optionsOf(wanted, pose)
        const stand: StoodFor = async (of, use) =>
          inPose(this.#kernel, pose, await build(of), (standing) =>
            withCompensation(this.#kernel, standing.built, this.compensationOf(wanted, part), (compensated) =>
              use({ ...standing, compensated }),
            ),
          )
        await handOffVariants(part, stand, written, options, async (file, { built, twice, compensated }) => {
          files.push({
            ...file,
            findings: await this.provedOf(
              compensated?.built ?? built,
              { ...turn, progress: () => undefined },
              { twice },
            ),
          })
          turn.progress(files.length, part.variants.length)
        })
        return {
          ...archiveOf(part, files),
          written: files.map(({ receipt, findings }) => ({ receipt, findings })),
        }
      }),
  }

  private compensationOf({ piece, compensated, size }: HandOffWanted, part: Part) {
    const compensation = compensationFor(part)
    return { piece, size, compensation: compensated && compensates(compensation) ? compensation : undefined }
  }

  /** As its layers are looked at: as it is drawn, or as printed; that is kept until another one is asked for. */
  private layered(built: Built, compensated: boolean): Built {
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

  /** The part at the measuring fineness as it is printed. */
  private async asPrinted(turn: Turn): Promise<Built> {
    return this.standing(await this.fine(turn), printPoseOf(turn.part!)).posed.built
  }

  /** What was built, as it leaves in a pose, or as it is drawn; kept until that of the same fineness is asked for otherwise. */
  private standing(of: Built, pose: KeptPose | undefined): Kept {
    const known = this.#posed.find((kept) => kept.of === of && kept.pose === pose)
    if (known) return known
    // A part is looked at in one pose after another, at two finenesses.
    while (this.#proofs === 0 && this.#posed.length > 3) this.#posed.shift()!.posed.release()
    const motions = pose && motionsIn(this.#kernel, of, pose)
    const kept = { of, pose, motions, posed: leaving(this.#kernel, of, motions) }
    this.#posed.push(kept)
    return kept
  }

  /** The proof of what was built, once its first findings are there after all else that is asked for meanwhile. */
  private async provedOf(
    built: Built,
    { signal, pause, giveWay, progress }: Turn,
    options: Pick<ProofOptions, 'twice' | 'memory'>,
  ): Promise<readonly Finding[]> {
    let done = 0
    this.#proofs++
    try {
      return await proofOf(this.#kernel, built, {
        ...options,
        signal,
        pause: () => (done > 0 ? giveWay() : pause()),
        progress: (checked, of, found) => {
          done = checked
          progress(checked, of, found)
        },
      })
    } finally {
      this.#proofs--
    }
  }

  private fine({ part, signal, pause }: Turn): Promise<Built> {
    if (!part) throw new Error('there is no part to check')
    return this.#fine.of(part, () => this.#builder.build(part, { fineness: measuringFineness, signal, pause }))
  }

  /** The part at two finenesses, for gaps. */
  private two(turn: Turn): Promise<TwiceBuilt> {
    const { part, signal, pause } = turn
    return this.#two.of(part, async () => this.#measurer.two(part!, { signal, pause }, await this.fine(turn)))
  }

  /** The part at as many finenesses as its figures need. */
  private twice(turn: Turn): Promise<TwiceBuilt> {
    const { part, signal, pause } = turn
    return this.#twice.of(part, async () => this.#measurer.twice(part!, { signal, pause }, await this.two(turn)))
  }

  /** Work with a builder of its own: another fineness must not push the edited part's solids out of their cache. */
  private async apart<T>(
    wanted: HandOffWanted,
    turn: Turn,
    work: (
      part: Part,
      pose: KeptPose | undefined,
      build: (part: Part) => Promise<{ built: Built; twice: TwiceBuilt }>,
      format: MeshFormat,
    ) => Promise<T>,
  ): Promise<T> {
    const { part, signal, pause } = turn
    const format = formatOf(wanted.format)
    if (!format) throw new Error(`there is no format ${wanted.format}`)
    if (!part) throw new Error('there is no part to hand off')
    const pose = poseToHandOff(part, wanted.pose)
    const builder = this.builderFor(part)
    // What is handed off as it is drawn was measured when it was proved; variants are not.
    let measurer: Measurer | undefined
    const measured = (of: Part) => {
      if (of === part) return this.twice(turn)
      measurer ??= new Measurer(this.#kernel)
      return measurer.twice(of, { signal, pause })
    }
    try {
      const build = async (of: Part) => {
        const twice = await measured(of)
        const fineness = await drawnFineness(this.#kernel, pose, twice, wanted)
        return { built: await builder.build(of, { fineness, signal, pause }), twice }
      }
      return await work(part, pose, build, format)
    } finally {
      measurer?.clear()
    }
  }

  /** The builder that files of a part are built with: one after another they share what is the same in them. */
  private builderFor({ id }: Part): Builder {
    if (this.#leaving?.of !== id) {
      this.#leaving?.builder.clear()
      this.#leaving = { of: id, builder: new Builder(this.#kernel) }
    }
    return this.#leaving.builder
  }
}

function optionsOf({ fineness, piece, size, unit }: HandOffWanted, pose: KeptPose | undefined): HandOffOptions {
  return { fineness, piece, size, unit, pose: pose?.name }
}

serve(loadedKernel().then((kernel) => new Checks(kernel).answers))
