import {
  type BodyStep,
  type BundleStep,
  type FieldKindOf,
  type FieldOwner,
  findStep,
  flattened,
  hasBody,
  isBundle,
  type Joint,
  measuresInForce,
  type Part,
  type Step,
  type TreatmentStep,
} from '../document/index.ts'
import { type AnyValues, AssetValue, type Fields, fieldsWhere, type Versioned } from '../fields/index.ts'
import { fitGaps, type Printer } from '../fits/index.ts'
import { type JointDefinition, jointOf } from '../joints/index.ts'
import {
  computeMeasures,
  copyNumbers,
  type GivenValue,
  type MeasureTable,
  type Names,
  withCopyNumbers,
} from '../measures/index.ts'
import { type BodyOperation, bodyOperationOf, type Treatment, treatmentOf } from '../operations/index.ts'
import { constraintOf, curveOf, derivedOf } from '../outline/index.ts'
import type { PlaceValues } from '../place/index.ts'
import { type Problem, problem } from '../problems/index.ts'
import { readoutOf } from '../readouts/index.ts'
import { repeatOf } from '../repeats/index.ts'
import { type ShapeDefinition, shapeOf } from '../shapes/index.ts'

import { type FieldSources, FieldWork, type ResolvedRepeat } from './fieldWork.ts'
import { Outlines, type ResolvedOutline, type TakenPoints } from './outlines.ts'
import { scaleFields } from './scaling.ts'
import { isLater } from './upgrade.ts'

/** A part with all its expressions computed. What could not be computed is a problem on its owner. */
export interface ResolvedPart {
  readonly part: Part
  readonly printer: Printer
  readonly measures: MeasureTable
  readonly outlines: Outlines
  readonly steps: ReadonlyMap<string, ResolvedStep>
  readonly joints: ReadonlyMap<string, ResolvedJoint>
  readonly problems: readonly Problem[]
}

export interface ResolvedStep {
  readonly step: Step
  /** undefined for what acts alone, and where the kind is not known */
  readonly operation: BodyOperation | undefined
  /** undefined for what acts with a body, and where the kind is not known */
  readonly treatment: Treatment | undefined
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
  /** of a bundle whose content reads the number of its copy: what it holds, resolved for each copy */
  readonly contents?: readonly ReadonlyMap<string, ResolvedStep>[]
  /** the outlines that its fields name */
  readonly used: ReadonlyMap<string, ResolvedOutline | undefined>
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
  /** whether both of its pieces are there */
  readonly present: boolean
  readonly problems: readonly Problem[]
}

/** What the fields of shapes, joints and repeats hold, for edits that rewrite expressions. */
export const fieldKindOf = ((owner: FieldOwner | { readonly readout: string }, field: string = '') => {
  if ('readout' in owner) return readoutOf(owner.readout)?.dimension
  const definition = fieldsOf(owner)
  return definition && Object.hasOwn(definition.fields, field) ? definition.fields[field]!.kind : undefined
}) as FieldKindOf

/** What owns fields, with the registry that knows it. */
function fieldsOf(owner: FieldOwner): { readonly fields: Fields } | undefined {
  if ('shape' in owner) return shapeOf(owner.shape)
  if ('made' in owner) return { fields: scaleFields }
  if ('treatment' in owner) return treatmentOf(owner.treatment)
  if ('joint' in owner) return jointOf(owner.joint)
  if ('repeat' in owner) return repeatOf(owner.repeat)
  if ('derived' in owner) return derivedOf(owner.derived)
  if ('curve' in owner) return { fields: curveOf(owner.curve)?.fields ?? {} }
  const kind = constraintOf(owner.constraint)?.value
  return kind && { fields: { value: { kind, label: 'Value', default: '', meaning: '' } } }
}

type Assets = ReadonlyMap<string, AssetValue>

