import {
  bundleKind,
  type HeldFrame,
  type Piece,
  type Place,
  referencesOf,
  type Seat,
  type Step,
  sameKind,
} from '../document/index.ts'
import type { AnyValues } from '../fields/index.ts'
import {
  type Box,
  boxOf,
  boxOut,
  compose,
  corners,
  cross,
  directionIn,
  directionOut,
  dot,
  type Frame,
  frame,
  inverse,
  isMirrored,
  joined,
  type Lying,
  levelSides,
  norm,
  type PlaceValues,
  placed,
  pointIn,
  pointOut,
  type Range,
  type Seating,
  type SupportFunction,
  scaled,
  subtract,
  type Vec3,
  world,
} from '../place/index.ts'
import { guarded, type Problem, ProblemError, problem } from '../problems/index.ts'
import { boxReach, goesThrough, type NamedFace, type ShapeDefinition } from '../shapes/index.ts'
import { depthUpTo, type Neighbour, pivotMotion, related, tellers } from './relations.ts'
import type { CopyValues, ResolvedPart, ResolvedStep } from './resolve.ts'
import { factorsOf, scaledReach } from './scaling.ts'

/** A step ready to be built: what it has for a shape, and the frames of all its copies, in the bed's frame. */
export interface Operand {
  readonly step: Step
  readonly body: Body
  /** whether it takes material away once all bundles round it have acted */
  readonly cuts: boolean
  /** depth that clears everything in the way, for through holes, mm */
  readonly through: number
  /** ends of a cut that lie in a face of the body and must be carried past it, so that no skin stays there */
  readonly flush: { readonly top: boolean; readonly bottom: boolean }
  /** how far a hole's mouth is carried past the face it enters, mm */
  readonly overlap: number
  /** the copies that are there */
  readonly copies: readonly Copy[]
  readonly box: Box
}

export interface Copy {
  /** its number among all copies, from 1 */
  readonly number: number
  readonly frame: Frame
  /** empty for a bundle */
  readonly values: AnyValues
  /** straight up from the bed, in the shape's own frame */
  readonly up: Vec3
}

/**
 * A shape, or the operands of a bundle: these stand where they were planned, and a copy's frame moves them from there.
 * `factors` scale them first, about the origin of `home` and along its directions.
 */
export type Body =
  | { readonly kind: 'shape'; readonly shape: ShapeDefinition }
  | {
      readonly kind: 'bundle'
      readonly operands: readonly Operand[]
      readonly home: Frame
      readonly factors: Vec3 | undefined
      /** of what is scaled, where it was planned */
      readonly box: Box
    }

export interface PlannedPiece {
  readonly piece: Piece
  /** in the order of the sheet, without muted steps; the first one adds */
  readonly operands: readonly Operand[]
}

/** Where a step stands, for drawing its dimensions and for what stands on it. */
export interface StepGeometry {
  readonly seating: Seating
  /** of the first copy, in the bed's frame */
  readonly frame: Frame
  /** of the first copy, before its repeats moved it */
  readonly stands: Frame
  /** in the step's own frame */
  readonly faces: readonly NamedFace[]
  /** of all copies, those left out too */
  readonly frames: readonly Frame[]
  /** how far the first copy reaches from its origin along the seat's directions: [low, high] across and along, mm */
  readonly extent: readonly [Range, Range]
  /** how far it reaches from the origin of `frame`, in that frame */
  readonly reach: SupportFunction
  /** with what other steps say filled in; of the first copy */
  readonly place: PlaceValues
}

export interface Plan {
  readonly pieces: readonly PlannedPiece[]
  readonly geometry: ReadonlyMap<string, StepGeometry>
  /** of every step that can be built, those in bundles too */
  readonly operands: ReadonlyMap<string, Operand>
  readonly problems: readonly Problem[]
}

export const bedSeating: Seating = { frame: world, size: [0, 0], sides: levelSides }

