import { furtherBody, type Part, type Piece } from '../document/index.ts'
import type { Kernel, Solid } from '../kernel/index.ts'
import type { Frame } from '../place/index.ts'
import {
  noReadings,
  type Operand,
  type Plan,
  readSolids,
  readsSolids,
  type SolidReadings,
  type StandingJoint,
  toldIn,
  treatmentsStoodOn,
  usesSolids,
  type WorkedPart,
  workOut,
} from '../planning/index.ts'
import { type Problem, problem } from '../problems/index.ts'
import { alikeIn } from './alike.ts'
import { type Entry, SolidCache } from './cache.ts'
import { type BuildOptions, Combining, type Making } from './combining.ts'
import { madeJoints, withJoints, withoutBends } from './jointed.ts'
import type { Owner } from './named.ts'
import { contentOf, holdsStep, withHeld, withoutStep } from './operands.ts'
import { solidsToRead } from './readSolid.ts'

/**
 * One solid that leaves. A piece that a step parts is several, the further ones called and named after it (`furtherBody`).
 */
export interface BuiltPiece {
  readonly piece: Piece
  /** the piece of the part that it was parted from, or is, by its id */
  readonly of: string
  /** undefined where the piece has no material; lives until the builder's next build */
  readonly solid: Solid | undefined
  /** the pieces of the part that are one in this, where a joint makes one body of several */
  readonly holds?: readonly Piece[]
  /** without what bends out of the way in its joints, where something does: what cannot give way when pieces are moved */
  readonly stiff?: Solid | undefined
  /** the same key means the same solid */
  readonly key: string
  readonly ownerOf: (original: number) => Owner | undefined
}

export interface Built extends WorkedPart {
  readonly pieces: readonly BuiltPiece[]
  readonly joints: readonly StandingJoint[]
  /** where pieces have been moved to from where they are drawn, by the ids of the part's; where they have */
  readonly motions?: ReadonlyMap<string, Frame>
  /** what was read off the solids */
  readonly solidReadings: SolidReadings
  /** those of the worked part, and those that only building finds */
  readonly problems: readonly Problem[]
  readonly buildProblems: readonly Problem[]
}

/** How often a part is built whose sizes depend on what is read off its solid. */
const mostRounds = 6

/** Builds parts, keeping what did not change from one build to the next. */
export class Builder {
  readonly kernel: Kernel
  readonly #making: Making
  /** steps that were edited lately, or are about to be; the oldest first */
  readonly #recentlyEdited = new Set<string>()
  /** builds what is read off the solids at a second fineness; only where something is */
  #coarse: Builder | undefined
  #contents = new Map<string, string>()
  #readings: SolidReadings = noReadings

  constructor(kernel: Kernel, cache = new SolidCache()) {
    this.kernel = kernel
    this.#making = { kernel, cache, owners: new Map<number, Owner>() }
  }

  /**
   * Where an expression uses what is read off the solid, the part is built until that stays the same.
   * @throws BuildAborted
   */
  async build(part: Part, options: BuildOptions): Promise<Built> {
    this.trim()
    const reads = usesSolids(part)
    let known: SolidReadings = reads ? this.#readings : noReadings
    for (let round = 1; ; round++) {
      const built = await this.once(part, known, options)
      const settled = !reads || JSON.stringify(built.solidReadings) === JSON.stringify(known)
      if (settled || round === mostRounds) {
        this.#readings = built.solidReadings
        this.#making.cache.finish()
        if (settled) return built
        const unsettled = part.readouts
          .filter(({ id }) => JSON.stringify(known.values[id]) !== JSON.stringify(built.solidReadings.values[id]))
          .map(({ id }) => problem('readout-unsettled', ['readouts', id], {}))
        return {
          ...built,
          problems: [...built.problems, ...unsettled],
          buildProblems: [...built.buildProblems, ...unsettled],
        }
      }
      known = built.solidReadings
    }
  }

