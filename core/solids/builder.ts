import type { Joint, Part, Piece } from '../document/index.ts'
import type { AnyValues } from '../fields/index.ts'
import type { JointDefinition } from '../joints/index.ts'
import type { Kernel, Plane, Scope, Solid, SolidMesh } from '../kernel/index.ts'
import { type SurfaceTelling, whenAsked } from '../naming/index.ts'
import {
  compose,
  cross,
  dot,
  type Frame,
  inverse,
  moved,
  norm,
  placed,
  scaled,
  subtract,
  type Vec3,
  world,
} from '../place/index.ts'
import type { ResolvedPart } from '../planning/index.ts'
import {
  bedSeating,
  cutOverlap,
  type Operand,
  type Plan,
  readSolids,
  readsSolids,
  type SolidReadings,
  toldIn,
  usesSolids,
  type WorkedPart,
  workOut,
} from '../planning/index.ts'
import { type Problem, ProblemError, problem, problemFrom, tried } from '../problems/index.ts'
import { boxReach, type ShapeDefinition } from '../shapes/index.ts'
import { type Entry, SolidCache } from './cache.ts'
import { flushBetween, flushGrowth, flushWithin } from './flush.ts'
import { solidsToRead } from './readSolid.ts'
import { type CarvedRegion, type Carving, carved, carvingsOf, type RegionSource } from './regions.ts'
import { type Run, runsOf } from './runs.ts'
import { frameIn, operandIn, spaceOf } from './space.ts'

export interface BuildOptions {
  /** chord tolerance, mm */
  readonly fineness: number
  /** checked between operations; a stale build stops there */
  readonly signal?: { readonly aborted: boolean }
  /** lets the host take messages between operations */
  readonly pause?: () => Promise<void>
}

/** What a triangle belongs to, and what its surfaces are called. */
export interface Owner {
  readonly kind: 'step' | 'joint'
  readonly id: string
  readonly tell: SurfaceTelling
}

export interface BuiltPiece {
  readonly piece: Piece
  /** undefined where the piece has no material; lives until the builder's next build */
  readonly solid: Solid | undefined
  /** the same key means the same solid */
  readonly key: string
  readonly ownerOf: (original: number) => Owner | undefined
}

export interface BuiltJoint {
  readonly joint: Joint
  /** where its own frame stands, in the bed's frame */
  readonly frame: Frame
}

export interface Built extends WorkedPart {
  readonly pieces: readonly BuiltPiece[]
  readonly joints: readonly BuiltJoint[]
  /** what was read off the solids */
  readonly solidReadings: SolidReadings
  /** those of the worked part, and those that only building finds */
  readonly problems: readonly Problem[]
  readonly buildProblems: readonly Problem[]
}

/** How often a part is built whose sizes depend on what is read off its solid. */
const mostRounds = 6

/** Thrown when a build's signal says that nobody waits for it any more. */
export class BuildAborted extends Error {}

/** Builds parts, keeping what did not change from one build to the next. */
export class Builder {
  readonly kernel: Kernel
  readonly #cache: SolidCache
  readonly #owners = new Map<number, Owner>()
  /** steps that were edited lately, or are about to be; the oldest first */
  readonly #recentlyEdited = new Set<string>()
  /** builds what is read off the solids at a second fineness; only where something is */
  #coarse: Builder | undefined
  #contents = new Map<string, string>()
  #readings: SolidReadings = {}

  constructor(kernel: Kernel, cache = new SolidCache()) {
    this.kernel = kernel
    this.#cache = cache
  }

