import { applyEdit, type Part } from '@makrel/core/document'
import { archiveOf, formatOf, type HandOff, handOff, handOffVariants, type MeshFormat } from '@makrel/core/exchange'
import { Kernel, loadLibrary } from '@makrel/core/kernel'
import { layerAreas, sectionAt } from '@makrel/core/layers'
import { fieldKindOf, readSolids } from '@makrel/core/planning'
import { type Finding, proofOf, swingAt } from '@makrel/core/proof'
import {
  BuildAborted,
  Builder,
  type Built,
  cutawayOf,
  drawingOf,
  figuresOf,
  jointMotion,
  Measurer,
  measuringFineness,
  solidsToRead,
  type TwiceBuilt,
} from '@makrel/core/solids'
import wasmUrl from 'manifold-3d/manifold.wasm?url'
import { soloDrawing } from './ghost.ts'
import {
  type BuildAnswer,
  type CallName,
  type Calls,
  isRead,
  type ReadName,
  type Request,
  type Response,
} from './protocol.ts'

class Host {
  readonly #builder: Builder
  readonly #kernel: Kernel
  readonly #measurer: Measurer
  #built: Built | undefined
  #twice: TwiceBuilt | undefined
  #signal = { aborted: false }
  #buildMs = 0
  #last: Promise<unknown> = Promise.resolve()

  constructor(kernel: Kernel) {
    this.#kernel = kernel
    this.#builder = new Builder(kernel)
    this.#measurer = new Measurer(kernel, this.#builder)
  }

