import type { FieldKindOf, Joint, Offset, Part, Place, Repeat, Step } from '../document/index.ts'
import { type Printer, printerFor, printers } from '../fits/index.ts'
import { type JointDefinition, jointOf } from '../joints/index.ts'
import { computeMeasures, evaluate, type MeasureTable, type Names, type ValueKind } from '../measures/index.ts'
import type { OffsetValue, PlaceValues, RingValues, RowValues } from '../place/index.ts'
import { type Problem, ProblemError, problem } from '../problems/index.ts'
import { type AnyValues, type FieldDefinition, type Fields, type ShapeDefinition, shapeOf } from '../shapes/index.ts'

/** The largest number of copies of one step that is built. */
export const mostCopies = 2000

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
  /** undefined where the kind is not known */
  readonly shape: ShapeDefinition | undefined
  /** undefined where a field has a problem */
  readonly values: AnyValues | undefined
  readonly place: PlaceValues | undefined
  readonly repeats: readonly (RowValues | RingValues)[] | undefined
  readonly problems: readonly Problem[]
}

export interface ResolvedJoint {
  readonly joint: Joint
  readonly definition: JointDefinition | undefined
  readonly values: AnyValues | undefined
  readonly place: PlaceValues | undefined
  readonly problems: readonly Problem[]
}

/** Which fields of shapes and joints hold expressions, for edits that rewrite them. */
export const fieldKindOf: FieldKindOf = (owner, field) => {
  const fields = 'shape' in owner ? shapeOf(owner.shape)?.fields : jointOf(owner.joint)?.fields
  const definition = fields && Object.hasOwn(fields, field) ? fields[field] : undefined
  return definition && definition.kind !== 'choice' ? definition.kind : undefined
}

export function resolvePart(part: Part): ResolvedPart {
  const printer = printerFor(part.printer)
  const measures = computeMeasures(part.measures, part.unit, printer.fits)
  const problems: Problem[] = measures.rows.flatMap((row) => (row.problem ? [row.problem] : []))
  if (!printers.some((known) => known.id === part.printer))
    problems.push(
      problem('printer-unknown', ['printer'], { name: part.printer, used: printer.name }, { rank: 'warning' }),
    )
  const steps = new Map<string, ResolvedStep>()
  for (const piece of part.pieces)
    for (const step of piece.steps) {
      const resolved = resolveStep(step, measures.names)
      steps.set(step.id, resolved)
      problems.push(...resolved.problems)
    }
  const joints = new Map<string, ResolvedJoint>()
  for (const joint of part.joints) {
    const resolved = resolveJoint(joint, part, measures.names)
    joints.set(joint.id, resolved)
    problems.push(...resolved.problems)
  }
  return { part, printer, measures, steps, joints, problems }
}

function resolveStep(step: Step, names: Names): ResolvedStep {
  const path = ['steps', step.id]
  const work = new FieldWork(names)
  const shape = shapeOf(step.shape)
  if (!shape) work.problems.push(problem('shape-unknown', path, { kind: step.shape }, { rank: 'warning' }))
  const values = shape && work.fields(shape.fields, step.fields, path, shape.impossible?.bind(shape))
  const place = work.place(step.place, path)
  const repeats = work.repeats(step.repeats, path)
  return { step, shape, values, place, repeats, problems: work.problems }
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
  const values =
    definition && work.fields(definition.fields, joint.fields, path, definition.impossible?.bind(definition))
  const place = work.place(joint.place, path)
  return { joint, definition: sound ? definition : undefined, values, place, problems: work.problems }
}

/** Computes the expressions of one step or joint and collects what goes wrong, so that all of it is told at once. */
class FieldWork {
  readonly problems: Problem[] = []
  private readonly names: Names

  constructor(names: Names) {
    this.names = names
  }