  /**
   * Where an expression uses what is read off the solid, the part is built until that stays the same.
   * @throws BuildAborted
   */
  async build(part: Part, options: BuildOptions): Promise<Built> {
    this.trim()
    const reads = usesSolids(part)
    let known: SolidReadings = reads ? this.#readings : {}
    for (let round = 1; ; round++) {
      const built = await this.once(part, known, options)
      const settled = !reads || JSON.stringify(built.solidReadings) === JSON.stringify(known)
      if (settled || round === mostRounds) {
        this.#readings = built.solidReadings
        this.#cache.finish()
        if (settled) return built
        const unsettled = part.readouts
          .filter(({ id }) => JSON.stringify(known[id]) !== JSON.stringify(built.solidReadings[id]))
          .map(({ id }) => problem('readout-unsettled', ['readouts', id]))
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
    const joints = this.joints(resolved, options, problems)
    const pieces: BuiltPiece[] = []
    this.noteChanges(plan, options.fineness)
    for (const { piece, operands } of plan.pieces) {
      const own = await this.combined(operands, options, problems)
      const whole = this.joined(own, piece, joints, problems)
      pieces.push({
        piece,
        solid: whole?.solid.isEmpty() === false ? whole.solid : undefined,
        key: whole ? `#${whole.id}` : 'nothing',
        ownerOf: (original) => this.#owners.get(original),
      })
    }
    const coarse = reads && readsSolids(part) ? await this.coarsePieces(part, known, options) : []
    const solidReadings = reads ? readSolids(part, plan, solidsToRead(pieces, plan), solidsToRead(coarse, plan)) : {}
    // With what this build itself gave, so that the values belong to these solids; sizes that use them are built anew.
    const told = Object.keys(solidReadings).length > 0 && !usesSolids(part) ? workOut(part, solidReadings) : worked
    return {
      ...told,
      pieces,
      joints: joints.map(({ joint, frame }) => ({ joint, frame })),
      solidReadings,
      problems: [...told.problems, ...toldIn(problems, part.unit)],
      buildProblems: toldIn(problems, part.unit),
    }
  }

  /** The pieces at four times the fineness, by a builder of their own. */
  private async coarsePieces(part: Part, known: SolidReadings, options: BuildOptions): Promise<readonly BuiltPiece[]> {
    this.#coarse ??= new Builder(this.kernel)
    return (await this.#coarse.unread(part, known, { ...options, fineness: 4 * options.fineness })).pieces
  }

  /** A part built with what was read off its solid elsewhere. */
  private async unread(part: Part, known: SolidReadings, options: BuildOptions): Promise<Built> {
    this.trim()
    const built = await this.once(part, known, options, false)
    this.#cache.finish()
    return built
  }

  private trim(): void {
    for (const { originals } of this.#cache.trim()) for (const id of originals) this.#owners.delete(id)
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
      const entry = operands.length > 0 ? await this.combined(operands, options, []) : undefined
      return entry?.solid.volume() ?? 0
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
      const entry = await this.operand(operand, options, [])
      if (entry) made.push(entry)
    }
    if (made.length < 2) return made[0]?.solid
    const key = `ghost|${made.map(({ id }) => id).join(',')}`
    return this.#cache.get(key, () => ({
      solid: this.kernel.scope((scope) => scope.handOver(scope.union(made.map(({ solid }) => solid)))),
    })).solid
  }

  /** A step's own shape as a piece of its own, with its faces; undefined where it cannot be built. */
  async alone(built: Built, stepId: string, options: BuildOptions): Promise<BuiltPiece | undefined> {
    const planned = built.plan.pieces.find(({ operands }) => holdsStep(operands, stepId))
    const solid = planned && (await this.ghost(built, stepId, options))
    return solid && { piece: planned.piece, solid, key: `alone ${stepId}`, ownerOf: (id) => this.#owners.get(id) }
  }

  /** Releases all that is kept. */
  clear(): void {
    this.#cache.clear()
    this.#owners.clear()
    this.#coarse?.clear()
  }

  /** Steps whose content differs from the last build are being edited. A part with other steps begins anew. */
  private noteChanges(plan: Plan, fineness: number): void {
    const contents = new Map(
      [...plan.operands.values()].map((operand) => [operand.step.id, contentOf(operand, fineness)]),
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

  /** One solid of a list of operands, where they stand. */
  private async combined(
    operands: readonly Operand[],
    options: BuildOptions,
    problems: Problem[],
  ): Promise<Entry | undefined> {
    const { entry, space } = await this.inSpace(operands, options, problems)
    if (!entry || space === world) return entry
    return this.#cache.get(`turned|${entry.id}|${JSON.stringify(space)}`, () => ({
      solid: this.kernel.scope((scope) => scope.handOver(scope.standing(entry.solid, space))),
    }))
  }

  /** One solid of a list of operands, in the space that it is built in. */
  private async inSpace(operands: readonly Operand[], options: BuildOptions, problems: Problem[]) {
    const space = spaceOf(standingOf(operands[0]))
    const there = operands.map((operand) => operandIn(space, operand))
    return { space, entry: await this.gathered(there, options, problems) }
  }