  readonly calls: {
    [N in Exclude<CallName, ReadName | 'build' | 'prepare' | 'proof'>]: (
      input: Calls[N]['in'],
    ) => Promise<Calls[N]['out']> | Calls[N]['out']
  } = {
    ghost: async ({ step }) => {
      const solid = this.#built && (await this.#builder.ghost(this.#built, step, { fineness: measuringFineness }))
      return solid && soloDrawing(solid, { kind: 'step', id: step })
    },
    effect: async ({ step }) => {
      const twice = await this.twice()
      return twice && this.#measurer.effectOf(twice, step)
    },
    swing: async ({ joint, position }) => {
      const twice = await this.twice()
      const at = twice && swingAt(this.#kernel, twice, joint, position)
      return at && { at, motion: jointMotion(twice.fine, joint, position) }
    },
    section: ({ z }) =>
      (this.#built?.pieces ?? []).map((piece) => ({
        piece: piece.piece.id,
        section: sectionAt(this.#kernel, piece, z),
      })),
    cutaway: (plane) =>
      (this.#built?.pieces ?? []).map((piece) => ({
        piece: piece.piece.id,
        drawing: cutawayOf(this.#kernel, this.#built!, piece, plane),
      })),
    inspect: async ({ step, show }) => {
      const built = this.#built
      if (!built) return []
      if (show === 'alone') {
        const piece = await this.#builder.alone(built, step, { fineness: measuringFineness })
        return piece ? [{ piece: piece.piece.id, drawing: drawingOf(built, piece) }] : []
      }
      const { part } = built.resolved
      const muted = applyEdit(part, { type: 'set-step', id: step, change: { mute: true } }, fieldKindOf)
      const rest = await this.#builder.build(muted, { fineness: measuringFineness })
      const drawings = rest.pieces.map((piece) => ({ piece: piece.piece.id, drawing: drawingOf(rest, piece) }))
      // The cache keeps safe what the last build gave out: that is the part itself again.
      this.#built = await this.#builder.build(part, { fineness: measuringFineness })
      return drawings
    },
    read: async ({ readouts }) => {
      const twice = await this.twice()
      if (!twice) return {}
      const { fine, coarse } = twice
      const { plan } = fine
      const part = { ...fine.resolved.part, readouts }
      return readSolids(part, plan, solidsToRead(fine.pieces, plan), solidsToRead(coarse.pieces, plan))
    },
    areas: ({ layerHeight, count }) =>
      (this.#built?.pieces ?? [])
        .map((piece) => layerAreas(this.#kernel, piece, layerHeight, count))
        .reduce((sum, areas) => sum.map((area, i) => area + areas[i]!), new Array<number>(count).fill(0)),
    handOff: ({ part, format, fineness, piece }) =>
      this.apart(format, fineness, async (build, written) => {
        const { built, twice } = await build(part)
        const findings = await proofOf(this.#kernel, built, { twice })
        return { ...handOff(built, written, { fineness, piece, twice }), findings }
      }),
    handOffVariants: ({ part, format, fineness, piece }) =>
      this.apart(format, fineness, async (build, written) => {
        const files: (HandOff & { findings: readonly Finding[] })[] = []
        await handOffVariants(part, build, written, { fineness, piece }, async (file, built, twice) => {
          files.push({ ...file, findings: await proofOf(this.#kernel, built, { twice }) })
        })
        return {
          ...archiveOf(part, files),
          written: files.map(({ receipt, findings }) => ({ receipt, findings })),
        }
      }),
  }

  /** The part that was built last at two finenesses, for measuring; `undefined` where there is none. */
  private async twice(signal?: { readonly aborted: boolean }): Promise<TwiceBuilt | undefined> {
    const fine = this.#built
    if (!fine) return undefined
    if (this.#twice?.fine !== fine)
      this.#twice = await this.#measurer.twice(fine.resolved.part, signal ? { signal, pause } : {}, fine)
    return this.#twice
  }

  /** The proof and the figures of the part that was built last; `undefined` where a newer build overtakes it. */
  async proof(signal: { readonly aborted: boolean }): Promise<Calls['proof']['out']> {
    try {
      const twice = signal.aborted ? undefined : await this.twice(signal)
      if (!twice) return undefined
      const findings = await proofOf(this.#kernel, twice.fine, { twice, signal, pause })
      return { findings, figures: figuresOf(twice) }
    } catch (error) {
      if (error instanceof BuildAborted) return undefined
      throw error
    }
  }

  /** Work with builders of its own: another fineness must not push the edited part's solids out of their cache. */
  private async apart<T>(
    id: string,
    fineness: number,
    work: (build: (part: Part) => Promise<{ built: Built; twice: TwiceBuilt }>, format: MeshFormat) => Promise<T>,
  ): Promise<T> {
    const format = formatOf(id)
    if (!format) throw new Error(`there is no format ${id}`)
    const builder = new Builder(this.#kernel)
    const measurer = new Measurer(this.#kernel)
    const build = async (part: Part) => ({
      built: await builder.build(part, { fineness }),
      twice: await measurer.twice(part),
    })
    try {
      return await work(build, format)
    } finally {
      builder.clear()
      measurer.clear()
    }
  }

  /** One call at a time: a build lets messages in, but what they ask for waits until it is done or given up. */
  inTurn<T>(work: () => T | Promise<T>): Promise<T> {
    const done = this.#last.then(work)
    this.#last = done.catch(() => undefined)
    return done
  }

  /** The builds that wait or run are stale from now on. */
  overtake(): { aborted: boolean } {
    this.#signal.aborted = true
    this.#signal = { aborted: false }
    return this.#signal
  }

  /** What the latest build listens to. */
  get signal(): { readonly aborted: boolean } {
    return this.#signal
  }

  async prepare(steps: readonly string[], signal: { readonly aborted: boolean }): Promise<undefined> {
    if (!this.#built || signal.aborted || this.#buildMs < quickBuildMs) return
    try {
      const { part } = this.#built.resolved
      this.#built = await this.#builder.prepare(part, steps, { fineness: measuringFineness, signal, pause })
    } catch (error) {
      if (!(error instanceof BuildAborted)) throw error
    }
  }

  async build(
    { part, have }: Calls['build']['in'],
    signal: { readonly aborted: boolean },
  ): Promise<BuildAnswer | undefined> {
    if (signal.aborted) return undefined
    const started = performance.now()
    try {
      const built = await this.#builder.build(part, { fineness: measuringFineness, signal, pause })
      this.#built = built
      this.#buildMs = Math.max(performance.now() - started, this.#buildMs * 0.9)
      return {
        part,
        pieces: built.pieces.map((piece) => {
          const fresh = have[piece.piece.id] !== piece.key
          return {
            id: piece.piece.id,
            key: piece.key,
            bounds: piece.solid?.bounds(),
            volume: piece.solid?.volume() ?? 0,
            area: piece.solid?.area() ?? 0,
            triangles: piece.solid?.triangleCount() ?? 0,
            ...(fresh ? { drawing: drawingOf(built, piece) } : {}),
          }
        }),
        // The page finds the others itself, by the same functions, with each keystroke.
        problems: built.buildProblems,
        readings: built.solidReadings,
        buildMs: performance.now() - started,
      }
    } catch (error) {
      if (error instanceof BuildAborted) return undefined
      throw error
    }
  }
}

/** Builds that take less than this need no preparing, ms. */
const quickBuildMs = 40

/** Lets messages in: a newer build is seen before the next operation starts. */
function pause(): Promise<void> {
  return new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel()
    port1.onmessage = () => {
      port1.close()
      resolve()
    }
    port2.postMessage(undefined)
  })
}

const host = fetch(wasmUrl)
  .then((response) => response.arrayBuffer())
  .then(loadLibrary)
  .then((library) => new Host(new Kernel(library)))

self.onmessage = async ({ data: { id, name, input } }: MessageEvent<Request>) => {
  let response: Response
  try {
    const solids = await host
    response = { id, ok: true, output: await answer(solids, name, input) }
  } catch (error) {
    response = { id, ok: false, message: error instanceof Error ? error.message : String(error) }
  }
  self.postMessage(response)
}

function answer(solids: Host, name: CallName, input: unknown): Promise<unknown> {
  if (name === 'build') {
    // Told at once, not in its turn: that is what ends the builds before it.
    const signal = solids.overtake()
    return solids.inTurn(() => solids.build(input as Calls['build']['in'], signal))
  }
  if (name === 'prepare') {
    // Given up as soon as a build comes in, also while it waits.
    const { signal } = solids
    return solids.inTurn(() => solids.prepare((input as Calls['prepare']['in']).steps, signal))
  }
  if (name === 'proof') {
    const { signal } = solids
    return solids.inTurn(() => solids.proof(signal))
  }
  if (isRead(name)) throw new Error('files are read elsewhere')
  return solids.inTurn(() => (solids.calls[name] as (input: unknown) => unknown)(input))
}
