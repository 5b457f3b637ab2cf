import type { AnyValues, EdgeRule } from '../fields/index.ts'
import type { Kernel, Plane, Scope, Solid } from '../kernel/index.ts'
import { whenAsked } from '../naming/index.ts'
import type { Treatment } from '../operations/index.ts'
import { compose, type Frame, inverse, type Vec3, world } from '../place/index.ts'
import type { BodyOperand, Operand, TreatmentOperand } from '../planning/index.ts'
import { type Problem, problem, problemFrom } from '../problems/index.ts'
import type { NamedFace, ShapeDefinition } from '../shapes/index.ts'
import type { Construction, Placed } from '../walls/index.ts'
import type { Entry, SolidCache, Told } from './cache.ts'
import { type Carving, carved, carvingsOf } from './carving/index.ts'
import { Copies } from './copies.ts'
import { flatFacesOf } from './flatFaces.ts'
import { flushBetween, flushWithin } from './flush.ts'
import { closedUp, grownAt, united } from './flushed.ts'
import { endingExactly, overlapOf, reachingOut } from './mouths.ts'
import { namedSolid, type Owner } from './named.ts'
import { contentOf, standingOf } from './operands.ts'
import { type Run, runsOf } from './runs.ts'
import { frameIn, operandIn, spaceOf } from './space.ts'
import { carvedNames, surfaceNames } from './surfaceNames.ts'

export interface BuildOptions {
  /** chord tolerance, mm */
  readonly fineness: number
  /** checked between operations; a stale build stops there */
  readonly signal?: { readonly aborted: boolean }
  /** lets the host take messages between operations */
  readonly pause?: () => Promise<void>
}

/** Leaves outer edges as they are. */
const noOuter: EdgeRule = { less: true, traits: ['outer'], where: { kind: 'all' } }

/** Thrown when a build's signal says that nobody waits for it any more. */
export class BuildAborted extends Error {}

/** What solids are made with: the library, those that are known, and whose surfaces an original's are. */
export interface Making {
  readonly kernel: Kernel
  readonly cache: SolidCache
  readonly owners: Map<number, Owner>
}

type Named = ReturnType<typeof namedSolid>

/** An operand of a run: its solid, and its faces that lie obliquely against others. */
interface Ready {
  readonly operand: BodyOperand
  readonly entry: Entry
  readonly flush: readonly Plane[]
}

/**
 * Makes lists of operands into solids, for one build. What stands so far is a list of bodies: most operations leave one, and
 * one that parts it leaves several. What is added later joins those that it touches, or the first; cuts and treatments act on each.
 */
export class Combining {
  readonly #making: Making
  readonly #recentlyEdited: ReadonlySet<string>
  readonly #options: BuildOptions
  readonly #problems: Problem[]
  /** those of them that say what is not there */
  readonly #missing = new Set<Problem>()

  /** solids whose faces have been named among some operands */
  readonly #named = new Map<readonly Operand[], WeakMap<Solid, Named>>()
  /** how what stands came to be, as far as that is known */
  readonly #constructions = new Map<Entry, Construction>()

  /** the flat faces that treatments made, of those of which they are wanted */
  readonly madeFaces: Record<string, readonly NamedFace[]> = {}
  readonly #stoodOn: ReadonlySet<string>

  /** `stoodOn`: the treatments of which it is wanted what flat faces they made. */
  constructor(
    making: Making,
    recentlyEdited: ReadonlySet<string>,
    options: BuildOptions,
    problems: Problem[],
    stoodOn: ReadonlySet<string> = new Set(),
  ) {
    this.#stoodOn = stoodOn
    this.#making = making
    this.#recentlyEdited = recentlyEdited
    this.#options = options
    this.#problems = problems
  }

