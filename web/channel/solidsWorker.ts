import { applyEdit, withSiblings } from '@makrel/core/document'
import type { Kernel } from '@makrel/core/kernel'
import { fieldKindOf } from '@makrel/core/planning'
import { Builder, type Built, cutawayOf, measuringFineness, renderMeshOf } from '@makrel/core/solids'
import { soloMesh } from './ghost.ts'
import { loadedKernel } from './loadedKernel.ts'
import type { BuildAnswer, NameOf } from './protocol.ts'
import { type Answers, serve, type Turn } from './serving.ts'

/** The worker that builds the part with each edit, and draws what is asked of it in between. */
class Solids {
  readonly #kernel: Kernel
  readonly #builder: Builder
  #built: Built | undefined
  #buildMs = 0

  constructor(kernel: Kernel) {
    this.#kernel = kernel
    this.#builder = new Builder(kernel)
  }

  readonly answers: Answers<NameOf<'solids'>> = {
    build: ({ have }, turn) => this.build(have, turn),
    prepare: async ({ steps }, { part, signal, pause }) => {
      if (!part || this.#buildMs < quickBuildMs) return undefined
      this.#built = await this.#builder.prepare(part, steps, { fineness: measuringFineness, signal, pause })
      return undefined
    },
    ghost: async ({ step }) => {
      const solid = this.#built && (await this.#builder.ghost(this.#built, step, { fineness: measuringFineness }))
      return solid && soloMesh(solid, { kind: 'step', id: step })
    },
    cutaway: (plane) =>
      (this.#built?.pieces ?? []).map((piece) => ({
        piece: piece.piece.id,
        mesh: cutawayOf(this.#kernel, this.#built!, piece, plane),
      })),
    inspect: async ({ step, show }) => {
      const built = this.#built
      if (!built) return []
      if (show === 'alone') {
        const piece = await this.#builder.alone(built, step, { fineness: measuringFineness })
        return piece ? [{ piece: piece.piece.id, mesh: renderMeshOf(built, piece) }] : []
      }
      const { part } = built.resolved
      const muted =
        show === 'until'
          ? withSiblings(part, step, (all, at) => all.map((each, i) => (i < at ? each : { ...each, mute: true })))
          : applyEdit(part, { type: 'set-step', id: step, change: { mute: true } }, fieldKindOf)
      const rest = await this.#builder.build(muted, { fineness: measuringFineness })
      const meshes = rest.pieces.map((piece) => ({ piece: piece.piece.id, mesh: renderMeshOf(rest, piece) }))
      // The cache keeps safe what the last build gave out: that is the part itself again.
      this.#built = await this.#builder.build(part, { fineness: measuringFineness })
      return meshes
    },
  }

  private async build(have: Readonly<Record<string, string>>, { part, signal, pause }: Turn): Promise<BuildAnswer> {
    if (!part) throw new Error('there is no part to build')
    const started = performance.now()
    const built = await this.#builder.build(part, { fineness: measuringFineness, signal, pause })
    this.#built = built
    this.#buildMs = Math.max(performance.now() - started, this.#buildMs * 0.9)
    return {
      pieces: built.pieces.map((piece) => {
        const fresh = have[piece.piece.id] !== piece.key
        return {
          id: piece.piece.id,
          of: piece.of,
          key: piece.key,
          bounds: piece.solid?.bounds(),
          volume: piece.solid?.volume() ?? 0,
          area: piece.solid?.area() ?? 0,
          triangles: piece.solid?.triangleCount() ?? 0,
          ...(fresh ? { mesh: renderMeshOf(built, piece) } : {}),
        }
      }),
      // The page finds the others itself, by the same functions, with each keystroke.
      problems: built.buildProblems,
      readings: built.solidReadings,
      buildMs: performance.now() - started,
    }
  }
}

/** Builds that take less than this need no preparing, ms. */
const quickBuildMs = 40

serve(loadedKernel().then((kernel) => new Solids(kernel).answers))