  /** What can be is made in the plane, the rest in as few operations as there can be. */
  private async gathered(
    operands: readonly Operand[],
    options: BuildOptions,
    problems: Problem[],
  ): Promise<Entry | undefined> {
    const carvings = carvingsOf(operands, this.#recentlyEdited, options.fineness)
    const flush = flushBetween(operands)
    if (carvings.length === 0) return this.runs(runsOf(operands, this.#recentlyEdited), options, problems, flush)
    const gone = new Set(carvings.flatMap(({ cuts }) => cuts))
    const made = new Map(carvings.map((carving) => [carving.base, this.carved(carving, options, problems)]))
    const rest = operands.filter((operand) => !gone.has(operand))
    return this.runs(runsOf(rest, this.#recentlyEdited), options, problems, flush, made)
  }

  private carved(carving: Carving, { fineness }: BuildOptions, problems: Problem[]): Entry {
    const { base, cuts } = carving
    const key = `carved|${base.step.id}|${[base, ...cuts].map((each) => contentOf(each, fineness)).join('|')}`
    const entry = this.#cache.get(key, () =>
      this.kernel.scope((scope) => {
        const { solid, id, region, idle } = carved(scope, carving, fineness)
        this.#owners.set(id, { kind: 'step', id: base.step.id, tell: whenAsked(() => carvedNames(region)) })
        return { solid: scope.handOver(solid), originals: [id], idle }
      }),
    )
    for (const index of entry.idle)
      problems.push(problem('cut-removes-nothing', ['steps', cuts[index]!.step.id], {}, { rank: 'warning' }))
    return entry
  }

  private async runs(
    runs: readonly Run[],
    options: BuildOptions,
    problems: Problem[],
    flush: ReturnType<typeof flushBetween>,
    made: ReadonlyMap<Operand, Entry> = new Map(),
  ): Promise<Entry | undefined> {
    let state: Entry | undefined
    for (const run of runs) {
      if (options.pause) await options.pause()
      if (options.signal?.aborted) throw new BuildAborted()
      const solids: Acting[] = []
      for (const operand of run.operands) {
        const entry = made.get(operand) ?? (await this.operand(operand, options, problems, state))
        if (entry) solids.push({ step: operand.step.id, entry, flush: flush.get(operand) ?? [] })
      }
      if (solids.length > 0) state = this.applied(state, run, solids, problems)
    }
    return state
  }

  /** The solid after one run: one operation of the library, however many operands. */
  private applied(
    state: Entry | undefined,
    { effect, operands }: Run,
    solids: readonly Acting[],
    problems: Problem[],
  ): Entry | undefined {
    if (!state && effect !== 'add') return undefined
    const flush = solids.map((each) => each.flush)
    const grows = flush.some((planes) => planes.length > 0) ? JSON.stringify(flush) : ''
    const key = `${effect}|${state ? state.id : ''}|${solids.map(({ entry }) => entry.id).join(',')}|${grows}`
    try {
      const after = this.#cache.get(key, () => this.kernel.scope((scope) => operated(scope, effect, state, solids)))
      for (const index of after.idle) {
        const code = effect === 'keep' ? 'keep-leaves-nothing' : 'cut-removes-nothing'
        problems.push(problem(code, ['steps', solids[index]!.step], {}, { rank: 'warning' }))
      }
      return after
    } catch (error) {
      problems.push(problemFrom(error, ['steps', operands[0]!.step.id]))
      return state
    }
  }

  /** All copies of a step in their places. */
  private async operand(
    operand: Operand,
    options: BuildOptions,
    problems: Problem[],
    state?: Entry,
  ): Promise<Entry | undefined> {
    const { step, body, copies } = operand
    try {
      if (body.kind === 'shape') {
        const met = body.shape.meets ? state : undefined
        const key = `step|${step.id}|${contentOf(operand, options.fineness)}|${met?.id ?? ''}`
        return this.#cache.get(key, () => this.kernel.scope((scope) => this.shaped(scope, operand, options, met)))
      }
      const { entry: content, space } = await this.inSpace(body.operands, options, problems)
      if (!content) return undefined
      const { home, factors } = body
      const key = `bundle|${content.id}|${JSON.stringify([copies.map(({ frame }) => frame), factors && [home, factors], space])}`
      return this.#cache.get(key, () => ({
        solid: this.kernel.scope((scope) => {
          // What is scaled is so where it was planned.
          const made = factors ? scaledAbout(scope, scope.placed(content.solid, space), home, factors) : content.solid
          const stands = (frame: Frame) => (factors ? frame : compose(frame, space))
          const own = spaceOf(stands(copies[0]!.frame))
          const placed = copies.map(({ frame }) => scope.standing(made, frameIn(own, stands(frame))))
          const whole = united(scope, placed, flushWithin(operandIn(own, operand)))
          return scope.handOver(own === world ? whole : scope.standing(whole, own))
        }),
      }))
    } catch (error) {
      if (error instanceof BuildAborted) throw error
      problems.push(problemFrom(error, ['steps', step.id]))
      return undefined
    }
  }

  /** The copies of a shape; those with the same values are made once. */
  private shaped(scope: Scope, operand: Operand, { fineness }: BuildOptions, met: Entry | undefined) {
    const { step, body, cuts, through, overlap, copies } = operand
    if (body.kind !== 'shape') throw new Error(`${step.id} is no shape`)
    const made = new Map<string, { readonly solid: Solid; readonly id: number }>()
    const own = met ? world : spaceOf(copies[0]!.frame)
    const placed = copies.map(({ frame, values, up }) => {
      const key = JSON.stringify([values, body.shape.knowsUp ? up : 0, met ? frame : 0])
      let known = made.get(key)
      if (!known) {
        const material = met && scope.placed(met.solid, inverse(frame))
        const plain = body.shape.solid(values as never, { scope, fineness, cuts, through, overlap, up, material })
        known = scope.original(carriedPast(scope, plain, operand.flush))
        made.set(key, known)
        const tell = whenAsked(() => surfaceNames(body.shape, values))
        this.#owners.set(known.id, { kind: 'step', id: step.id, tell })
      }
      const there = frameIn(own, frame)
      // What enters a face is round or lies in the body: it has no sides that others could be flush with.
      return body.shape.seat === 'enters' ? scope.placed(known.solid, there) : scope.standing(known.solid, there)
    })
    const whole = united(scope, placed, flushWithin(operandIn(own, operand)))
    return {
      solid: scope.handOver(own === world ? whole : scope.standing(whole, own)),
      originals: [...made.values()].map(({ id }) => id),
    }
  }

  private joints(resolved: ResolvedPart, options: BuildOptions, problems: Problem[]): PlacedJoint[] {
    const out: PlacedJoint[] = []
    for (const { joint, definition, values, place } of resolved.joints.values()) {
      if (!definition || !values || !place) continue
      try {
        const frame = placed(bedSeating, place, (d) => boxReach(definition.box(values as never), d), 'on-underside')
        if (![...frame.origin, ...frame.u, ...frame.v].every(Number.isFinite))
          throw new ProblemError('step-failed', { detail: 'it comes to no finite size or place' })
        const key = `joint|${joint.id}|${JSON.stringify([joint.kind, values, options.fineness, frame])}`
        const sides = ([0, 1] as const).map((side) => {
          const part = (what: 'cuts' | 'adds') =>
            this.#cache.get(`${key}|${side}|${what}`, () =>
              this.kernel.scope((scope) => {
                const solids = definition.solids(values as never, { scope, fineness: options.fineness })[what][side]
                const { solid, id } = scope.original(scope.union(solids))
                const tell = whenAsked(() => jointNames(definition, values, side))
                this.#owners.set(id, { kind: 'joint', id: joint.id, tell })
                return { solid: scope.handOver(scope.placed(solid, frame)), originals: [id] }
              }),
            )
          return { piece: joint.pieces[side], cut: part('cuts'), add: part('adds') }
        })
        out.push({ joint, frame, sides })
      } catch (error) {
        problems.push(problemFrom(error, ['joints', joint.id]))
      }
    }
    return out
  }

