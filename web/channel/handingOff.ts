import { compensates, compensationFor } from '@makrel/core/compensation'
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
import type { Kernel } from '@makrel/core/kernel'
import { poseToHandOff } from '@makrel/core/planning'
import type { Finding } from '@makrel/core/proof'
import { Builder, type Built, inPose, Measurer, type TwiceBuilt } from '@makrel/core/solids'
import type { CheckBuilds } from './checkBuilds.ts'
import type { HandOffWanted } from './protocol.ts'
import { provedOf } from './provedOf.ts'
import type { Answers, Turn } from './serving.ts'

export type HandOffCall = 'handOff' | 'handOffVariants'

/** Writes the files of a part, and proves what is in them. */
export class HandOffs {
  readonly #kernel: Kernel
  readonly #builds: CheckBuilds
  /** what files are built with, and the part that they are of */
  #leaving: { readonly of: string; readonly builder: Builder } | undefined

  constructor(kernel: Kernel, builds: CheckBuilds) {
    this.#kernel = kernel
    this.#builds = builds
  }

  readonly answers: Answers<HandOffCall> = {
    handOff: (wanted, turn) =>
      this.apart(wanted, turn, async (part, pose, build, written) => {
        return inPose(this.#kernel, pose, await build(part), ({ built, twice }) =>
          withCompensation(this.#kernel, built, compensationOf(wanted, part), async (compensated) => {
            const findings = await provedOf(this.#kernel, this.#builds, compensated?.built ?? built, turn, { twice })
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
            withCompensation(this.#kernel, standing.built, compensationOf(wanted, part), (compensated) =>
              use({ ...standing, compensated }),
            ),
          )
        await handOffVariants(part, stand, written, options, async (file, { built, twice, compensated }) => {
          files.push({
            ...file,
            findings: await provedOf(
              this.#kernel,
              this.#builds,
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
      if (of === part) return this.#builds.twice(turn)
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

function compensationOf({ piece, compensated, size }: HandOffWanted, part: Part) {
  const compensation = compensationFor(part)
  return { piece, size, compensation: compensated && compensates(compensation) ? compensation : undefined }
}

function optionsOf({ fineness, piece, size, unit }: HandOffWanted, pose: KeptPose | undefined): HandOffOptions {
  return { fineness, piece, size, unit, pose: pose?.name }
}