  /** The bodies of a list of operands, where they stand. */
  async bodies(operands: readonly Operand[]): Promise<readonly Entry[]> {
    const { bodies, space } = await this.inSpace(operands)
    if (space === world) return bodies
    return bodies.map((entry) =>
      this.made(`turned|${entry.id}|${JSON.stringify(space)}`, (scope) => scope.standing(entry.solid, space)),
    )
  }

  /** All copies of a step in their places; undefined where that fails, which is told. */
  async body(operand: BodyOperand, standing?: Entry): Promise<Entry | undefined> {
    const { step, body } = operand
    try {
      return body.kind === 'shape' ? this.shape(operand, standing) : await this.bundle(operand)
    } catch (error) {
      if (error instanceof BuildAborted) throw error
      this.#problems.push(problemFrom(error, ['steps', step.id]))
      return undefined
    }
  }

  private made(key: string, make: (scope: Scope) => Solid): Entry {
    const { cache, kernel } = this.#making
    return cache.get(key, () => ({ solid: kernel.scope((scope) => scope.handOver(make(scope))) }))
  }

  /** The bodies of a list of operands, in the space that they are made in. */
  private async inSpace(operands: readonly Operand[]) {
    const space = spaceOf(standingOf(operands[0]))
    const there = operands.map((operand) => operandIn(space, operand))
    return { space, bodies: await this.gathered(there, space) }
  }

  /** What can be is made in the plane, the rest in as few operations as there can be. */
  private async gathered(list: readonly Operand[], space: Frame): Promise<readonly Entry[]> {
    const operands = endingExactly(list)
    const carvings = carvingsOf(operands, this.#recentlyEdited, this.#options.fineness)
    const gone = new Set<Operand>(carvings.flatMap(({ cuts }) => cuts))
    const carvedOf = new Map<Operand, Entry>(carvings.map((carving) => [carving.base, this.carved(carving)]))
    const rest = gone.size === 0 ? operands : operands.filter((operand) => !gone.has(operand))
    const flush = flushBetween(operands)
    let standing: readonly Entry[] = []
    for (const run of runsOf(rest, this.#recentlyEdited)) {
      if (this.#options.pause) await this.#options.pause()
      if (this.#options.signal?.aborted) throw new BuildAborted()
      const [first] = run.operands
      if (first?.kind === 'treatment') {
        standing = this.onEach(standing, (entry) => this.treated(entry, first, operands, space))
        continue
      }
      const ready: Ready[] = []
      for (const operand of run.operands) {
        if (operand.kind !== 'body') continue
        const entry = carvedOf.get(operand) ?? (await this.body(operand, standing[0]))
        if (entry) ready.push({ operand, entry, flush: flush.get(operand) ?? [] })
      }
      if (ready.length > 0) standing = this.applied(standing, run, ready)
    }
    return standing
  }

  private carved(carving: Carving): Entry {
    const { base, cuts } = carving
    const { fineness } = this.#options
    const { cache, kernel, owners } = this.#making
    const key = `carved|${base.step.id}|${[base, ...cuts].map((each) => contentOf(each, fineness)).join('|')}`
    const entry = cache.get(key, () =>
      kernel.scope((scope) => {
        const { solid, id, region, idle } = carved(scope, carving, fineness)
        owners.set(id, { kind: 'step', id: base.step.id, tell: whenAsked(() => carvedNames(region)) })
        return { solid: scope.handOver(solid), originals: [id], idle }
      }),
    )
    this.tellIdle(entry, cuts)
    this.#constructions.set(entry, {
      ...{ kind: 'less', solid: entry.solid },
      of: () => ({ kind: 'surface', solid: this.shape(base, undefined).solid }),
      bodies: () => cuts.flatMap((cut) => this.copiesOf(cut)),
    })
    return entry
  }

  private constructionOf(entry: Entry): Construction {
    return this.#constructions.get(entry) ?? { kind: 'surface', solid: entry.solid }
  }

  /** Notes how a run came to what it left, where that tells what lies deep in it. */
  private noteConstruction(after: Entry, before: Entry | undefined, { operation }: Run, ready: readonly Ready[]): void {
    const [first, ...others] = ready
    const own = first && others.length === 0 ? this.#constructions.get(first.entry) : undefined
    if (!before && own) this.#constructions.set(after, own)
    else if (operation.material === 'more') {
      const sum = before && this.constructionOf(before)
      // What was cut in its plane is less than its shape.
      if ((sum && sum.kind !== 'sum') || ready.some(({ entry }) => this.#constructions.has(entry))) return
      const added = () => ready.flatMap(({ operand, entry }) => this.copiesOf(operand, entry))
      const bodies = () => [...(sum?.bodies() ?? []), ...added()]
      this.#constructions.set(after, { kind: 'sum', solid: after.solid, bodies })
    } else if (before && operation.material === 'less') {
      const bodies = () => ready.flatMap(({ operand, entry }) => this.copiesOf(operand, entry))
      this.#constructions.set(after, {
        kind: 'less',
        solid: after.solid,
        of: () => this.constructionOf(before),
        bodies,
      })
    } else if (before && operation.kind === 'keep' && first && others.length === 0) {
      const bodies = () => [placedAs(first.entry)]
      this.#constructions.set(after, {
        kind: 'common',
        solid: after.solid,
        of: () => this.constructionOf(before),
        bodies,
      })
    }
  }

