import { besideOf, fitGaps } from '../fits/index.ts'
import {
  computeMeasures,
  copyNumbers,
  evaluate,
  filledTemplate,
  holds,
  impliedLengths,
  mapCondition,
  type Names,
  standInOf,
  type Value,
  withCopyNumbers,
  withoutWrittenUnits,
  withWrittenUnits,
} from '../measures/index.ts'
import { attempt } from '../problems/index.ts'
import { length, type PartUnit, sameDimension } from '../units/index.ts'
import { type ExpressionKind, mapExpressions, measuresInForce } from './expressions.ts'
import type { FieldKindOf, Part } from './format.ts'

/** An expression whose meaning would change with the part's unit, and cannot be kept; `owner` is the id of what it is of. */
export interface UnitFault {
  readonly owner: string
  readonly text: string
  readonly detail: string
}

/**
 * The part in another unit, every size as it was: bare numbers get their unit written to them, and lose the one that they
 * got when the part left `unit` before. What cannot be read is left as it is, and named.
 */
export function inUnitOf(
  part: Part,
  unit: PartUnit,
  kindOf: FieldKindOf,
): { readonly part: Part; readonly faults: readonly UnitFault[] } {
  if (unit === part.unit) return { part, faults: [] }
  const faults: UnitFault[] = []
  const names = dimensionNames(part, kindOf)
  const written = mapExpressions(part, kindOf, (text, kind, owner) => {
    const read = attempt([], () =>
      kind === 'switch' ? conditionIn(text, names, part.unit) : withWrittenUnits(text, kind, names, part.unit),
    )
    if (read.ok) return read.value
    // Nothing is taken for a length in what is not there.
    if (text.trim() !== '') faults.push({ owner, text, detail: read.problem.text })
    return text
  })
  const there = { ...written, unit }
  const after = dimensionNames(there, kindOf)
  const bare = mapExpressions(there, kindOf, (text, kind) => {
    const short =
      kind === 'switch'
        ? mapCondition(text, (value) => withoutWrittenUnits(value, unit))
        : withoutWrittenUnits(text, unit)
    return short === text || !meansTheSame(text, short, kind, after) ? text : short
  })
  return { part: bare, faults }
}

/** Whether two texts come to one value; of what cannot be computed they do not. */
function meansTheSame(one: string, two: string, kind: ExpressionKind, names: Names): boolean {
  const read = (text: string) =>
    attempt([], () => {
      if (kind === 'switch') return holds(text, names)
      return kind === 'any' ? filledTemplate(`{${text}}`, names) : evaluate(text, kind, names, besideOf('round')).value
    })
  const [a, b] = [read(one), read(two)]
  if (!a.ok || !b.ok) return false
  if (typeof a.value === 'number' && typeof b.value === 'number')
    return Math.abs(a.value - b.value) <= 1e-12 * Math.max(1, Math.abs(a.value))
  return a.value === b.value
}

/** A condition with units written to its bare numbers: beside a length, one is a length. */
function conditionIn(text: string, names: Names, from: PartUnit): string {
  const isWord = (value: string) => names.has(value) && names.resolve(value, [0, value.length]).word !== undefined
  return mapCondition(text, (value, other) => {
    if (isWord(value) || (other !== undefined && isWord(other))) return value
    const beside = other === undefined ? undefined : attempt([], () => impliedLengths(other, 'free', names).dimension)
    const isLength = beside?.ok === true && sameDimension(beside.value, length)
    return withWrittenUnits(value, isLength ? 'length' : 'free', names, from)
  })
}

/** What the names in expressions measure, also where their values cannot be computed; read-outs and numbers of copies too. */
function dimensionNames(part: Part, kindOf: FieldKindOf): Names {
  const read = new Map(
    part.readouts.flatMap(({ name, kind }): [string, Value][] => {
      const dimension = kindOf({ readout: kind })
      return dimension ? [[name, { number: 1, dimension, bare: false }]] : []
    }),
  )
  const { names } = computeMeasures(measuresInForce(part), part.unit, fitGaps(part.printer), read)
  const known: Names = {
    ...names,
    resolve(name, at) {
      const value = attempt([], () => names.resolve(name, at))
      const measure = value.ok ? undefined : part.measures.find((each) => each.name === name)
      return measure ? standInOf(measure) : names.resolve(name, at)
    },
  }
  return withCopyNumbers(known, copyNumbers([1, 1, 1], 0))
}