  private async once(part: Part, known: SolidReadings, options: BuildOptions, reads = true): Promise<Built> {
    const worked = workOut(part, known)
    const { resolved, plan } = worked
    const problems: Problem[] = []
    const joints = madeJoints(resolved, plan, this.#making, options.fineness, problems)
    const combining = this.combining(options, problems, treatmentsStoodOn(part))
    const pieces: BuiltPiece[] = []
    this.noteChanges(plan, options.fineness)
    for (const { piece, operands } of plan.pieces) {
      const [first, ...others] = await combining.bodies(operands)
      const whole = withJoints(first, piece, joints, this.#making, problems)
      const stiff = withoutBends(whole, piece, joints, this.#making)?.solid
      pieces.push(
        { ...this.piece(piece, whole), ...(stiff && { stiff }) },
        ...others.map((body, i) => this.piece(furtherBody(piece, i + 2), body, piece.id)),
      )
    }
    const buildProblems = toldIn(problems, part)
    const coarse =
      reads && readsSolids(part) ? alikeIn({ pieces, buildProblems }, await this.coarsely(part, known, options)) : []
    const values = reads ? readSolids(part, plan, solidsToRead(pieces, plan), solidsToRead(coarse, plan)) : {}
    const solidReadings = { values, faces: combining.madeFaces }
    // With what this build itself gave, so that the values belong to these solids; sizes that use them are built anew.
    const told = Object.keys(values).length > 0 && !usesSolids(part) ? workOut(part, solidReadings) : worked
    return {
      ...told,
      pieces,
      joints: joints.map(({ joint, frame, second }) => ({ joint, frame, second })),
      solidReadings,
      problems: [...told.problems, ...buildProblems],
      buildProblems,
    }
  }

  /** After what is being edited is known, which goes last. */
  private combining(options: BuildOptions, problems: Problem[] = [], stoodOn?: ReadonlySet<string>): Combining {
    return new Combining(this.#making, this.#recentlyEdited, options, problems, stoodOn)
  }

  private piece(piece: Piece, body: Entry | undefined, of = piece.id): BuiltPiece {
    return {
      piece,
      of,
      solid: body?.solid.isEmpty() === false ? body.solid : undefined,
      key: body ? `#${body.id}` : 'nothing',
      ownerOf: (original) => this.#making.owners.get(original),
    }
  }

  /** The part at four times the fineness, by a builder of its own. */
  private coarsely(part: Part, known: SolidReadings, options: BuildOptions): Promise<Built> {
    this.#coarse ??= new Builder(this.kernel)
    return this.#coarse.unread(part, known, { ...options, fineness: 4 * options.fineness })
  }

  /** A part built with what was read off its solid elsewhere. */
  private async unread(part: Part, known: SolidReadings, options: BuildOptions): Promise<Built> {
    this.trim()
    const built = await this.once(part, known, options, false)
    this.#making.cache.finish()
    return built
  }

  private trim(): void {
    for (const { originals } of this.#making.cache.trim()) for (const id of originals) this.#making.owners.delete(id)
  }

  /**
   * Builds everything but `steps`, which are about to be edited, so that already the first of their edits finds the
   * rest built. Does nothing that a later build would not do itself.
   */
  prepare(part: Part, steps: readonly string[], options: BuildOptions): Promise<Built> {
    this.heat(steps)
    return this.build(part, options)
  }

  /**
   * How much material the piece has because of a step, mm³: negative for what it takes away. Joints are left aside.
   * Undefined where the step is not in the solid.
   */
  async effectOf(built: Built, stepId: string, options: BuildOptions): Promise<number | undefined> {
    const planned = built.plan.pieces.find(({ operands }) => holdsStep(operands, stepId))
    if (!planned) return undefined
    const volume = async (operands: readonly Operand[]) => {
      const bodies = operands.length > 0 ? await this.combining(options).bodies(operands) : []
      return bodies.reduce((sum, { solid }) => sum + solid.volume(), 0)
    }
    // The rest first: as its own solid it is likely to be there, since what is selected is built last.
    const rest = await volume(withoutStep(planned.operands, stepId))
    return (await volume(planned.operands)) - rest
  }

  /** A step's own shape at all its places, whatever becomes of it in its piece; undefined where it cannot be built. */
  async ghost(built: Built, stepId: string, options: BuildOptions): Promise<Solid | undefined> {
    const known = built.plan.operands.get(stepId)
    // A bundle whose copies differ is several operands.
    const all = built.plan.pieces.flatMap(({ operands }) => operands.filter(({ step }) => step.id === stepId))
    const made: Entry[] = []
    for (const operand of all.length > 1 ? all : known ? [known] : []) {
      const entry = operand.kind === 'body' ? await this.combining(options).body(operand) : undefined
      if (entry) made.push(entry)
    }
    if (made.length < 2) return made[0]?.solid
    const key = `ghost|${made.map(({ id }) => id).join(',')}`
    return this.#making.cache.get(key, () => ({
      solid: this.kernel.scope((scope) => scope.handOver(scope.union(made.map(({ solid }) => solid)))),
    })).solid
  }

  /** A step's own shape as a piece of its own, with its faces; undefined where it cannot be built. */
  async alone(built: Built, stepId: string, options: BuildOptions): Promise<BuiltPiece | undefined> {
    const planned = built.plan.pieces.find(({ operands }) => holdsStep(operands, stepId))
    const solid = planned && (await this.ghost(built, stepId, options))
    return (
      solid && {
        piece: planned.piece,
        of: planned.piece.id,
        solid,
        key: `alone ${stepId}`,
        ownerOf: (id) => this.#making.owners.get(id),
      }
    )
  }

  /** Releases all that is kept. */
  clear(): void {
    this.#making.cache.clear()
    this.#making.owners.clear()
    this.#coarse?.clear()
  }

  /** Steps whose content differs from the last build are being edited. A part with other steps begins anew. */
  private noteChanges(plan: Plan, fineness: number): void {
    const contents = new Map(
      withHeld(plan.pieces.flatMap(({ operands }) => operands)).map((operand) => [
        operand.step.id,
        contentOf(operand, fineness),
      ]),
    )
    const known = [...contents].filter(([id]) => this.#contents.has(id))
    const changed = known.filter(([id, content]) => this.#contents.get(id) !== content).map(([id]) => id)
    if (known.length === 0) this.#recentlyEdited.clear()
    // Where much changed at once (another fineness, a measure that all use) there is no rest worth keeping.
    else if (changed.length <= contents.size / 3) this.heat(changed)
    this.#contents = contents
  }

  private heat(steps: readonly string[]): void {
    for (const id of steps) {
      this.#recentlyEdited.delete(id)
      this.#recentlyEdited.add(id)
    }
    for (const id of this.#recentlyEdited)
      if (this.#recentlyEdited.size > Math.max(maxRecentlyEdited, steps.length)) this.#recentlyEdited.delete(id)
  }
}

/** How many steps are kept apart as being edited. */
const maxRecentlyEdited = 4
