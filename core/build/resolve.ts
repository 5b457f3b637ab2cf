import {
  allSteps,
  bundleKind,
  type FieldKindOf,
  type Joint,
  measuresInForce,
  type Part,
  type Step,
  sameKind,
} from '../document/index.ts'
import type { AnyValues, Fields } from '../fields/index.ts'
import { type Printer, printerFor, printers } from '../fits/index.ts'
import { type JointDefinition, jointOf } from '../joints/index.ts'
import { computeMeasures, type GivenValue, type MeasureTable, type Names } from '../measures/index.ts'
import type { PlaceValues } from '../place/index.ts'
import { type Problem, problem } from '../problems/index.ts'
import { repeatOf } from '../repeats/index.ts'
import { type ShapeDefinition, shapeOf } from '../shapes/index.ts'
import { copyNumbers, withCopyNumbers } from './copyNames.ts'
import { FieldWork, type ResolvedRepeat } from './fieldWork.ts'
import { scaleFields } from './scaling.ts'

/** A part with all its expressions computed. What could not be computed is a problem on its owner. */
export interface ResolvedPart {
  readonly part: Part
  readonly printer: Printer
  readonly measures: MeasureTable
  readonly steps: ReadonlyMap<string, ResolvedStep>
  readonly joints: ReadonlyMap<string, ResolvedJoint>
  readonly problems: readonly Problem[]
}

export interface ResolvedStep {
  readonly step: Step
  /** undefined for a bundle, for "same as", and where the kind is not known */
  readonly shape: ShapeDefinition | undefined
  /** those of the first copy; undefined where a field has a problem. Of a bundle: how large it is made */
  readonly values: AnyValues | undefined
  readonly place: PlaceValues | undefined
  /** what its fields can read: the measures, and the numbers of its first copy */
  readonly names: Names
  readonly repeats: readonly ResolvedRepeat[] | undefined
  /** whether it is there: not muted, and its condition holds */
  readonly present: boolean
  /** of each copy, where they are not all alike */
  readonly copies: readonly CopyValues[] | undefined
  readonly problems: readonly Problem[]
}

export interface CopyValues {
  readonly values: AnyValues
  readonly place: PlaceValues
}

export interface ResolvedJoint {
  readonly joint: Joint
  readonly definition: JointDefinition | undefined
  readonly values: AnyValues | undefined
  readonly place: PlaceValues | undefined
  readonly problems: readonly Problem[]
}

/** What the fields of shapes, joints and repeats hold, for edits that rewrite expressions. */
export const fieldKindOf: FieldKindOf = (owner, field) => {
  const definition: { readonly fields: Fields } | undefined =
    'shape' in owner
      ? owner.shape === bundleKind || owner.shape === sameKind
        ? { fields: scaleFields }
        : shapeOf(owner.shape)
      : 'joint' in owner
        ? jointOf(owner.joint)
        : repeatOf(owner.repeat)
  return definition && Object.hasOwn(definition.fields, field) ? definition.fields[field]!.kind : undefined
}

/** What follows from a part's measures alone, and what its steps come to with them. */
interface Computed extends Pick<Part, 'variants' | 'variant' | 'unit' | 'printer'> {
  readonly measures: MeasureTable
  readonly steps: WeakMap<Step, ResolvedStep>
}

/** Parts share what an edit left alone; so what was computed for it stands. */
const computed = new WeakMap<Part['measures'], Computed>()

function computedFor(part: Part, read: ReadonlyMap<string, GivenValue>): Computed {
  const { variants, variant, unit, printer } = part
  const known = computed.get(part.measures)
  const same =
    known?.variants === variants && known.variant === variant && known.unit === unit && known.printer === printer
  if (known && same && read.size === 0) return known
  const measures = computeMeasures(measuresInForce(part), unit, printerFor(printer).fits, read)
  const fresh = { variants, variant, unit, printer, measures, steps: new WeakMap() }
  if (read.size === 0) computed.set(part.measures, fresh)
  return fresh
}

/** `read` is what was read off the part, by name. */
export function resolvePart(part: Part, read: ReadonlyMap<string, GivenValue> = new Map()): ResolvedPart {
  const printer = printerFor(part.printer)
  const { measures, steps: known } = computedFor(part, read)
  const problems: Problem[] = measures.rows.flatMap((row) => (row.problem ? [row.problem] : []))
  if (!printers.some((known) => known.id === part.printer))
    problems.push(
      problem('printer-unknown', ['printer'], { name: part.printer, used: printer.name }, { rank: 'warning' }),
    )
  const steps = new Map(
    allSteps(part).map((step) => {
      const resolved = known.get(step) ?? resolveStep(step, measures.names)
      known.set(step, resolved)
      return [step.id, resolved]
    }),
  )
  const joints = new Map(part.joints.map((joint) => [joint.id, resolveJoint(joint, part, measures.names)]))
  for (const resolved of [...steps.values(), ...joints.values()]) problems.push(...resolved.problems)
  return { part, printer, measures, steps, joints, problems }
}

function resolveStep(step: Step, names: Names): ResolvedStep {
  const path = ['steps', step.id]
  const shape = shapeOf(step.shape)
  const ofSteps = step.shape === bundleKind || step.shape === sameKind
  const counting = new FieldWork(names)
  if (!shape && !ofSteps)
    counting.problems.push(problem('shape-unknown', path, { kind: step.shape }, { rank: 'warning' }))
  const repeats = counting.repeats(step.repeats, path)
  const present = !step.mute && counting.condition(step.when, path)
  const counts = (repeats ?? []).map(({ definition, values }) => definition.count(values as never))

  let varies = false
  const resolvedCopy = (index: number) => {
    const numbered = withCopyNumbers(names, copyNumbers(counts, index), () => {
      varies = true
    })
    const work = new FieldWork(numbered)
    const { of: _, ...own } = step.fields
    const values = shape
      ? work.fields('shape', shape, step.fields, path)
      : ofSteps
        ? work.fields('bundle', { fields: scaleFields }, own, path)
        : undefined
    return { values, place: work.place(step.place, path), names: numbered, problems: work.problems }
  }
  const first = resolvedCopy(0)
  const problems = [...counting.problems, ...first.problems]
  const plain = { step, shape, values: first.values, place: first.place, names: first.names, repeats, present }
  if (!varies || !first.values || !first.place) return { ...plain, copies: undefined, problems }
  const copies: CopyValues[] = []
  for (let i = 0; i < counts.reduce((a, b) => a * b, 1); i++) {
    const { values, place, problems: ofCopy } = resolvedCopy(i)
    if (values && place) copies.push({ values, place })
    else {
      const [fault] = ofCopy
      problems.push({ ...fault!, text: `Copy ${i + 1}: ${fault!.text}` })
      return { ...plain, values: undefined, copies: undefined, problems }
    }
  }
  return { ...plain, copies, problems }
}

function resolveJoint(joint: Joint, part: Part, names: Names): ResolvedJoint {
  const path = ['joints', joint.id]
  const work = new FieldWork(names)
  const definition = jointOf(joint.kind)
  if (!definition) work.problems.push(problem('joint-unknown', path, { kind: joint.kind }, { rank: 'warning' }))
  const [a, b] = joint.pieces
  if (a === b || ![a, b].every((id) => part.pieces.some((piece) => piece.id === id)))
    work.problems.push(problem('joint-pieces', path))
  const sound = work.problems.length === 0
  const values = definition && work.fields('joint', definition, joint.fields, path)
  const place = work.place(joint.place, path)
  return { joint, definition: sound ? definition : undefined, values, place, problems: work.problems }
}