/** Places every step, in the order of the sheet. */
export function planPart(resolved: ResolvedPart): Plan {
  const work = new Planning(resolved)
  const pieces = resolved.part.pieces.map((piece) => ({
    piece,
    operands: work.list(piece.steps, { material: undefined, cuts: false }),
  }))
  return { pieces, geometry: work.geometry, operands: work.operands, problems: work.problems }
}

/** What a list of steps works on: the material round its bundle, and whether the bundle takes material away. */
interface Surroundings {
  readonly material: Box | undefined
  readonly cuts: boolean
}

/** What a step of its own shape came to, and all that it depends on beside its values. */
interface PlannedStep {
  readonly depends: readonly unknown[]
  readonly geometry: StepGeometry | undefined
  readonly operand: Operand | undefined
  readonly problems: readonly Problem[]
}
const plannedSteps = new WeakMap<ResolvedStep, PlannedStep>()
const nowhere: Box = { min: [0, 0, 0], max: [0, 0, 0] }

class Planning {
  readonly geometry = new Map<string, StepGeometry>()
  readonly operands = new Map<string, Operand>()
  readonly problems: Problem[] = []
  private readonly resolved: ResolvedPart
  /** what came before in the sheet, also what could not be placed */
  private readonly passed = new Set<string>()
  /** those of the part, but for the content of a copy of a bundle that is being planned */
  private steps: ReadonlyMap<string, ResolvedStep>

  constructor(resolved: ResolvedPart) {
    this.resolved = resolved
    this.steps = resolved.steps
  }

  list(steps: readonly Step[], around: Surroundings): Operand[] {
    const operands: Operand[] = []
    let { material } = around
    for (const step of steps) {
      const resolved = this.steps.get(step.id)!
      const made = resolved.contents
        ? this.differing(resolved, resolved.contents, { ...around, material })
        : [this.step(resolved, { ...around, material })]
      this.passed.add(step.id)
      const present = made.filter((operand) => operand !== undefined)
      if (present.length === 0 || !resolved.present) continue
      if (step.effect === 'add') material = present.reduce((box, operand) => joined(box, operand.box), material)
      else if (operands.length === 0) {
        this.problems.push(problem('starts-with-nothing', ['steps', step.id], {}, { rank: 'warning' }))
        continue
      }
      operands.push(...present)
    }
    return operands
  }

  /** The copies of a bundle whose content differs from one to the next: an operand each. */
  private differing(
    resolved: ResolvedStep,
    contents: readonly ReadonlyMap<string, ResolvedStep>[],
    around: Surroundings,
  ): (Operand | undefined)[] {
    const before = this.steps
    // The first one last: where its content stands is what others refer to.
    const made = contents
      .map((_, i) => contents.length - 1 - i)
      .map((copy) => {
        this.steps = new Map([...before, ...contents[copy]!])
        const told = this.problems.length
        const operand = this.guardedStep(resolved, around, copy)
        // What is wrong with the content is told of its first copy.
        if (copy > 0) this.problems.length = told
        return operand
      })
    this.steps = before
    return made.reverse()
  }

  /** Found again where nothing changed that it depends on: an edit plans anew what it touches, not the whole sheet. */
  private step(resolved: ResolvedStep, around: Surroundings): Operand | undefined {
    const { shape, step } = resolved
    if (!shape) return this.guardedStep(resolved, around)
    const placedBy = referencesOf(step.place).flatMap((id) => [
      this.geometry.get(id),
      this.resolved.steps.get(id),
      this.passed.has(id),
    ])
    const reaching = shape.seat === 'enters' || step.effect !== 'add' || around.cuts
    const { min, max } = (reaching && around.material) || nowhere
    const depends = [around.cuts, ...placedBy, ...min, ...max]
    const known = plannedSteps.get(resolved)
    if (known && known.depends.length === depends.length && known.depends.every((each, i) => each === depends[i])) {
      if (known.geometry) this.geometry.set(step.id, known.geometry)
      if (known.operand) this.operands.set(step.id, known.operand)
      this.problems.push(...known.problems)
      return known.operand
    }
    const before = this.problems.length
    const operand = this.guardedStep(resolved, around)
    const problems = this.problems.slice(before)
    plannedSteps.set(resolved, { depends, geometry: this.geometry.get(step.id), operand, problems })
    return operand
  }