/** What follows from a part's measures alone, and what its steps come to with them. */
interface Computed extends Pick<Part, 'variants' | 'variant' | 'unit' | 'printer'> {
  readonly measures: MeasureTable
  readonly steps: WeakMap<Step, ResolvedStep>
  outlines: Outlines | undefined
  readonly assets: { readonly list: Part['assets']; readonly byHash: Assets }
  /** of what lies in a repeated bundle and does not read the number of its copy */
  readonly independent: WeakMap<Step, ResolvedStep>
}

/** Parts share what an edit left alone; so what was computed for it stands. */
const computed = new WeakMap<Part['measures'], Computed>()

function computedFor(part: Part, read: ReadonlyMap<string, GivenValue>): Computed {
  const { variants, variant, unit, printer, assets } = part
  const known = computed.get(part.measures)
  const same =
    known?.variants === variants &&
    known.variant === variant &&
    known.unit === unit &&
    known.printer === printer &&
    known.assets.list === assets
  if (known && same && read.size === 0) return known
  const measures = computeMeasures(measuresInForce(part), unit, fitGaps(printer), read)
  const fresh: Computed = {
    variants,
    variant,
    unit,
    printer,
    measures,
    steps: new WeakMap(),
    outlines: undefined,
    assets: { list: assets, byHash: new Map(assets.map((asset) => [asset.hash, new AssetValue(asset)])) },
    independent: new WeakMap(),
  }
  if (read.size === 0) computed.set(part.measures, fresh)
  return fresh
}

const noneTaken: TakenPoints = new Map()

/** `read` is what was read off the part, by name; `taken` where points of outlines are that belong to faces. */
export function resolvePart(
  part: Part,
  read: ReadonlyMap<string, GivenValue> = new Map(),
  taken: TakenPoints = noneTaken,
): ResolvedPart {
  const known = computedFor(part, read)
  const { measures } = known
  known.outlines = new Outlines(part, measures.names, taken, known.outlines)
  const problems: Problem[] = measures.rows.flatMap((row) => (row.problem ? [row.problem] : []))
  const steps = new Map<string, ResolvedStep>()
  for (const piece of part.pieces) resolveSteps(piece.steps, known, undefined, steps)
  const joints = new Map(part.joints.map((joint) => [joint.id, resolveJoint(joint, part, measures.names, steps)]))
  for (const outline of known.outlines.all()) problems.push(...outline.allProblems)
  for (const resolved of [...steps.values(), ...joints.values()]) problems.push(...resolved.problems)
  return { part, printer: part.printer, measures, outlines: known.outlines, steps, joints, problems }
}

/** The names of a copy of a bundle, for what it holds. */
interface Outer {
  readonly names: Names
  /** whether anything has read the number of the copy */
  used: boolean
}

/** So many steps are resolved at most for all copies of a bundle whose content differs from copy to copy. */
const mostVaried = 5000

/** Resolves a list of steps, and what bundles in it hold, `into` a map. */
function resolveSteps(
  list: readonly Step[],
  known: Computed,
  outer: Outer | undefined,
  into: Map<string, ResolvedStep>,
): void {
  const { names } = known.measures
  for (const step of list) {
    const kept = outer ? known.independent : known.steps
    let resolved = kept.get(step)
    if (!resolved || !stillDrawn(resolved, known)) {
      const before = outer?.used
      if (outer) outer.used = false
      resolved = resolveStep(step, names, { outlines: known.outlines!, assets: known.assets.byHash }, outer?.names)
      if (!outer?.used) kept.set(step, resolved)
      if (outer && before) outer.used = true
    }
    into.set(step.id, resolved)
    if (!isBundle(step)) continue
    const count = (resolved.repeats ?? []).reduce((n, { definition, values }) => n * definition.count(values), 1)
    // A bundle that is not repeated hands on what it lies in.
    if (step.repeats.length === 0 || !resolved.values || !resolved.place) resolveSteps(step.steps, known, outer, into)
    else into.set(step.id, { ...resolved, ...varied(step, step.steps, count, resolved, known, into) })
  }
}

