import { type BodyStep, contentOf, hasBody, isBundle, type Piece, referencesOf, type Step } from '../document/index.ts'
import type { AnyValues } from '../fields/index.ts'
import {
  type Box,
  compose,
  directionIn,
  type Frame,
  inverse,
  joined,
  type Lying,
  type PlaceValues,
  type Seating,
  scaled,
} from '../place/index.ts'
import { guarded, type Problem, ProblemError, problem } from '../problems/index.ts'
import type { NamedFace } from '../shapes/index.ts'
import { oriented, sameAs, scaledBody, scaledGeometry } from './bundles.ts'
import { adviceOnSize, depthThrough, flushEnds, mouthOf, overlapFor, throughAll } from './cuts.ts'
import { impossibleTold } from './fieldWork.ts'
import { extentOn, isFinitePlaced, motions, type StepGeometry } from './geometry.ts'
import { type PlacedJoint, placedJoints } from './jointPlaces.ts'
import { type MadeFaces, madeGeometry, shiftedGeometry } from './made.ts'
import {
  adds,
  type Body,
  type BodyOperand,
  type Bundle,
  boxOfCopies,
  type Copy,
  type Operand,
  reachOf,
  type TreatmentOperand,
} from './operand.ts'
import { planesOf } from './planes.ts'
import { depthUpTo } from './relations.ts'
import type { CopyValues, ResolvedPart, ResolvedStep } from './resolve.ts'
import { Seats } from './seats.ts'

export interface PlannedPiece {
  readonly piece: Piece
  /** in the order of the sheet, without muted steps; the first one adds */
  readonly operands: readonly Operand[]
}

export interface Plan {
  readonly pieces: readonly PlannedPiece[]
  readonly geometry: ReadonlyMap<string, StepGeometry>
  /** of every step with a body that can be built, those in bundles too */
  readonly operands: ReadonlyMap<string, BodyOperand>
  /** planes that fields of treatments name, by step and field, in the bed's frame; in a bundle those of its first copy */
  readonly planes: ReadonlyMap<string, Readonly<Record<string, Frame>>>
  /** where joints stand, by their ids */
  readonly joints: ReadonlyMap<string, PlacedJoint>
  readonly problems: readonly Problem[]
}

/** Places every step, in the order of the sheet; `made`: what is known of the faces that treatments made. */
export function planPart(resolved: ResolvedPart, made: MadeFaces = {}): Plan {
  const work = new Planning(resolved, made)
  const pieces = resolved.part.pieces.map((piece) => ({
    piece,
    operands: work.list(piece.steps, { material: undefined, cuts: false }),
  }))
  const joints = placedJoints(resolved, work.seats, work.problems)
  const { seats, operands, planes, problems } = work
  return { pieces, geometry: seats.geometry, operands, planes, joints, problems }
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
  readonly operand: BodyOperand | undefined
  readonly problems: readonly Problem[]
}
const plannedSteps = new WeakMap<ResolvedStep, PlannedStep>()
const nowhere: Box = { min: [0, 0, 0], max: [0, 0, 0] }

class Planning {
  readonly seats: Seats
  readonly operands = new Map<string, BodyOperand>()
  readonly planes = new Map<string, Readonly<Record<string, Frame>>>()
  readonly problems: Problem[] = []
  private readonly resolved: ResolvedPart
  private readonly made: MadeFaces
  /** those of the part, but for the content of a copy of a bundle that is being planned */
  private steps: ReadonlyMap<string, ResolvedStep>

  constructor(resolved: ResolvedPart, made: MadeFaces) {
    this.resolved = resolved
    this.made = made
    this.steps = resolved.steps
    this.seats = new Seats(resolved.steps, this.problems)
  }

  list(steps: readonly Step[], around: Surroundings): Operand[] {
    const operands: Operand[] = []
    let { material } = around
    for (const step of steps) {
      const resolved = this.steps.get(step.id)!
      const made = this.acting(step, resolved, { ...around, material })
      this.seats.passed.add(step.id)
      const present = made.filter((operand) => operand !== undefined)
      if (present.length === 0 || !resolved.present) continue
      if (present.some(adds)) material = present.filter(adds).reduce((box, { box: own }) => joined(box, own), material)
      else if (operands.length === 0) {
        this.problems.push(problem('starts-with-nothing', ['steps', step.id], {}, { rank: 'warning' }))
        continue
      }
      operands.push(...present)
      for (const operand of present) {
        if (operand.kind !== 'treatment') continue
        this.changeFaces(operand)
        if (material) material = operand.operation.grown?.(operand.values, material) ?? material
      }
    }
    return operands
  }