  /** Whatever goes wrong in planning a step is told on its line, and it stands nowhere; the rest goes on. */
  private guardedStep(resolved: ResolvedStep, around: Surroundings, only?: number): Operand | undefined {
    const { id } = resolved.step
    const told = this.problems.length
    const operand = guarded(['steps', id], this.problems, () => {
      const planned = this.plannedStep(resolved, around, only)
      if (!isFinitePlaced(this.geometry.get(id), planned))
        throw new ProblemError('step-failed', { detail: 'it comes to no finite size or place' })
      this.tryNames(id, planned)
      return planned
    })
    if (!operand && this.problems.slice(told).some(({ code, path }) => code === 'step-failed' && path[1] === id)) {
      this.geometry.delete(id)
      this.operands.delete(id)
    }
    return operand
  }

  /** The drawing asks for the names of faces and for edges later; where these fail is told here. */
  private tryNames(id: string, operand: Operand | undefined): void {
    if (operand?.body.kind !== 'shape' || !operand.copies[0]) return
    const { shape } = operand.body
    const { values, up } = operand.copies[0]
    const told: Problem[] = []
    guarded([], told, () => shape.surfaces(values as never).at([0, 0, 0], [0, 0, 1]))
    guarded([], told, () => shape.edges?.(values as never, up))
    if (told[0])
      this.problems.push(problem('faces-failed', ['steps', id], { detail: told[0].text }, { rank: 'warning' }))
  }

  /** `only`: the one copy that is meant. */
  private plannedStep(resolved: ResolvedStep, around: Surroundings, only?: number): Operand | undefined {
    const { step, values, place, repeats } = resolved
    const { material } = around
    const cuts = (step.effect === 'cut') !== around.cuts
    const seating = this.seating(step.place.on, ['steps', step.id, 'place', 'on'])
    const own = this.body(resolved, { material, cuts })
    if (!own || !values || !place || !repeats || !seating || !this.toldWell(step)) return undefined
    const { body } = own
    const faces = body.kind === 'shape' ? body.shape.surfaces(own.values as never).faces : []
    const lies = this.lying(step, body, own.values, faces)
    const drawn = body.kind === 'shape' && body.shape.drawn === true
    const standingAs = (each: AnyValues, at: PlaceValues) =>
      compose(
        this.pivot(step.place, at, seating),
        placed(
          seating,
          related(step.place, at, seating, this.neighbour),
          reachOf(body, each),
          lies,
          drawn || undefined,
        ),
      )
    const fitted = this.fitted(step, body, seating)
    const from = standingAs(fitted(own.values), place)
    const upTo = this.deepened(step, body, from, place)
    if (!upTo) return undefined
    const through = this.throughAll(step, body, own.values, motions(seating, repeats), from, material)
    const deepened = (values: AnyValues) => through(upTo(fitted(values)))
    const shared = deepened(own.values)
    const ofCopy = (index: number): CopyValues => {
      const copy = resolved.copies?.[index]
      return copy ? { ...copy, values: deepened(copy.values) } : { values: shared, place }
    }
    const standing = (index: number) => standingAs(ofCopy(index).values, ofCopy(index).place)
    const first = standing(0)
    const frames = motions(seating, repeats).map((motion, i) => {
      const from = resolved.copies ? standing(i) : first
      // A bundle stands where its content was planned.
      return compose(motion, body.kind === 'bundle' ? compose(from, inverse(body.home)) : from)
    })
    const extent = extentOn(seating, first, reachOf(body, shared))
    this.geometry.set(step.id, {
      seating,
      frame: body.kind === 'bundle' ? first : frames[0]!,
      stands: first,
      faces: body.kind === 'shape' ? body.shape.surfaces(shared as never).faces : [],
      frames,
      extent,
      reach: reachOf(body, shared),
      place: related(step.place, ofCopy(0).place, seating, this.neighbour),
    })
    if (body.kind === 'shape' && body.shape.datum) return undefined
    const copies = frames.flatMap((f, i): Copy[] =>
      step.omit.includes(i + 1) || (only !== undefined && i !== only)
        ? []
        : [{ number: i + 1, frame: f, values: ofCopy(i).values, up: directionIn(f, [0, 0, 1]) }],
    )
    if (copies.length === 0 && only !== undefined) return undefined
    if (copies.length === 0) {
      this.problems.push(problem('copies-none', ['steps', step.id], {}, { rank: 'warning' }))
      return undefined
    }
    const past = material ? depthThrough(frames, material) : 1
    const box = boxOfCopies(body, copies, past)
    if (body.kind === 'shape') this.adviseOnSize(step, body.shape, shared, seating)
    const flush = this.flushEnds(step, body, shared, place, cuts ? material : undefined)
    const overlap = body.kind === 'shape' ? overlapFor(boxOfBody(body, shared, 0), place) : 0
    const whole =
      body.kind === 'bundle' ? { ...body, operands: oriented(body.operands, directionIn(frames[0]!, [0, 0, 1])) } : body
    const operand: Operand = { step, body: whole, cuts, through: past, flush, overlap, copies, box }
    this.operands.set(step.id, operand)
    if (body.kind === 'bundle' && step.shape === bundleKind) this.carry(step.steps ?? [], frames[0]!, body)
    return operand
  }