  /** The bodies of an operand, each once for all copies that are alike. */
  private copiesOf(operand: BodyOperand, whole?: Entry): Placed[] {
    const { body, copies } = operand
    if (body.kind !== 'shape' || body.shape.meets) return whole ? [placedAs(whole)] : []
    const alike = new Map<string, (typeof copies)[number][]>()
    for (const copy of copies) {
      const key = JSON.stringify([copy.values, body.shape.knowsUp ? copy.up : 0])
      alike.set(key, [...(alike.get(key) ?? []), copy])
    }
    return [...alike.values()].map(([first, ...others]) => {
      const back = inverse(first!.frame)
      const at = [world, ...others.map(({ frame }) => compose(frame, back))]
      return { ...placedAs(this.shape({ ...operand, copies: [first!] }, undefined)), at }
    })
  }

  private tellIdle({ idle }: Entry, operands: readonly BodyOperand[]): void {
    for (const index of idle) {
      const { step, operation } = operands[index]!
      if (operation.idle) this.tell(problem(operation.idle, ['steps', step.id], {}, { rank: 'warning' }), true)
    }
  }

  /** What stands after one run: one operation of the library on each body, however many operands. */
  private applied(standing: readonly Entry[], run: Run, ready: readonly Ready[]): readonly Entry[] {
    if (run.operation.material !== 'more') return this.onEach(standing, (entry) => this.appliedTo(entry, run, ready))
    if (standing.length < 2) return this.appliedTo(standing[0], run, ready)
    return this.joined(standing, ready).flatMap(({ bodies, joining }) =>
      joining.length > 0 ? this.appliedTo(this.asOne(bodies), run, joining) : bodies,
    )
  }

  /** What does nothing to one of several bodies may do its work on another: that is told only where it does so on all. */
  private onEach(standing: readonly Entry[], act: (entry: Entry) => readonly Entry[]): readonly Entry[] {
    const before = this.#problems.length
    const after = standing.flatMap(act)
    if (standing.length > 1) this.keepToldByAll(before, standing.length)
    return after
  }

  /** Which bodies become one by what is added to them, and what that is; what touches none goes to the first. */
  private joined(standing: readonly Entry[], ready: readonly Ready[]) {
    let groups = standing.map((body) => ({ bodies: [body], joining: [] as Ready[] }))
    for (const each of ready) {
      const meets = ({ bodies }: (typeof groups)[number]) =>
        bodies.some(({ solid }) => each.entry.solid.gapTo(solid, touching) < touching)
      const met = groups.filter(meets)
      const into = met[0] ?? groups[0]!
      const others = new Set(met.slice(1))
      into.bodies.push(...met.slice(1).flatMap(({ bodies }) => bodies))
      into.joining.push(each, ...met.slice(1).flatMap(({ joining }) => joining))
      groups = groups.filter((group) => !others.has(group))
    }
    return groups
  }