/** Whether the outlines that a step was resolved with are what they were. */
function stillDrawn({ used }: ResolvedStep, { outlines }: Computed): boolean {
  return [...used].every(([id, resolved]) => outlines!.get(id) === resolved)
}

/** What a repeated bundle holds, for its first copy `into` the map and, where it differs, for each copy. */
function varied(
  step: BundleStep,
  content: readonly Step[],
  count: number,
  { repeats, problems }: ResolvedStep,
  known: Computed,
  into: Map<string, ResolvedStep>,
): Partial<ResolvedStep> {
  const counts = (repeats ?? []).map(({ definition, values }) => definition.count(values))
  const ofCopy = (index: number, map: Map<string, ResolvedStep>): boolean => {
    const outer: Outer = {
      used: false,
      names: withCopyNumbers(known.measures.names, copyNumbers(counts, index), () => {
        outer.used = true
      }),
    }
    resolveSteps(content, known, outer, map)
    return outer.used
  }
  if (!ofCopy(0, into) || count < 2) return {}
  const many = count * flattened(content).length
  const path = ['steps', step.id, 'repeats', '0']
  if (many > mostVaried)
    return { problems: [...problems, problem('copies-too-many', path, { count: many, limit: mostVaried })] }
  const contents = Array.from({ length: count }, (_, i) => {
    const map = new Map<string, ResolvedStep>()
    ofCopy(i, map)
    return map
  })
  const told = contents
    .slice(1)
    .flatMap((map, i) =>
      [...map.values()].flatMap(({ step: inner, problems: own }) =>
        own.length > (into.get(inner.id)?.problems.length ?? 0)
          ? own.slice(0, 1).map((each) => ({ ...each, text: `Copy ${i + 2}: ${each.text}` }))
          : [],
      ),
    )
  // One copy that cannot be made tells for all.
  return { contents, problems: [...problems, ...told.slice(0, 1)] }
}

/** `outer`: the names of the copy of the bundle that it lies in, which it reads where it has no copies of its own. */
function resolveStep(
  step: Step,
  names: Names,
  { outlines, assets }: { readonly outlines: Outlines; readonly assets: Assets },
  outer: Names = names,
): ResolvedStep {
  const used = new Map<string, ResolvedOutline | undefined>()
  const sources: Pick<FieldSources, 'outline' | 'asset'> = {
    outline(id) {
      const found = outlines.get(id)
      used.set(id, found)
      return found
    },
    asset: (hash) => assets.get(hash),
  }
  return hasBody(step) ? resolveBody(step, names, sources, used, outer) : resolveTreatment(step, sources, used, outer)
}

function resolveTreatment(
  step: TreatmentStep,
  sources: Partial<FieldSources>,
  used: ResolvedStep['used'],
  names: Names,
): ResolvedStep {
  const path = ['steps', step.id]
  const work = new FieldWork(names, sources)
  const known = treatmentOf(step.operation)
  if (!known) work.problems.push(unknownOperation(step))
  const treatment = soundVersion(step, known, path, work.problems)
  const present = !step.mute && work.condition(step.when, path)
  const values = treatment && work.fields('step', treatment, step.fields, path)
  const nothing = { operation: undefined, shape: undefined, place: undefined, repeats: undefined, copies: undefined }
  return { step, ...nothing, treatment, values, names, present, used, problems: work.problems }
}

/** A definition that knows the fields of what it is for; undefined, which is told, where these are of a later version. */
function soundVersion<D extends Versioned & { readonly kind: string }>(
  owner: Pick<Joint, 'version'>,
  definition: D | undefined,
  path: readonly string[],
  problems: Problem[],
): D | undefined {
  if (!definition || !isLater(owner, definition)) return definition
  problems.push(problem('kind-later', path, { kind: definition.kind }, { rank: 'warning' }))
  return undefined
}