  /** What a step has for a shape, and its values. */
  private body(
    { step, shape, values }: ResolvedStep,
    around: Surroundings,
  ): { readonly body: Body; readonly values: AnyValues } | undefined {
    if (shape) return values && { body: { kind: 'shape', shape }, values }
    if (!values) return undefined
    if (step.shape === sameKind) {
      const original = this.operands.get(step.fields.of ?? '')
      if (original) return sameAs(original, values)
      this.problems.push(problem('same-missing', ['steps', step.id, 'fields', 'of']))
      return undefined
    }
    if (step.shape !== bundleKind) return undefined
    const operands = this.list(step.steps ?? [], around)
    const box = operands.reduce<Box | undefined>(
      (whole, operand) => (operand.step.effect === 'add' ? joined(whole, operand.box) : whole),
      undefined,
    )
    const home = operands[0] && this.geometry.get(operands[0].step.id)?.seating.frame
    if (box && home)
      return { body: scaledBody({ kind: 'bundle', operands, home, box, factors: undefined }, values), values: {} }
    this.problems.push(problem('bundle-empty', ['steps', step.id], {}, { rank: 'warning' }))
    return undefined
  }

  /** What a bundle holds goes with it: for what stands on its faces, for dimensions, and for what points up. */
  private carry(steps: readonly Step[], motion: Frame, bundle: Bundle): void {
    for (const step of steps) {
      const known = this.geometry.get(step.id)
      if (known) {
        const { seating, frame: f, stands, frames, ...rest } = scaledGeometry(known, bundle)
        this.geometry.set(step.id, {
          ...rest,
          seating: { ...seating, frame: compose(motion, seating.frame) },
          frame: compose(motion, f),
          stands: compose(motion, stands),
          frames: frames.map((each) => compose(motion, each)),
        })
      }
      this.carry(step.steps ?? [], motion, bundle)
    }
  }

  private readonly neighbour = (id: string): Neighbour => this.geometry.get(id)!

  /** Whether all steps that the place is told by are there. */
  private toldWell(step: Step): boolean {
    return tellers(step.place).every(({ id, at }) => this.known(id, ['steps', step.id, 'place', at]))
  }