  /** The piece with what its joints take from it and add to it. */
  private joined(
    own: Entry | undefined,
    piece: Piece,
    joints: readonly PlacedJoint[],
    problems: Problem[],
  ): Entry | undefined {
    const sides = joints.flatMap((joint) => joint.sides.filter((side) => side.piece === piece.id))
    if (sides.length === 0) return own
    const key = `joined|${own?.id ?? ''}|${sides.map(({ cut, add }) => `${cut.id},${add.id}`).join('|')}`
    try {
      return this.#cache.get(key, () => ({
        solid: this.kernel.scope((scope) => {
          const cut = own && [
            scope.difference(
              own.solid,
              sides.map((side) => side.cut.solid),
            ),
          ]
          return scope.handOver(scope.union([...(cut ?? []), ...sides.map((side) => side.add.solid)]))
        }),
      }))
    } catch (error) {
      problems.push(problemFrom(error, ['pieces', piece.id]))
      return own
    }
  }
}

/** A shape that cannot tell its surfaces has sides. */
function surfaceNames(shape: ShapeDefinition, values: AnyValues): SurfaceTelling {
  const surfaces = tried(() => shape.surfaces(values as never))
  return (point, normal) => ({ face: (surfaces && tried(() => surfaces.at(point, normal))) ?? 'side' })
}