  private acting(step: Step, resolved: ResolvedStep, around: Surroundings): readonly (Operand | undefined)[] {
    if (!hasBody(step)) return [this.treatment(resolved)]
    return resolved.contents
      ? this.differing(step, resolved, resolved.contents, around)
      : [this.step(step, resolved, around)]
  }

  /** What works on what stands needs no place. */
  private treatment({ step, treatment, values }: ResolvedStep): Operand | undefined {
    if (hasBody(step) || !treatment || !values) return undefined
    const path = ['steps', step.id]
    return guarded(path, this.problems, () => {
      const planes = planesOf(treatment.fields, values, this.seats, path)
      if (planes) this.planes.set(step.id, planes)
      const box = treatment.touches?.(values)
      return planes && { kind: 'treatment', step, operation: treatment, values, planes, box }
    })
  }

  /** What comes after a treatment stands on the faces that it made, and on those that it moved where they are now. */
  private changeFaces({ step, operation, values }: TreatmentOperand): void {
    const { geometry } = this.seats
    const own = this.made[step.id]
    if (own) geometry.set(step.id, madeGeometry(own))
    const { faces = [], by = 0 } = operation.moves?.(values) ?? {}
    for (const id of new Set(faces.map((face) => face.step))) {
      const known = geometry.get(id)
      const named = faces.filter((face) => face.step === id)
      if (known) geometry.set(id, shiftedGeometry(known, named, by))
    }
  }

  /** The copies of a bundle whose content differs from one to the next: an operand each. */
  private differing(
    step: BodyStep,
    resolved: ResolvedStep,
    contents: readonly ReadonlyMap<string, ResolvedStep>[],
    around: Surroundings,
  ): (BodyOperand | undefined)[] {
    const before = this.steps
    // The first one last: where its content stands is what others refer to.
    const made = contents
      .map((_, i) => contents.length - 1 - i)
      .map((copy) => {
        this.steps = new Map([...before, ...contents[copy]!])
        const told = this.problems.length
        const operand = this.guardedStep(step, resolved, around, copy)
        // What is wrong with the content is told of its first copy.
        if (copy > 0) this.problems.length = told
        return operand
      })
    this.steps = before
    return made.reverse()
  }

  /** Found again where nothing changed that it depends on: an edit plans anew what it touches, not the whole sheet. */
  private step(step: BodyStep, resolved: ResolvedStep, around: Surroundings): BodyOperand | undefined {
    const { shape, operation } = resolved
    if (!shape) return this.guardedStep(step, resolved, around)
    const placedBy = referencesOf(step.place).flatMap((id) => [
      this.seats.geometry.get(id),
      this.resolved.steps.get(id),
      this.seats.passed.has(id),
    ])
    const reaching = shape.seat === 'enters' || operation?.material !== 'more' || around.cuts
    const { min, max } = (reaching && around.material) || nowhere
    const depends = [around.cuts, ...placedBy, ...min, ...max]
    const known = plannedSteps.get(resolved)
    if (known && known.depends.length === depends.length && known.depends.every((each, i) => each === depends[i])) {
      if (known.geometry) this.seats.geometry.set(step.id, known.geometry)
      if (known.operand) this.operands.set(step.id, known.operand)
      this.problems.push(...known.problems)
      return known.operand
    }
    const before = this.problems.length
    const operand = this.guardedStep(step, resolved, around)
    const problems = this.problems.slice(before)
    plannedSteps.set(resolved, { depends, geometry: this.seats.geometry.get(step.id), operand, problems })
    return operand
  }

  /** Whatever goes wrong in planning a step is told on its line, and it stands nowhere; the rest goes on. */
  private guardedStep(
    step: BodyStep,
    resolved: ResolvedStep,
    around: Surroundings,
    only?: number,
  ): BodyOperand | undefined {
    const { id } = step
    const told = this.problems.length
    const operand = guarded(['steps', id], this.problems, () => {
      const planned = this.plannedStep(step, resolved, around, only)
      if (!isFinitePlaced(this.seats.geometry.get(id), planned?.box))
        throw new ProblemError('step-failed', { detail: 'its size or place is not a finite number' })
      this.tryNames(id, planned)
      return planned
    })
    if (!operand && this.problems.slice(told).some(({ code, path }) => code === 'step-failed' && path[1] === id)) {
      this.seats.geometry.delete(id)
      this.operands.delete(id)
    }
    return operand
  }