  /** Whether a step stands already, so that others can be placed by it. */
  private known(id: string, path: readonly string[]): boolean {
    if (this.geometry.has(id)) return true
    const known = this.resolved.steps.get(id)
    const broken = this.passed.has(id) || !known?.values || !known.place
    const code = !known ? 'reference-missing' : broken ? 'reference-broken' : 'reference-later'
    this.problems.push(problem(code, path))
    return false
  }

  private pivot({ pivot }: Place, { pivot: degrees }: PlaceValues, seating: Seating): Frame {
    if (!pivot || !degrees) return world
    return pivotMotion(pivot, degrees, seating, pivot.of ? this.geometry.get(pivot.of)!.frame : undefined)
  }

  /** What makes values fit the round face that a shape stands on. */
  private fitted(step: Step, body: Body, { round }: Seating): (values: AnyValues) => AnyValues {
    if (body.kind !== 'shape' || round === undefined || !body.shape.fitted) return (values) => values
    const { shape } = body
    const fit = (values: AnyValues) => shape.fitted!(values as never, round) as AnyValues
    const values = this.steps.get(step.id)!.values!
    if (fit(values) === values)
      this.problems.push(problem('flat-on-round', ['steps', step.id], {}, { rank: 'warning' }))
    return fit
  }

  /**
   * What makes the values of a cut as deep as all that is there, from its mouth in the seat on, whatever its depth says;
   * of what stands on its seat, as high.
   */
  private throughAll(
    step: Step,
    body: Body,
    values: AnyValues,
    all: readonly Frame[],
    from: Frame,
    material: Box | undefined,
  ): (values: AnyValues) => AnyValues {
    if (body.kind !== 'shape' || !goesThrough(body.shape, step.effect, values)) return (each) => each
    const field = body.shape.deep!
    const own = values[field] as number
    const stands = step.place.rest === 'on'
    const mouths = all.map((motion) => {
      const frame = compose(motion, from)
      // What stands begins at its foot and rises, what is sunk begins at its top.
      return stands ? { ...frame, n: scaled(frame.n, -1) } : { ...frame, origin: pointOut(frame, [0, 0, own]) }
    })
    const depth = material ? depthThrough(mouths, material) : own
    return (each) => ({ ...each, [field]: depth })
  }

  /** What makes the values of a shape that goes up to a face as deep as that; undefined where it comes to nothing. */
  private deepened(
    step: Step,
    body: Body,
    from: Frame,
    { less = 0 }: PlaceValues,
  ): ((values: AnyValues) => AnyValues) | undefined {
    const upTo = body.kind === 'shape' ? body.shape.upTo : undefined
    const wanted = (values: AnyValues) => upTo?.wanted(values as never) === true
    if (!upTo || body.kind !== 'shape' || !wanted(this.steps.get(step.id)!.values!)) return (values) => values
    const path = ['steps', step.id, 'place', 'until']
    const { until } = step.place
    if (!until) {
      this.problems.push(problem('until-missing', path))
      return undefined
    }
    const target = this.seating({ kind: 'face', step: until.step, face: until.face }, path)
    if (!target) return undefined
    const depth = depthUpTo(upTo.rises ? { ...from, n: scaled(from.n, -1) } : from, target, less)
    if (depth === undefined || depth <= 0) {
      this.problems.push(problem(depth === undefined ? 'until-beside' : 'until-behind', path))
      return undefined
    }
    const to = (values: AnyValues) => upTo.to(values as never, depth) as AnyValues
    const { impossible } = body.shape
    const fault = impossible?.(to(this.steps.get(step.id)!.values!) as never)
    if (!fault) return to
    this.problems.push(problem('shape-impossible', path, { detail: fault.detail }))
    return undefined
  }

  private lying(step: Step, body: Body, values: AnyValues, faces: readonly NamedFace[]): Lying {
    if (body.kind === 'bundle') return 'bundled'
    if (body.shape.seat === 'enters' || body.shape.straddles?.(values as never)) return 'by-origin'
    const { base } = step.place
    const face = base === '' ? undefined : faces.find(({ name }) => name === base)
    if (base !== '' && !face)
      this.problems.push(
        problem('face-missing', ['steps', step.id, 'place', 'base'], { face: base, step: 'this shape' }),
      )
    return face ? face.frame : 'on-underside'
  }