function unknownOperation({ id, operation }: Step): Problem {
  return problem('operation-unknown', ['steps', id], { kind: operation }, { rank: 'warning' })
}

function resolveBody(
  step: BodyStep,
  names: Names,
  sources: Partial<FieldSources>,
  used: ResolvedStep['used'],
  outer: Names,
): ResolvedStep {
  const path = ['steps', step.id]
  const known = step.kind === 'shape' ? shapeOf(step.shape) : undefined
  const operation = bodyOperationOf(step.operation)
  const counting = new FieldWork(outer, sources)
  const shape = step.kind === 'shape' ? soundVersion(step, known, path, counting.problems) : undefined
  if (step.kind === 'shape' && !known)
    counting.problems.push(problem('shape-unknown', path, { kind: step.shape }, { rank: 'warning' }))
  if (!operation) counting.problems.push(unknownOperation(step))
  const repeats = counting.repeats(step.repeats, path)
  const present = !step.mute && counting.condition(step.when, path)
  const counts = (repeats ?? []).map(({ definition, values }) => definition.count(values))

  const adds = operation?.material === 'more'
  const fitted = shape && { ...shape, fields: fieldsWhere(adds, shape.fields) }
  let varies = false
  const resolvedCopy = (index: number) => {
    const own = outer === names || step.repeats.length > 0
    const numbered = own
      ? withCopyNumbers(names, copyNumbers(counts, index), () => {
          varies = true
        })
      : outer
    const work = new FieldWork(numbered, sources)
    const values = shape
      ? work.fields('shape', fitted ?? shape, step.fields, path)
      : step.kind === 'shape'
        ? undefined
        : work.fields('bundle', { fields: scaleFields }, step.fields, path)
    return { values, place: work.place(step.place, path), names: numbered, problems: work.problems }
  }
  const first = resolvedCopy(0)
  const problems = [...counting.problems, ...first.problems]
  const worked = { values: first.values, place: first.place, names: first.names, repeats, present, used }
  const plain = { step, operation, treatment: undefined, shape, ...worked }
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

function resolveJoint(joint: Joint, part: Part, names: Names, steps: ReadonlyMap<string, ResolvedStep>): ResolvedJoint {
  const path = ['joints', joint.id]
  const work = new FieldWork(names, {
    layerHeight: part.printer.layerHeight,
    step(id, side) {
      const pieces = side === undefined ? part.pieces : part.pieces.filter((piece) => piece.id === joint.pieces[side])
      if (!pieces.some((piece) => findStep({ ...part, pieces: [piece] }, id))) return undefined
      const { shape, operation, values, present } = steps.get(id) ?? {}
      if (!shape || !values || !present) return undefined
      return { id, shape: shape.kind, adds: operation?.material === 'more', values }
    },
  })
  const known = jointOf(joint.kind)
  const definition = soundVersion(joint, known, path, work.problems)
  if (!known) work.problems.push(problem('joint-unknown', path, { kind: joint.kind }, { rank: 'warning' }))
  const [a, b] = joint.pieces
  if (a === b || ![a, b].every((id) => part.pieces.some((piece) => piece.id === id)))
    work.problems.push(problem('joint-pieces', path, {}))
  const sound = work.problems.length === 0
  const values = definition && work.fields('joint', definition, joint.fields, path)
  const place = work.place(joint.place, path)
  // What ties nothing is left out with it.
  const present = joint.pieces.every((id) => pieceIsThere({ part, steps }, id))
  const problems = present ? work.problems : []
  return { joint, definition: sound && present ? definition : undefined, values, place, present, problems }
}

/** Whether there is something of a piece: one whose steps are all left out is not there; one without steps may be made by its joints. */
export function pieceIsThere({ part, steps }: Pick<ResolvedPart, 'part' | 'steps'>, id: string): boolean {
  const own = part.pieces.find((piece) => piece.id === id)?.steps ?? []
  return own.length === 0 || own.some((step) => steps.get(step.id)?.present)
}
