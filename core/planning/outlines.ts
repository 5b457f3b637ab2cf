import type { Outline, Part } from '../document/index.ts'
import type { AnyValues, FieldDefinition } from '../fields/index.ts'
import type { Names, ValueKind } from '../measures/index.ts'
import {
  type ConstraintDefinition,
  constraintOf,
  curveOf,
  derivedOf,
  type SolvedOutline,
  solveOutline,
} from '../outline/index.ts'
import type { Vec2 } from '../plane/index.ts'
import { type Problem, problem } from '../problems/index.ts'
import { FieldWork } from './fieldWork.ts'

/** Where points stand that outlines took over from faces: by outline and point. */
export type TakenPoints = ReadonlyMap<string, ReadonlyMap<string, Vec2>>
const nowhere: ReadonlyMap<string, Vec2> = new Map()

export interface ResolvedOutline extends SolvedOutline {
  readonly allProblems: readonly Problem[]
}

/** An outline with its expressions computed and its constraints solved. */
export function resolveOutline(
  outline: Outline,
  names: Names,
  taken: ReadonlyMap<string, Vec2> = nowhere,
): ResolvedOutline {
  const path = ['outlines', outline.id]
  const work = new FieldWork(names)
  const values = new Map<string, number>()
  for (const { id, kind, value, driven } of outline.constraints) {
    const definition = constraintOf(kind)
    if (!definition)
      work.problems.push(problem('constraint-unknown', [...path, 'constraints', id], { kind }, { rank: 'warning' }))
    if (!definition?.value || driven) continue
    const asked = work.dimension(dimensionField(definition, definition.value), value ?? '', [
      ...path,
      'constraints',
      id,
    ])
    if (asked !== undefined) values.set(id, asked)
  }
  const fields = new Map<string, AnyValues | undefined>()
  for (const curve of outline.curves) {
    const own = curveOf(curve.kind)?.fields
    if (own)
      fields.set(curve.id, work.fields('curve', { fields: own }, curve.fields ?? {}, [...path, 'curves', curve.id]))
  }
  for (const each of outline.derived) {
    const definition = derivedOf(each.kind)
    if (definition) fields.set(each.id, work.fields('derived', definition, each.fields, [...path, 'derived', each.id]))
  }
  const solved = solveOutline(outline, { values, fields, taken })
  return { ...solved, allProblems: [...work.problems, ...solved.problems] }
}

function dimensionField({ label, above }: ConstraintDefinition, kind: ValueKind): FieldDefinition {
  return { kind, label, default: '', meaning: '', ...(above === undefined ? {} : { above }) }
}

/** Outlines resolved with one set of names; each is solved when it is first asked for, and once. */
export class Outlines {
  readonly #part: Pick<Part, 'outlines'>
  readonly #names: Names
  readonly #taken: TakenPoints
  readonly #known: Map<string, ResolvedOutline>

  constructor(part: Pick<Part, 'outlines'>, names: Names, taken: TakenPoints, before?: Outlines) {
    this.#part = part
    this.#names = names
    this.#taken = taken
    this.#known = new Map()
    // What an edit left alone stands.
    for (const [id, resolved] of before && before.#names === names ? before.#known : [])
      if (part.outlines.includes(resolved.outline) && sameTaken(before!.#taken.get(id), taken.get(id)))
        this.#known.set(id, resolved)
  }

  get(id: string): ResolvedOutline | undefined {
    const known = this.#known.get(id)
    if (known) return known
    const outline = this.#part.outlines.find((each) => each.id === id)
    if (!outline) return undefined
    const resolved = resolveOutline(outline, this.#names, this.#taken.get(id))
    this.#known.set(id, resolved)
    return resolved
  }

  all(): ResolvedOutline[] {
    return this.#part.outlines.map(({ id }) => this.get(id)!)
  }
}

function sameTaken(a: ReadonlyMap<string, Vec2> | undefined, b: ReadonlyMap<string, Vec2> | undefined): boolean {
  if (a === b) return true
  if (a?.size !== b?.size) return false
  return [...(a ?? [])].every(([id, [x, y]]) => {
    const other = b!.get(id)
    return other?.[0] === x && other[1] === y
  })
}
