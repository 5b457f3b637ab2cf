import type { Part } from '../document/index.ts'
import type { Kernel } from '../kernel/index.ts'
import { extrapolated, type Mass, noMass, towards } from '../mesh/index.ts'
import { Builder, type Built } from './builder.ts'
import type { BuildOptions } from './combining.ts'

/** Figures are taken from solids at this fineness, mm, and at four times it. */
export const measuringFineness = 0.03
const coarseFineness = 4 * measuringFineness

/** What a piece comes to: the solid as its shapes describe it, whatever flats stand for its rounds. */
export interface PieceFigures {
  readonly mass: Mass
  /** `exact` where all faces are flat; else what solids at two finenesses run towards */
  readonly way: 'exact' | 'extrapolated'
}

/** A part built at two finenesses, so that what is measured at both leads to the curved solids themselves. */
export interface TwiceBuilt {
  readonly fine: Built
  readonly coarse: Built
}

/** Measures parts as they are meant, not as they are faceted. Keeps what did not change, as a builder does. */
export class Measurer {
  readonly #fine: Builder
  readonly #coarse: Builder

  /** `fine`: a builder that builds at the measuring fineness anyway. */
  constructor(kernel: Kernel, fine = new Builder(kernel)) {
    this.#fine = fine
    this.#coarse = new Builder(kernel)
  }

  /**
   * `fine`: the part as the fine builder built it last, where that is known.
   * @throws BuildAborted
   */
  async twice(part: Part, options: Omit<BuildOptions, 'fineness'> = {}, fine?: Built): Promise<TwiceBuilt> {
    return {
      fine: fine ?? (await this.#fine.build(part, { ...options, fineness: measuringFineness })),
      coarse: await this.#coarse.build(part, { ...options, fineness: coarseFineness }),
    }
  }

  /** How much material a piece has because of a step, mm³; see `Builder.effectOf`. */
  async effectOf({ fine, coarse }: TwiceBuilt, stepId: string): Promise<number | undefined> {
    const one = await this.#fine.effectOf(fine, stepId, { fineness: measuringFineness })
    const two = await this.#coarse.effectOf(coarse, stepId, { fineness: coarseFineness })
    return one === undefined || two === undefined ? undefined : towards(one, two)
  }

  clear(): void {
    this.#fine.clear()
    this.#coarse.clear()
  }
}

/** By the piece's id. */
export function figuresOf({ fine, coarse }: TwiceBuilt): Readonly<Record<string, PieceFigures>> {
  return Object.fromEntries(
    fine.pieces.map(({ piece, solid }): [string, PieceFigures] => {
      const other = coarse.pieces.find((each) => each.piece.id === piece.id)?.solid
      if (!solid || !other) return [piece.id, { mass: noMass, way: 'exact' }]
      const [one, two] = [solid.mass(), other.mass()]
      // Flats alone: the same triangles at any fineness.
      const flat = solid.triangleCount() === other.triangleCount() && Math.abs(one.volume / two.volume - 1) < 1e-9
      return [piece.id, flat ? { mass: one, way: 'exact' } : { mass: extrapolated(one, two), way: 'extrapolated' }]
    }),
  )
}