  /** A cut that is as deep as the body is thick ends in its far face. */
  private flushEnds(step: Step, body: Body, values: AnyValues, place: PlaceValues, material: Box | undefined) {
    const level = place.lift === 0 && place.tilt === 0 && place.lean === 0 && step.place.base === ''
    if (!level || !material || body.kind === 'bundle') return { top: false, bottom: false }
    if (body.shape.seat === 'stands' && place.rest === 'on') return { top: false, bottom: false }
    const { min, max } = body.shape.box(values as never, 0)
    const thick = this.thicknessBelow(step.place.on, material)
    const bottom = thick.some((mm) => Math.abs(mm - (max[2] - min[2])) < 1e-6)
    return { top: body.shape.seat === 'stands', bottom }
  }

  /** How far the material goes below a seat: of the step that has the face, and of all of the piece. */
  private thicknessBelow(on: Seat, material: Box): number[] {
    if (on.kind !== 'face') return []
    const below = this.geometry.get(on.step)
    const face = below?.faces.find(({ name }) => name === on.face)
    if (!below || !face) return []
    const own = below.reach(scaled(face.frame.n, -1)) + dot(face.frame.origin, face.frame.n)
    return [own, depthBelow(compose(below.frame, face.frame), material)]
  }

  private seating(on: Seat, path: readonly string[]): Seating | undefined {
    if (on.kind === 'bed') return bedSeating
    if (on.kind === 'held') {
      this.problems.push(problem('reference-missing', path, {}, { rank: 'warning' }))
      return heldSeating(on.frame)
    }
    if (!this.known(on.step, path)) return undefined
    const below = this.geometry.get(on.step)!
    const face = below.faces.find((candidate) => candidate.name === on.face)
    if (!face) {
      this.problems.push(problem('face-missing', path, { face: on.face, step: 'that step' }))
      return undefined
    }
    return unmirrored({
      frame: compose(below.frame, face.frame),
      size: face.size,
      sides: face.sides,
      round: face.round,
    })
  }

  /** A hole wider than the face it enters is built, but hardly meant. */
  private adviseOnSize(step: Step, shape: ShapeDefinition, values: AnyValues, seating: Seating): void {
    if (shape.seat !== 'enters' || step.place.on.kind === 'bed') return
    const { min, max } = shape.box(values as never, 0)
    const wide = Math.min(max[0] - min[0], max[1] - min[1])
    const body = Math.min(...seating.size)
    if (wide < body) return
    const data = { size: `${Math.round(wide * 1000) / 1000} mm`, body: `${Math.round(body * 1000) / 1000} mm` }
    const quick = shape.quick[0]
    const field = typeof quick === 'object' ? quick.field : (quick ?? '')
    this.problems.push(problem('cut-wider-than-body', ['steps', step.id, 'fields', field], data, { rank: 'warning' }))
  }
}

function isFinitePlaced(known: StepGeometry | undefined, operand: Operand | undefined): boolean {
  const numbers = [
    ...(known ? [...known.frames.flatMap(({ origin, u, v }) => [...origin, ...u, ...v]), ...known.extent.flat()] : []),
    ...(known?.faces.flatMap(({ frame: own }) => [...own.origin, ...own.n]) ?? []),
    ...(operand ? [...operand.box.min, ...operand.box.max] : []),
  ]
  return numbers.every(Number.isFinite)
}

/** What carries the first copy of a step to all of them, later repeats copying what earlier ones made. */
function motions(seat: Seating, repeats: NonNullable<ResolvedStep['repeats']>): readonly Frame[] {
  return repeats.reduce<readonly Frame[]>(
    (before, { definition, values }) =>
      definition.motions(values as never, seat).flatMap((motion) => before.map((each) => compose(motion, each))),
    [world],
  )
}