/** What is made in the plane has surfaces of all the steps that it is of. */
function carvedNames(region: CarvedRegion): SurfaceTelling {
  const known = new Map<RegionSource, SurfaceTelling>()
  return (point, normal) => {
    const own = region.sourceAt(point, normal)
    const { source } = own
    const tell = known.get(source) ?? surfaceNames(source.shape, source.values)
    known.set(source, tell)
    return { ...tell(own.point, own.normal), step: source.step, copy: source.copy }
  }
}

function jointNames(definition: JointDefinition, values: AnyValues, side: 0 | 1): SurfaceTelling {
  const surfaces = tried(() => definition.surfaces(values as never, side))
  return (point, normal) => ({ face: (surfaces && tried(() => surfaces.at(point, normal))) ?? 'side' })
}

interface PlacedJoint extends BuiltJoint {
  readonly sides: readonly { readonly piece: string; readonly cut: Entry; readonly add: Entry }[]
}

/** Where the second piece of a joint stands at a position of its travel, in the bed's frame. */
export function jointMotion(built: Built, jointId: string, position: number): Frame {
  const resolved = built.resolved.joints.get(jointId)
  const placedJoint = built.joints.find(({ joint }) => joint.id === jointId)
  if (!resolved?.definition || !resolved.values || !placedJoint) return world
  const { frame } = placedJoint
  // frame · motion · frame⁻¹
  const { definition, values } = resolved
  // One that cannot tell how it moves does not.
  const motion = tried(() => definition.motion(values as never, position))
  const sound = motion && [...motion.origin, ...motion.u, ...motion.v].every(Number.isFinite)
  return sound ? compose(compose(frame, motion), inverse(frame)) : world
}

/** The frame of an operand's first copy; of a bundle that of what comes first in it. */
function standingOf(operand: Operand | undefined): Frame | undefined {
  const frame = operand?.copies[0]?.frame
  if (!frame || operand.body.kind === 'shape') return frame
  const inner = standingOf(operand.body.operands[0])
  return inner && compose(frame, inner)
}

function holdsStep(operands: readonly Operand[], id: string): boolean {
  return operands.some(({ step, body }) => step.id === id || (body.kind === 'bundle' && holdsStep(body.operands, id)))
}

/** A list that would begin with a cut begins with its first add. */
function withoutStep(operands: readonly Operand[], id: string): readonly Operand[] {
  const rest = operands.flatMap((operand): readonly Operand[] => {
    if (operand.step.id === id) return []
    const { body } = operand
    if (body.kind !== 'bundle' || !holdsStep(body.operands, id)) return [operand]
    const inner = withoutStep(body.operands, id)
    return inner.length > 0 ? [{ ...operand, body: { ...body, operands: inner } }] : []
  })
  const first = rest.findIndex(({ step }) => step.effect === 'add')
  return first < 0 ? [] : rest.slice(first)
}

/** An operand of a run: its solid, and its faces that lie obliquely against others. */
interface Acting {
  readonly step: string
  readonly entry: Entry
  readonly flush: readonly Plane[]
}

/** One effect on the solid so far, and which of its operands came to nothing. */
function operated(scope: Scope, effect: Run['effect'], state: Entry | undefined, acting: readonly Acting[]) {
  const operands = acting.map(({ entry }) => entry)
  const solids = acting.map(({ entry, flush }) => grownAt(scope, entry.solid, flush))
  const planes = acting.flatMap(({ flush }) => flush)
  switch (effect) {
    case 'add':
      return {
        solid: scope.handOver(
          closedUp(scope, scope.union(state ? [asMeant(scope, state), ...solids] : solids), planes),
        ),
      }
    case 'keep': {
      const kept = scope.intersection([state!.solid, scope.union(solids)])
      // What only touches leaves a flat without volume.
      const empty = kept.isEmpty() || kept.volume() < leastVolume
      return { solid: scope.handOver(empty ? scope.union([]) : kept), idle: empty ? operands.map((_, i) => i) : [] }
    }
    case 'cut': {
      const rest = closedUp(scope, scope.difference(state!.solid, solids), planes)
      // A cut leaves a surface of its own behind, unless it missed the solid, or took a whole body with it. One that only
      // touches it may leave a flat of no depth.
      const hollowed = hollowedBy(rest.mesh())
      const left = ({ originals, solid }: Entry) =>
        originals.length > 0
          ? originals.some((id) => hollowed.has(id))
          : solid.mesh().runs.some(({ original }) => hollowed.has(original))
      const idle = operands.flatMap((operand, i) =>
        left(operand) || scope.intersection([state!.solid, operand.solid]).volume() > 1e-9 ? [] : [i],
      )
      return { solid: scope.handOver(rest), idle }
    }
  }
}

