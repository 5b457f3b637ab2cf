import { flattened, type Part } from '../document/index.ts'
import type { Kernel, Solid } from '../kernel/index.ts'
import { type Limit, limitOf, type Mass, noMass, towards } from '../mesh/index.ts'
import { tried } from '../problems/index.ts'
import { untoldShare } from '../units/index.ts'
import { isAlike, solidOf } from './alike.ts'
import { Builder, type Built } from './builder.ts'
import type { BuildOptions } from './combining.ts'

/** Figures are taken from solids at this fineness, mm, and at four times it. */
export const measuringFineness = 0.03
const coarseFineness = 4 * measuringFineness
const finerFineness = measuringFineness / 4

/** What a piece comes to: the solid as its shapes describe it, whatever flats stand for its rounds. */
export interface PieceFigures {
  readonly mass: Mass
  readonly way: FiguresWay
  /** how far volume and area may be off to either side, mm³ and mm²; undefined where nothing tells */
  readonly error: Limit['error'] | undefined
}

/**
 * `exact` where all faces are flat; else what solids at two or three finenesses run towards; `flats` where these are not the same solid,
 * so that nothing is known but the flats themselves.
 */
export type FiguresWay = 'exact' | 'extrapolated' | 'flats'

/** A part built at two finenesses, so that what is measured at both leads to the curved solids themselves. */
export interface TwiceBuilt {
  readonly fine: Built
  readonly coarse: Built
  /** finer still, where it is soon built, or where the two say too little */
  readonly finer?: Built | undefined
}

/** A part of fewer triangles than these is soon built finer still, to be measured. */
const fewTriangles = 4500
/** One of more is where two finenesses leave more of its volume in doubt than is told, but never one of more than so many. */
const mostTriangles = 200_000

/** Measures parts as they are meant, not as they are faceted. Keeps what did not change, as a builder does. */
export class Measurer {
  readonly #fine: Builder
  readonly #coarse: Builder
  readonly #finer: Builder

  /** `fine`: a builder that builds at the measuring fineness anyway. */
  constructor(kernel: Kernel, fine = new Builder(kernel)) {
    this.#fine = fine
    this.#coarse = new Builder(kernel)
    this.#finer = new Builder(kernel)
  }

  /**
   * At two finenesses and no more: what gaps are measured on. `fine`: the part as the fine builder built it last, where that is known.
   * @throws BuildAborted
   */
  async two(part: Part, options: Omit<BuildOptions, 'fineness'> = {}, fine?: Built): Promise<TwiceBuilt> {
    return {
      fine: fine ?? (await this.#fine.build(part, { ...options, fineness: measuringFineness })),
      coarse: await this.#coarse.build(part, { ...options, fineness: coarseFineness }),
    }
  }

  /**
   * At two finenesses, and a third one where figures need that. `two`: the part as `two` built it last, where that is known.
   * @throws BuildAborted
   */
  async twice(part: Part, options: Omit<BuildOptions, 'fineness'> = {}, two?: TwiceBuilt): Promise<TwiceBuilt> {
    const twice = two ?? (await this.two(part, options))
    const triangles = twice.fine.pieces.reduce((sum, { solid }) => sum + (solid?.triangleCount() ?? 0), 0)
    const tellsTooLittle = Object.values(figuresOf(twice)).some(({ way, mass, error }) => {
      if (way === 'exact') return false
      return triangles < fewTriangles || !(error && error.volume <= untoldShare * mass.volume)
    })
    if (!tellsTooLittle || triangles > mostTriangles) return twice
    return { ...twice, finer: await this.#finer.build(part, { ...options, fineness: finerFineness }) }
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
    this.#finer.clear()
  }
}

/** By the piece's id. */
export function figuresOf({ fine, coarse, finer }: TwiceBuilt): Readonly<Record<string, PieceFigures>> {
  return Object.fromEntries(
    fine.pieces.map(({ piece, of, solid }): [string, PieceFigures] => {
      const other = solidOf(coarse, piece.id)
      const exact = (mass: Mass): PieceFigures => ({ mass, way: 'exact', error: { volume: 0, area: 0 } })
      if (!solid || !other) return [piece.id, exact(noMass)]
      if (isFlat(solid, other)) return [piece.id, exact(solid.mass())]
      const third = finer && isAlike(finer, fine, piece.id) ? solidOf(finer, piece.id) : undefined
      const known = [third, solid, ...(isAlike(fine, coarse, piece.id) ? [other] : [])].flatMap(
        (each) => each?.mass() ?? [],
      )
      const [best, next, last] = known
      if (!next) return [piece.id, { mass: best!, way: 'flats', error: undefined }]
      const uneven = hasUneven(fine, of)
      return [piece.id, { ...limitOf(best!, next, last, { uneven }), way: 'extrapolated' }]
    }),
  )
}

/** Whether a piece has a step whose flats are not halved from one fineness to the next. */
function hasUneven({ resolved }: Built, piece: string): boolean {
  const own = resolved.part.pieces.find(({ id }) => id === piece)
  return flattened(own?.steps ?? []).some(({ id }) => {
    const { shape, values } = resolved.steps.get(id) ?? {}
    if (!values || !shape?.isUneven) return false
    // Where that cannot be told it is not to be relied on.
    return tried(() => shape.isUneven!(values)) ?? true
  })
}

/** Flats alone: the same triangles at any fineness. */
function isFlat(fine: Solid | undefined, coarse: Solid | undefined): boolean {
  if (!fine || !coarse) return fine === coarse
  return fine.triangleCount() === coarse.triangleCount() && Math.abs(fine.volume() / coarse.volume() - 1) < 1e-9
}