/** How far a shape that stands in `frame` reaches along the two directions of its seat, about its origin. */
function extentOn(seating: Seating, f: Frame, reach: SupportFunction): readonly [Range, Range] {
  const along = (d: Vec3): Range => {
    const own = directionIn(f, d)
    return [-reach(scaled(own, -1)), reach(own)]
  }
  const { u, v } = seating.frame
  return [along(u), along(v)]
}

/** The operands of a bundle that is moved: `up` is straight up where they were planned. */
function oriented(operands: readonly Operand[], up: Vec3): readonly Operand[] {
  return operands.map((operand) => ({
    ...operand,
    copies: operand.copies.map((copy) => ({ ...copy, up: directionIn(copy.frame, up) })),
    body:
      operand.body.kind === 'bundle'
        ? {
            ...operand.body,
            operands: oriented(operand.body.operands, directionIn(operand.copies[0]!.frame, up)),
          }
        : operand.body,
  }))
}

/** On a mirrored copy, a seat is looked at from outside as any other: its sides change names, not the way it turns. */
function unmirrored(seating: Seating): Seating {
  if (!isMirrored(seating.frame)) return seating
  const [low, high] = seating.sides.across
  return {
    frame: { ...seating.frame, u: scaled(seating.frame.u, -1) },
    size: seating.size,
    sides: { ...seating.sides, across: [high, low] },
    round: seating.round,
  }
}

/** How far cuts reach out of the face they begin at, mm: less than any printer shows, more than numbers are rounded by. */
export const cutOverlap = 0.005

/** A tilted mouth must reach so much farther that its lower rim still clears the face. */
function overlapFor({ min, max }: Box, { tilt, lean }: PlaceValues): number {
  const slope = Math.min(10, Math.hypot(...[tilt, lean].map((angle) => Math.tan((angle * Math.PI) / 180))))
  return cutOverlap + (Math.max(max[0] - min[0], max[1] - min[1]) / 2) * slope
}

/** Where a step that loses its reference stays. */
export function heldFrameOf(seating: Seating): HeldFrame {
  const { frame, size, round } = seating
  const { origin, u, v } = frame
  return { origin, u, v, size, ...(round === undefined ? {} : { round }) }
}

function heldSeating({ origin, u, v, size, round }: HeldFrame): Seating {
  return { frame: { ...frame(origin, u, v), n: cross(u, v) }, size, sides: levelSides, round }
}

/** How far down its own axis a shape must go to leave the far side of all material, from any of its copies. */
function depthThrough(frames: readonly Frame[], material: Box): number {
  // 1 mm past the far side, whatever the rounding of the numbers.
  return Math.max(1, ...frames.map((f) => depthBelow(f, material))) + 1
}

function depthBelow(f: Frame, material: Box): number {
  return Math.max(...corners(material).map((corner) => -dot(subtract(corner, f.origin), f.n)))
}

/** How far a body reaches from its own origin. A bundle's is the middle of the face that its first step stands on. */
function reachOf(body: Body, values: AnyValues): SupportFunction {
  if (body.kind === 'shape') {
    const { shape } = body
    return (d) => (shape.reach ? shape.reach(values as never, d) : boxReach(shape.box(values as never, 0), d))
  }
  const { operands, home, factors } = body
  const added = operands
    .filter(({ step }) => step.effect === 'add')
    .flatMap((operand) =>
      operand.copies.map((copy) => {
        const f = operand.body.kind === 'bundle' ? compose(copy.frame, operand.body.home) : copy.frame
        return { frame: compose(inverse(home), f), reach: reachOf(operand.body, copy.values) }
      }),
    )
  const reach: SupportFunction = (d) =>
    Math.max(...added.map(({ frame: f, reach: own }) => dot(f.origin, d) + own(directionIn(f, d))))
  return factors ? scaledReach(reach, factors) : reach
}

/** Round all copies, where their frames are given. */
export function boxOfCopies(body: Body, copies: readonly Copy[], through: number): Box {
  return boxOf(copies.flatMap((copy) => corners(boxOut(copy.frame, boxOfBody(body, copy.values, through)))))!
}

