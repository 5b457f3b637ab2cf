import type { Part } from '../document/index.ts'
import type { Kernel, Solid } from '../kernel/index.ts'
import { extrapolated, type Mass, meshFigures, noMass, towards } from '../mesh/index.ts'
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
}

/**
 * `exact` where all faces are flat; else what solids at two finenesses run towards; `flats` where these are not the same solid, so that
 * nothing is known but the flats themselves.
 */
export type FiguresWay = 'exact' | 'extrapolated' | 'flats'

/** A part built at two finenesses, so that what is measured at both leads to the curved solids themselves. */
export interface TwiceBuilt {
  readonly fine: Built
  readonly coarse: Built
  /** finer still, where all of it is small: few flats leave more than their squares tell */
  readonly finer?: Built | undefined
}

/** A part of fewer triangles than these is built finer still to be measured. */
const fewTriangles = 4500

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
   * `fine`: the part as the fine builder built it last, where that is known.
   * @throws BuildAborted
   */
  async twice(part: Part, options: Omit<BuildOptions, 'fineness'> = {}, fine?: Built): Promise<TwiceBuilt> {
    const twice = {
      fine: fine ?? (await this.#fine.build(part, { ...options, fineness: measuringFineness })),
      coarse: await this.#coarse.build(part, { ...options, fineness: coarseFineness }),
    }
    const few = twice.fine.pieces.reduce((sum, { solid }) => sum + (solid?.triangleCount() ?? 0), 0) < fewTriangles
    if (!few || twice.fine.pieces.every(({ piece, solid }) => isFlat(solid, solidOf(twice.coarse, piece.id))))
      return twice
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
    fine.pieces.map(({ piece, solid }): [string, PieceFigures] => {
      const other = solidOf(coarse, piece.id)
      if (!solid || !other) return [piece.id, { mass: noMass, way: 'exact' }]
      if (isFlat(solid, other)) return [piece.id, { mass: solid.mass(), way: 'exact' }]
      const third = finer && isAlike(finer, fine, piece.id) ? solidOf(finer, piece.id) : undefined
      if (third) return [piece.id, { mass: extrapolated(third.mass(), solid.mass()), way: 'extrapolated' }]
      if (!isAlike(fine, coarse, piece.id)) return [piece.id, { mass: solid.mass(), way: 'flats' }]
      return [piece.id, { mass: extrapolated(solid.mass(), other.mass()), way: 'extrapolated' }]
    }),
  )
}

/** How many bodies and cavities solids have that are measured again with each edit. */
const knownBodies = new WeakMap<Solid, string>()

function bodiesIn(solid: Solid): string {
  const known = knownBodies.get(solid)
  if (known !== undefined) return known
  const { solids, cavities } = meshFigures(solid.mesh())
  const own = `${solids} ${cavities.length}`
  knownBodies.set(solid, own)
  return own
}

/** Whether a piece is the same at two finenesses but for its flats: the same steps failed, and it falls into as many bodies and cavities. */
export function isAlike(one: Built, other: Built, id: string): boolean {
  const told = ({ buildProblems }: Built) => buildProblems.map(({ code, path }) => `${code} ${path.join('/')}`).join()
  if (told(one) !== told(other)) return false
  const [a, b] = [one, other].map((built) => solidOf(built, id))
  return a && b ? bodiesIn(a) === bodiesIn(b) : a === b
}

function solidOf({ pieces }: Built, id: string): Solid | undefined {
  return pieces.find((each) => each.piece.id === id)?.solid
}

/** Flats alone: the same triangles at any fineness. */
function isFlat(fine: Solid | undefined, coarse: Solid | undefined): boolean {
  if (!fine || !coarse) return fine === coarse
  return fine.triangleCount() === coarse.triangleCount() && Math.abs(fine.volume() / coarse.volume() - 1) < 1e-9
}