  private tell(told: Problem, missing = false): void {
    this.#problems.push(told)
    if (missing) this.#missing.add(told)
  }

  private keepToldByAll(from: number, bodies: number): void {
    const told = this.#problems.splice(from)
    const key = ({ text, path }: Problem) => `${text} ${path.join(' ')}`
    const counts = new Map<string, number>()
    for (const each of told) counts.set(key(each), (counts.get(key(each)) ?? 0) + 1)
    const seen = new Set<string>()
    for (const each of told) {
      const kept = !this.#missing.has(each) || counts.get(key(each)) === bodies
      if (kept && !seen.has(key(each))) this.#problems.push(each)
      seen.add(key(each))
    }
  }

  private appliedTo(entry: Entry | undefined, run: Run, ready: readonly Ready[]): Entry[] {
    const { operation, operands } = run
    if (operation.acts !== 'with-body') return entry ? [entry] : []
    const flush = ready.map((each) => each.flush)
    const grows = flush.some((planes) => planes.length > 0) ? JSON.stringify(flush) : ''
    const key = `${operation.kind}|${entry ? entry.id : ''}|${ready.map((each) => each.entry.id).join(',')}|${grows}`
    const planes = flush.flat()
    const { cache, kernel } = this.#making
    try {
      const after = cache.get(key, () =>
        kernel.scope((scope) => {
          const { solid, idle } = operation.apply({
            scope,
            standing: entry?.solid,
            meant: () => entry && asMeant(scope, entry),
            acting: ready.map(({ entry: { solid: own, originals }, flush: faces }) => ({
              solid: own,
              grown: grownAt(scope, own, faces),
              originals: () => (originals.length > 0 ? originals : own.mesh().runs.map(({ original }) => original)),
            })),
            closed: (own) => closedUp(scope, own, planes),
          })
          return { solid: scope.handOver(solid), idle }
        }),
      )
      this.tellIdle(
        after,
        ready.map(({ operand }) => operand),
      )
      this.noteConstruction(after, entry, run, ready)
      return [after]
    } catch (error) {
      this.#problems.push(problemFrom(error, ['steps', operands[0]!.step.id]))
      return entry ? [entry] : []
    }
  }