  fields(
    definitions: Fields,
    texts: Readonly<Record<string, string>>,
    owner: readonly string[],
    impossible: ((values: never) => { field: string; detail: string } | undefined) | undefined,
  ): AnyValues | undefined {
    for (const field of Object.keys(texts))
      if (!Object.hasOwn(definitions, field)) {
        const data = {
          field,
          kind: owner[0] === 'joints' ? 'joint' : 'shape',
          known: Object.keys(definitions).join(', '),
        }
        this.problems.push(problem('field-unknown', [...owner, 'fields', field], data, { rank: 'warning' }))
      }
    const values: Record<string, number | string> = {}
    let sound = true
    for (const [name, definition] of Object.entries(definitions)) {
      // A field that the file does not have yet (a later addition) has its default.
      const value = this.field(definition, texts[name] ?? definition.default, [...owner, 'fields', name])
      if (value === undefined) sound = false
      else values[name] = value
    }
    if (!sound) return undefined
    const fault = impossible?.(values as never)
    if (!fault) return values
    this.problems.push(problem('shape-impossible', [...owner, 'fields', fault.field], { detail: fault.detail }))
    return undefined
  }

  private field(definition: FieldDefinition, text: string, path: readonly string[]): number | string | undefined {
    if (definition.kind === 'choice') {
      if (Object.hasOwn(definition.choices, text)) return text
      this.problems.push(
        problem('choice-unknown', path, { value: text, known: Object.keys(definition.choices).join(', ') }),
      )
      return undefined
    }
    const value = this.number(text, definition.kind, path)
    if (value === undefined) return undefined
    const bounds = boundsProblem(definition, value, path)
    if (bounds) this.problems.push(bounds)
    return bounds ? undefined : value
  }

  number(text: string, kind: ValueKind, path: readonly string[]): number | undefined {
    try {
      return evaluate(text, kind, this.names).value
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      this.problems.push(error.toProblem(path))
      return undefined
    }
  }

  place(place: Place, owner: readonly string[]): PlaceValues | undefined {
    const path = [...owner, 'place']
    const across = this.offset(place.across, [...path, 'across'])
    const along = this.offset(place.along, [...path, 'along'])
    const lift = this.number(place.lift, 'length', [...path, 'lift'])
    const turn = this.number(place.turn, 'angle', [...path, 'turn'])
    const tilt = this.number(place.tilt, 'angle', [...path, 'tilt'])
    if (!across || !along || lift === undefined || turn === undefined || tilt === undefined) return undefined
    return { across, along, rest: place.rest, lift, turn, tilt }
  }

  private offset(offset: Offset, path: readonly string[]): OffsetValue | undefined {
    const by = this.number(offset.by, 'length', path)
    return by === undefined ? undefined : { from: offset.from, to: offset.to, by }
  }

  repeats(repeats: readonly Repeat[], owner: readonly string[]): (RowValues | RingValues)[] | undefined {
    const values = repeats.map((repeat, i) => this.repeat(repeat, [...owner, 'repeats', String(i)]))
    if (values.some((value) => value === undefined)) return undefined
    const total = values.reduce((product, value) => product * value!.count, 1)
    if (total > mostCopies) {
      this.problems.push(
        problem('copies-too-many', [...owner, 'repeats', '0', 'count'], { count: total, limit: mostCopies }),
      )
      return undefined
    }
    return values as (RowValues | RingValues)[]
  }

  private repeat(repeat: Repeat, path: readonly string[]): RowValues | RingValues | undefined {
    const count = this.field(
      { kind: 'count', label: 'The number of copies', default: '2', least: 1, most: mostCopies, meaning: '' },
      repeat.count,
      [...path, 'count'],
    )
    if (repeat.kind === 'row') {
      const spacing = this.number(repeat.spacing, 'length', [...path, 'spacing'])
      return typeof count === 'number' && spacing !== undefined
        ? { kind: 'row', direction: repeat.direction, count, spacing }
        : undefined
    }
    const sweep = this.number(repeat.sweep, 'angle', [...path, 'sweep'])
    return typeof count === 'number' && sweep !== undefined ? { kind: 'ring', count, sweep } : undefined
  }
}

/** Whether a value lies within its field's limits. */
function boundsProblem(
  { label, above, least, most }: Extract<FieldDefinition, { kind: ValueKind }>,
  value: number,
  path: readonly string[],
): Problem | undefined {
  const told = { label, value: Math.round(value * 1e6) / 1e6 }
  if (above !== undefined && value <= above) return problem('not-above', path, { ...told, bound: above })
  if (least !== undefined && value < least) return problem('too-small', path, { ...told, bound: least })
  if (most !== undefined && value > most) return problem('too-large', path, { ...told, bound: most })
  return undefined
}