/** In the frame that a copy's frame is given for. */
function boxOfBody(body: Body, values: AnyValues, through: number): Box {
  if (body.kind === 'shape') return body.shape.box(values as never, through)
  const { box, home, factors } = body
  return factors ? boxOf(corners(box).map((corner) => scaledPoint(corner, home, factors)))! : box
}

type Bundle = Extract<Body, { kind: 'bundle' }>

/** A bundle's content, scaled as its values say; one that is scaled already is scaled on. */
function scaledBody(body: Bundle, values: AnyValues): Bundle {
  const own = factorsOf(values, reachOf(body, {}))
  if (!own) return body
  const [x, y, z] = body.factors ?? [1, 1, 1]
  return { ...body, factors: [x * own[0], y * own[1], z * own[2]] }
}

/** The shape of another step, which is a bundle of that one shape where it is scaled. */
function sameAs(original: Operand, values: AnyValues): { readonly body: Body; readonly values: AnyValues } {
  const { body } = original
  if (body.kind === 'bundle') return { body: scaledBody(body, values), values: {} }
  const first = original.copies[0]!
  if (!factorsOf(values, () => 1)) return { body, values: first.values }
  const copy: Copy = { ...first, number: 1, frame: world }
  const alone: Operand = {
    ...original,
    step: { ...original.step, effect: 'add' },
    flush: { top: false, bottom: false },
    copies: [copy],
    box: boxOfBody(body, first.values, original.through),
  }
  const bundle: Bundle = { kind: 'bundle', operands: [alone], home: world, box: alone.box, factors: undefined }
  return { body: scaledBody(bundle, values), values: {} }
}

/** A point of the space that a bundle was planned in, scaled with the bundle. */
function scaledPoint(p: Vec3, home: Frame, [x, y, z]: Vec3): Vec3 {
  const own = pointIn(home, p)
  return pointOut(home, [own[0] * x, own[1] * y, own[2] * z])
}

/**
 * Where a step of a scaled bundle stands once it is scaled. Its own axes stay as they are; faces whose sides are no longer
 * square to one another, and rounds that are no longer round, are no faces to stand on.
 */
function scaledGeometry(known: StepGeometry, { home, factors }: Bundle): StepGeometry {
  if (!factors) return known
  const at = (f: Frame): Frame => ({ ...f, origin: scaledPoint(f.origin, home, factors) })
  const stretched = (d: Vec3): Vec3 => {
    const own = directionIn(home, d)
    return directionOut(home, [own[0] * factors[0], own[1] * factors[1], own[2] * factors[2]])
  }
  const here = at(known.frame)
  const faces = known.faces.flatMap((face): NamedFace[] => {
    const there = compose(known.frame, face.frame)
    const [u, v, n] = [stretched(there.u), stretched(there.v), stretched(there.n)]
    const [across, along, out] = [norm(u), norm(v), norm(n)]
    if (Math.abs(dot(u, v)) > 1e-9 * across * along) return []
    if (face.round !== undefined && Math.abs(across - out) > 1e-9 * out) return []
    const moved: Frame = frame(scaledPoint(there.origin, home, factors), scaled(u, 1 / across), scaled(v, 1 / along))
    return [
      {
        ...face,
        frame: compose(inverse(here), moved),
        size: [face.size[0] * across, face.size[1] * along],
        ...(face.round === undefined ? {} : { round: face.round * across }),
      },
    ]
  })
  // The support of a linear image, in the step's own axes.
  const pulled = (d: Vec3) => directionIn(known.frame, stretched(directionOut(known.frame, d)))
  const reach: SupportFunction = (d) => {
    const p = pulled(d)
    const far = norm(p)
    return far === 0 ? 0 : far * known.reach(scaled(p, 1 / far))
  }
  return { ...known, frame: here, stands: at(known.stands), frames: known.frames.map(at), faces, reach }
}