  /** What a body becomes by a treatment; it stays as it is where that fails, which is told. */
  private treated(entry: Entry, operand: TreatmentOperand, among: readonly Operand[], space: Frame): readonly Entry[] {
    const { step, operation, values } = operand
    const { fineness } = this.#options
    const { cache, kernel } = this.#making
    const path = ['steps', step.id]
    const up: Vec3 = [space.u[2], space.v[2], space.n[2]]
    try {
      const key = `${entry.id}|${step.id}|${contentOf(operand, fineness)}|${up}`
      const after = cache.get(`treated|${key}`, () =>
        kernel.scope((scope) => this.treatedIn(scope, entry, operand, among, up, values)),
      )
      for (const { at, missing } of after.told) this.tell(at(path), missing)
      const eased = (operation as Treatment).eases?.(values)
      if (eased && after.bodies.length === 1) {
        const innerAlone = { ...values, edges: [...eased.edges, noOuter] }
        this.#constructions.set(after, {
          ...{ kind: 'eased', solid: after.solid, eased },
          of: () => this.constructionOf(entry),
          whole: !after.told.some(({ at }) => at(path).code === 'round-no-room'),
          made: (key) => key.startsWith(`step/${step.id}/`),
          filled: () =>
            cache.get(`filled|${key}`, () =>
              kernel.scope((scope) => this.treatedIn(scope, entry, operand, among, up, innerAlone)),
            ).solid,
        })
      }
      if (this.#stoodOn.has(step.id)) this.keepFaces(step.id, after, among, space)
      return after.bodies
    } catch (error) {
      this.#problems.push(problemFrom(error, path))
      return [entry]
    }
  }

  /** The bodies that a treatment makes of one by these values, with what it told. */
  private treatedIn(
    scope: Scope,
    entry: Entry,
    { step, operation, planes }: TreatmentOperand,
    among: readonly Operand[],
    up: Vec3,
    values: AnyValues,
  ) {
    const { owners, cache } = this.#making
    const { fineness } = this.#options
    const told: Told[] = []
    const parts: Entry[] = []
    let originals: number[] = []
    const owned = (id: number, tell: Owner['tell']) => {
      originals.push(id)
      owners.set(id, { kind: 'step', id: step.id, tell })
    }
    const [solid, ...more] = (operation as Treatment).apply(values, {
      scope,
      fineness,
      solid: entry.solid,
      construction: this.constructionOf(entry),
      up,
      planes,
      named: (solid) => this.named(solid, among),
      own(plain, tell) {
        const made = scope.original(plain)
        owned(made.id, tell)
        return made.solid
      },
      ownRun(tell) {
        const id = scope.reserved()
        owned(id, tell)
        return id
      },
      kept(key, make) {
        const outer = originals
        const part = cache.get(`part|${step.id}|${fineness}|${key}`, () => {
          originals = []
          const [first, ...others] = make().map((each) => scope.handOver(each))
          return { solid: first!, more: others, originals }
        })
        originals = outer
        parts.push(part)
        return part.bodies.map((body) => body.solid)
      },
      miss: (code, data) =>
        told.push({ at: (owner) => problem(code, owner, data, { rank: 'warning' }), missing: true }),
      advise: (code, data, offer) =>
        told.push({ at: (owner) => problem(code, owner, data, { rank: 'warning', offer }) }),
    })
    return {
      solid: scope.handOver(solid ?? scope.union([])),
      more: more.map((each) => scope.handOver(each)),
      originals,
      told,
      parts,
    }
  }

  private named(solid: Solid, among: readonly Operand[]): Named {
    const known = this.#named.get(among) ?? new WeakMap<Solid, Named>()
    this.#named.set(among, known)
    const named = known.get(solid) ?? namedSolid(solid, new Copies(among), (id) => this.#making.owners.get(id))
    known.set(solid, named)
    return named
  }

  /** Of several bodies those of the first one that has them. */
  private keepFaces(step: string, { bodies }: Entry, among: readonly Operand[], space: Frame): void {
    const known = this.madeFaces[step] ?? []
    const found = bodies.flatMap(({ solid }) => {
      const named = this.named(solid, among)
      return flatFacesOf(solid, named, step, space)
    })
    const all = [...known, ...found]
    this.madeFaces[step] = all.filter(({ name }, i) => all.findIndex((other) => other.name === name) === i)
  }

  /** The copies of a bundle. */
  private async bundle(operand: BodyOperand): Promise<Entry | undefined> {
    const { body, copies } = operand
    if (body.kind !== 'bundle') throw new Error(`${operand.step.id} is no bundle`)
    const { bodies, space } = await this.inSpace(body.operands)
    const content = this.asOne(bodies)
    if (!content) return undefined
    const { home, factors } = body
    const frames = copies.map(({ frame }) => frame)
    const key = `bundle|${content.id}|${JSON.stringify([frames, factors && [home, factors], space])}`
    return this.made(key, (scope) => {
      // What is scaled is so where it was planned.
      const made = factors ? scaledAbout(scope, scope.placed(content.solid, space), home, factors) : content.solid
      const stands = (frame: Frame) => (factors ? frame : compose(frame, space))
      const own = spaceOf(stands(frames[0]!))
      const placed = frames.map((frame) => scope.standing(made, frameIn(own, stands(frame))))
      const whole = united(scope, placed, flushWithin(operandIn(own, operand)))
      return own === world ? whole : scope.standing(whole, own)
    })
  }

  /** A bundle acts as one, whatever its content was parted into. */
  private asOne(bodies: readonly Entry[]): Entry | undefined {
    if (bodies.length < 2) return bodies[0]
    const key = `whole|${bodies.map(({ id }) => id).join(',')}`
    return this.made(key, (scope) => scope.union(bodies.map(({ solid }) => solid)))
  }

  /** The copies of a shape; those with the same values are made once. `standing`: what it may go on to. */
  private shape(operand: BodyOperand, standing: Entry | undefined): Entry {
    const { step, body, cuts, through, copies } = operand
    const overlap = overlapOf(operand)
    if (body.kind !== 'shape') throw new Error(`${step.id} is no shape`)
    const { fineness } = this.#options
    const { cache, kernel, owners } = this.#making
    const met = body.shape.meets ? standing : undefined
    return cache.get(`step|${step.id}|${contentOf(operand, fineness)}|${met?.id ?? ''}`, () =>
      kernel.scope((scope) => {
        const known = new Map<string, { readonly solid: Solid; readonly id: number }>()
        const own = met ? world : spaceOf(copies[0]!.frame)
        const placed = copies.map(({ frame, values, up }) => {
          const key = JSON.stringify([values, body.shape.knowsUp ? up : 0, met ? frame : 0])
          let made = known.get(key)
          if (!made) {
            const material = met && scope.placed(met.solid, inverse(frame))
            const plain = body.shape.solid(values, { scope, fineness, cuts, through, overlap, up, material })
            made = scope.original(reachingOut(scope, plain, operand))
            known.set(key, made)
            const tell = whenAsked(() => surfaceNames(body.shape, values))
            owners.set(made.id, { kind: 'step', id: step.id, tell })
          }
          const there = frameIn(own, frame)
          if (operand.exact || canBeFlush(body.shape, there)) return scope.standing(made.solid, there)
          // Moving it by nothing would take as long as making it.
          return isNowhere(there) ? made.solid : scope.placed(made.solid, there)
        })
        const whole = united(scope, placed, flushWithin(operandIn(own, operand)))
        return {
          solid: scope.handOver(own === world ? whole : scope.standing(whole, own)),
          originals: [...known.values()].map(({ id }) => id),
        }
      }),
    )
  }
}