/** The originals of which surfaces are left that do not all look the same way. */
function hollowedBy({ positions, triangles, runs }: SolidMesh): ReadonlySet<number> {
  const first = new Map<number, Vec3>()
  const out = new Set<number>()
  const corner = (t: number, i: number): Vec3 => {
    const v = 3 * triangles[3 * t + i]!
    return [positions[v]!, positions[v + 1]!, positions[v + 2]!]
  }
  for (const { original, from, to } of runs)
    for (let t = from; t < to && !out.has(original); t++) {
      const across = cross(subtract(corner(t, 1), corner(t, 0)), subtract(corner(t, 2), corner(t, 0)))
      const size = norm(across)
      // Slivers look anywhere.
      if (size < 1e-6) continue
      const normal = scaled(across, 1 / size)
      const known = first.get(original)
      if (!known) first.set(original, normal)
      else if (dot(known, normal) < 0.9999) out.add(original)
    }
  return out
}

function scaledAbout(scope: Scope, solid: Solid, home: Frame, factors: Vec3): Solid {
  return scope.placed(scope.scaled(scope.placed(solid, inverse(home)), factors), home)
}

/** Cutting computes new corners, and what stands flush on a cut face must find it where it was meant to be. */
function asMeant(scope: Scope, { key, solid }: Entry): Solid {
  return key.startsWith('add|') ? solid : scope.denoised(solid)
}

/** Copies as one solid; `flush`: the planes of each that lie obliquely against others. */
function united(scope: Scope, solids: readonly Solid[], flush?: readonly (readonly Plane[])[]): Solid {
  if (solids.length === 1) return solids[0]!
  if (!flush) return scope.union(solids)
  return closedUp(scope, scope.union(solids.map((solid, i) => grownAt(scope, solid, flush[i]!))), flush.flat())
}

function grownAt(scope: Scope, solid: Solid, planes: readonly Plane[]): Solid {
  return planes.length > 0 ? scope.grown(solid, planes, flushGrowth) : solid
}

function closedUp(scope: Scope, solid: Solid, planes: readonly Plane[]): Solid {
  return planes.length > 0 ? scope.ungrown(solid, planes, flushGrowth) : solid
}

/** A cut made a little longer at the ends that lie in a face of the body, so that no skin stays there. */
function carriedPast(scope: Scope, solid: Solid, { top, bottom }: Operand['flush']): Solid {
  const bounds = solid.bounds()
  if (!bounds || !(top || bottom)) return solid
  const [low, high] = [bounds.min[2], bounds.max[2]]
  const above = top ? cutOverlap : 0
  const below = bottom ? cutOverlap : 0
  const factor = (high - low + above + below) / (high - low)
  const stretched = scope.scaled(solid, [1, 1, factor])
  // Stretched about z = 0; moved so that the lower end comes to `below` under where it was.
  return scope.placed(stretched, moved(world, [0, 0, low - below - low * factor]))
}

/** Less than this is no solid, mm³: a millionth of the smallest cube that is printed. */
const leastVolume = 1e-6

/** How many steps are kept apart as being edited. */
const maxRecentlyEdited = 4

/** All that a step's solid depends on, as text. */
function contentOf({ body, cuts, through, flush, overlap, copies }: Operand, fineness: number): string {
  if (body.kind === 'bundle') {
    const frames = copies.map(({ frame }) => frame)
    const content = body.operands.map((operand) => [operand.step.effect, contentOf(operand, fineness)])
    return JSON.stringify([frames, body.factors && [body.home, body.factors], content])
  }
  const { shape } = body
  const reaching = shape.seat === 'enters' ? [round(through), round(overlap)] : 0
  const placed = copies.map(({ frame, values, up }) => [frame, values, shape.knowsUp ? up : 0])
  return JSON.stringify([shape.kind, fineness, cuts, flush, reaching, placed])
}

/** Depths are rounded up in the key, so that a through hole does not change with the last digit of what it passes. */
function round(mm: number): number {
  return Math.ceil(mm * 1e6) / 1e6
}