  /** The drawing asks for the names of faces and for edges later; where these fail is told here. */
  private tryNames(id: string, operand: BodyOperand | undefined): void {
    if (operand?.body.kind !== 'shape' || !operand.copies[0]) return
    const { shape } = operand.body
    const { values, up } = operand.copies[0]
    const told: Problem[] = []
    guarded([], told, () => shape.surfaces(values).at([0, 0, 0], [0, 0, 1]))
    guarded([], told, () => shape.edges?.(values, up))
    const untold: Problem[] = []
    guarded([], untold, () => shape.held?.(values, operand.through))
    if (untold[0])
      this.problems.push(problem('item-failed', ['steps', id], { detail: untold[0].text }, { rank: 'warning' }))
    if (told[0])
      this.problems.push(problem('faces-failed', ['steps', id], { detail: told[0].text }, { rank: 'warning' }))
  }

  /** `only`: the one copy that is meant. */
  private plannedStep(
    step: BodyStep,
    resolved: ResolvedStep,
    around: Surroundings,
    only?: number,
  ): BodyOperand | undefined {
    const { operation, values, place, repeats } = resolved
    const { material } = around
    const cuts = (operation?.material === 'less') !== around.cuts
    const seating = this.seats.seating(step.place.on, ['steps', step.id, 'place', 'on'])
    const own = this.body(step, resolved, { material, cuts })
    if (!own || !operation || !values || !place || !repeats || !seating || !this.seats.told(step, ['steps', step.id]))
      return undefined
    const { body } = own
    const faces = body.kind === 'shape' ? body.shape.surfaces(own.values).faces : []
    const lies = this.lying(step, body, own.values, faces)
    const drawn = body.kind === 'shape' && body.shape.drawn === true
    const standingAs = (each: AnyValues, at: PlaceValues) =>
      this.seats.standing(step.place, at, seating, reachOf(body, each), lies, drawn || undefined)
    const fitted = this.fitted(step, body, seating)
    if (!fitted) return undefined
    const from = standingAs(fitted(own.values), place)
    const upTo = this.deepened(step, body, from, place)
    if (!upTo) return undefined
    const through = throughAll({ step, operation }, body, own.values, motions(seating, repeats), from, material)
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
    this.seats.geometry.set(step.id, {
      seating,
      frame: body.kind === 'bundle' ? first : frames[0]!,
      stands: first,
      faces: body.kind === 'shape' ? body.shape.surfaces(shared).faces : [],
      frames,
      made: frames,
      extent,
      reach: reachOf(body, shared),
      place: this.seats.related(step.place, ofCopy(0).place, seating),
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
    const advice = body.kind === 'shape' ? adviceOnSize(step, body.shape, shared, seating) : undefined
    if (advice) this.problems.push(advice)
    const below = cuts ? material : undefined
    const flush = flushEnds(
      step,
      body,
      shared,
      place,
      below,
      below ? this.seats.thicknessBelow(step.place.on, below) : [],
    )
    const overlap = body.kind === 'shape' ? overlapFor(first, seating.frame, reachOf(body, shared)) : 0
    const whole =
      body.kind === 'bundle' ? { ...body, operands: oriented(body.operands, directionIn(frames[0]!, [0, 0, 1])) } : body
    const mouth = cuts && this.hasTrueFace(step.place.on) ? mouthOf(body, shared, first, seating, flush) : undefined
    const acting = { cuts, through: past, flush, overlap, mouth, copies, box }
    const operand: BodyOperand = { kind: 'body', step, operation, body: whole, ...acting }
    this.operands.set(step.id, operand)
    if (body.kind === 'bundle' && isBundle(step)) this.carry(step.steps, frames[0]!, body)
    return operand
  }

  /** Whether what stands there begins in the very plane of the material's face. */
  private hasTrueFace(on: BodyStep['place']['on']): boolean {
    if (on.kind !== 'face') return true
    const body = this.operands.get(on.step)?.body
    return body?.kind === 'shape' && !body.shape.fitsFaces
  }

  /** What a step has for a shape, and its values. */
  private body(
    step: BodyStep,
    { shape, values }: ResolvedStep,
    around: Surroundings,
  ): { readonly body: Body; readonly values: AnyValues } | undefined {
    if (shape) return values && { body: { kind: 'shape', shape }, values }
    if (!values) return undefined
    if (step.kind === 'same') {
      const original = this.operands.get(step.of)
      if (original) return sameAs(original, values)
      this.problems.push(problem('same-missing', ['steps', step.id, 'of'], {}))
      return undefined
    }
    if (!isBundle(step)) return undefined
    const operands = this.list(step.steps, around)
    const box = operands.reduce<Box | undefined>(
      (whole, operand) => (adds(operand) ? joined(whole, operand.box) : whole),
      undefined,
    )
    const home = operands[0] && this.seats.geometry.get(operands[0].step.id)?.seating.frame
    if (box && home)
      return { body: scaledBody({ kind: 'bundle', operands, home, box, factors: undefined }, values), values: {} }
    this.problems.push(problem('bundle-empty', ['steps', step.id], {}, { rank: 'warning' }))
    return undefined
  }

  /** What a bundle holds goes with it: for what stands on its faces, for dimensions, and for what points up. */
  private carry(steps: readonly Step[], motion: Frame, bundle: Bundle): void {
    for (const step of steps) {
      const known = this.seats.geometry.get(step.id)
      if (known) {
        const { seating, frame: f, stands, frames, made, ...rest } = scaledGeometry(known, bundle)
        this.seats.geometry.set(step.id, {
          ...rest,
          seating: { ...seating, frame: compose(motion, seating.frame) },
          frame: compose(motion, f),
          stands: compose(motion, stands),
          frames: frames.map((each) => compose(motion, each)),
          made: made.map((each) => compose(motion, each)),
        })
      }
      const planes = Object.entries(this.planes.get(step.id) ?? {})
      if (planes.length > 0)
        this.planes.set(step.id, Object.fromEntries(planes.map(([field, at]) => [field, compose(motion, at)])))
      this.carry(contentOf(step), motion, bundle)
    }
  }

  /** What makes values fit the round face that a shape stands on; undefined where they do not fit that. */
  private fitted(step: BodyStep, body: Body, { round }: Seating): ((values: AnyValues) => AnyValues) | undefined {
    if (body.kind !== 'shape') return (values) => values
    const { shape } = body
    if (round === undefined && shape.roundOnly) {
      this.problems.push(problem('round-wanted', ['steps', step.id, 'place', 'on'], {}))
      return undefined
    }
    if (round === undefined || !shape.fitted) return (values) => values
    const fit = (values: AnyValues) => shape.fitted!(values, round) as AnyValues
    const values = this.steps.get(step.id)!.values!
    if (fit(values) === values)
      this.problems.push(problem('flat-on-round', ['steps', step.id], {}, { rank: 'warning' }))
    const fault = shape.impossible?.(fit(values)) ?? shape.unfit?.(fit(values))
    if (!fault) return fit
    this.problems.push(impossibleTold(fault, shape.fields, ['steps', step.id]))
    return undefined
  }

  /** What makes the values of a shape that goes up to a face as deep as that; undefined where it comes to nothing. */
  private deepened(
    step: BodyStep,
    body: Body,
    from: Frame,
    { less = 0 }: PlaceValues,
  ): ((values: AnyValues) => AnyValues) | undefined {
    const upTo = body.kind === 'shape' ? body.shape.upTo : undefined
    const wanted = (values: AnyValues) => upTo?.wanted(values) === true
    if (!upTo || body.kind !== 'shape' || !wanted(this.steps.get(step.id)!.values!)) return (values) => values
    const path = ['steps', step.id, 'place', 'until']
    const { until } = step.place
    if (!until) {
      this.problems.push(problem('until-missing', path, {}))
      return undefined
    }
    const target = this.seats.seating({ kind: 'face', step: until.step, face: until.face }, path)
    if (!target) return undefined
    const depth = depthUpTo(upTo.rises ? { ...from, n: scaled(from.n, -1) } : from, target, less)
    if (depth === undefined || depth <= 0) {
      this.problems.push(problem(depth === undefined ? 'until-beside' : 'until-behind', path, {}))
      return undefined
    }
    const to = (values: AnyValues) => upTo.to(values, depth) as AnyValues
    const { impossible } = body.shape
    const fault = impossible?.(to(this.steps.get(step.id)!.values!))
    if (!fault) return to
    this.problems.push(problem('shape-impossible', path, { detail: fault.detail }))
    return undefined
  }

  private lying(step: BodyStep, body: Body, values: AnyValues, faces: readonly NamedFace[]): Lying {
    if (body.kind === 'bundle') return 'bundled'
    if (body.shape.seat === 'enters' || body.shape.straddles?.(values)) return 'by-origin'
    const { base } = step.place
    const face = base === '' ? undefined : faces.find(({ name }) => name === base)
    if (base !== '' && !face)
      this.problems.push(
        problem('face-missing', ['steps', step.id, 'place', 'base'], { face: base, step: 'this shape' }),
      )
    return face ? face.frame : 'on-underside'
  }
}