function placedAs({ solid, id }: Entry): Placed {
  return { solid, key: `${id}`, at: [world] }
}

/** Bodies nearer than this are one where something is added to both, mm. */
const touching = 1e-4

function scaledAbout(scope: Scope, solid: Solid, home: Frame, factors: Vec3): Solid {
  return scope.placed(scope.scaled(scope.placed(solid, inverse(home)), factors), home)
}

/** Cutting computes new corners, and what stands flush on a cut face must find it where it was meant to be. */
function asMeant(scope: Scope, { key, solid }: Entry): Solid {
  return key.startsWith('add|') ? solid : scope.denoised(solid)
}

/**
 * Whether others could be flush with it. What enters a face is round or lies in the body; a wheel is flat across its axis alone, and
 * where it stands at no height, its faces are where they are to the last digit.
 */
function canBeFlush({ seat, wheel }: ShapeDefinition, { origin, n }: Frame): boolean {
  return seat !== 'enters' && !(wheel && n[2] === 1 && origin[2] === 0)
}

/** Whether what stands there is where it was made, to the last digit. */
function isNowhere({ origin, u, v, n }: Frame): boolean {
  const there = [...origin, ...u, ...v, ...n]
  return [...world.origin, ...world.u, ...world.v, ...world.n].every((x, i) => x === there[i])
}
