import { applyEdit, withSiblings } from '@makrel/core/document'
import type { Kernel } from '@makrel/core/kernel'
import { picture, samplePart } from '@makrel/core/pictures'
import { fieldKindOf, itemsIn } from '@makrel/core/planning'
import { type ShapeDefinition, shapes } from '@makrel/core/shapes'
import {
  Builder,
  type Built,
  cutawayOf,
  drawingOf,
  itemSolid,
  measuringFineness,
  renderMeshOf,
} from '@makrel/core/solids'
import { soloMesh } from './ghost.ts'
import { loadedKernel } from './loadedKernel.ts'
import { isWorthPractising, practise, quickBuildMs } from './practice.ts'
import type { BuildAnswer, NameOf } from './protocol.ts'
import { type Answers, serve, type Turn } from './serving.ts'
import { ink, material, taken } from './tints.ts'

/** Fine enough for a picture of this size, mm. */
const pictureFineness = 0.15
/** A kind of shape as a small picture; undefined of one that nothing shows by itself. */
async function pictureOf(kernel: Kernel, shape: ShapeDefinition, width: number, height: number) {
  const part = samplePart(shape)
  if (!part) return undefined
  const builder = new Builder(kernel)
  try {
    const built = await builder.build(part, { fineness: pictureFineness })
    const mesh = built.pieces[0] && renderMeshOf(built, built.pieces[0])
    const cuts = shape.operation !== 'add'
    const colourOf = (step: string) => (cuts && step !== 'base' ? taken : material)
    return mesh && picture(mesh, width, height, { colourOf, line: ink })
  } finally {
    builder.clear()
  }
}

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
    practise: async (_, { part, signal, pause }) => {
      if (part && isWorthPractising(this.#buildMs))
        await practise(this.#kernel, part, { fineness: measuringFineness, signal, pause })
      return undefined
    },
    ghost: async ({ step }) => {
      const solid = this.#built && (await this.#builder.ghost(this.#built, step, { fineness: measuringFineness }))
      return solid && soloMesh([solid], { kind: 'step', id: step })
    },
    items: () => this.items(),
    cutaway: (plane) =>
      (this.#built?.pieces ?? []).map((piece) => ({
        piece: piece.piece.id,
        mesh: cutawayOf(this.#kernel, this.#built!, piece, plane),
      })),
    pictures: async ({ width, height }, { pause }) => {
      const pictures = []
      for (const shape of shapes) {
        const shown = await pictureOf(this.#kernel, shape, width, height)
        if (shown) pictures.push({ ...shown, kind: shape.kind })
        await pause()
      }
      return pictures
    },
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

  /** What a step or joint takes is one drawing, of all copies. */
  private items() {
    const built = this.#built
    if (!built) return []
    const items = itemsIn(built.resolved, built.plan)
    const ids = new Set(items.map(({ of }) => of.id))
    return [...ids].flatMap((id) =>
      this.#kernel.scope((scope) => {
        const bodies = items.flatMap(({ of, item, length, frame }) => {
          if (of.id !== id) return []
          const solid = itemSolid(scope, item, measuringFineness, { length })
          return solid ? [scope.placed(solid, frame)] : []
        })
        return bodies.length > 0 ? [{ id, mesh: soloMesh(bodies, { kind: 'step', id }) }] : []
      }),
    )
  }

  private async build(have: Readonly<Record<string, string>>, { part, signal, pause }: Turn): Promise<BuildAnswer> {
    if (!part) throw new Error('there is no part to build')
    const started = performance.now()
    const built = await this.#builder.build(part, { fineness: measuringFineness, signal, pause })
    this.#built = built
    this.#buildMs = Math.max(performance.now() - started, this.#buildMs * 0.9)
    return { ...drawingOf(built, have), buildMs: performance.now() - started }
  }
}

serve(loadedKernel().then((kernel) => new Solids(kernel).answers))
