import { type Problem, ProblemError, problem } from '../problems/index.ts'
import { angle, type Dimension, length, lengthUnits, type PartUnit, plain } from '../units/index.ts'
import { holds } from './condition.ts'
import { evaluate, functions, type Names, type Value, type ValueKind, valueKinds } from './evaluate.ts'
import { reservedWords } from './parse.ts'
import { filledTemplate } from './template.ts'

/** What a measure holds. A switch is yes or no, and 1 or 0 in an expression; a choice is one of its own words. */
export type MeasureKind = ValueKind | 'switch' | WordKind
export type WordKind = 'choice' | 'text'
export const measureKinds: readonly MeasureKind[] = [...valueKinds, 'switch', 'choice', 'text']

/** A named value of a part. `expression` is the text that was typed. */
export interface Measure {
  readonly id: string
  readonly name: string
  readonly kind: MeasureKind
  readonly expression: string
  readonly note: string
  /** of a choice: the words it can be */
  readonly choices?: readonly string[] | undefined
  /** what was measured for it, in the order it was taken */
  readonly readings?: readonly Reading[] | undefined
}

/** A value taken with a calliper: mm, or degrees for an angle; `at` is the time as ISO 8601. */
export interface Reading {
  readonly value: number
  readonly at: string
}

export interface MeasureValue {
  readonly measure: Measure
  /** mm, degrees, or a plain number; 1 or 0 for a switch; undefined where there is a problem */
  readonly value: number | undefined
  /** what a choice or a text holds */
  readonly word: string | undefined
  readonly problem: Problem | undefined
  /** names this one reads */
  readonly uses: readonly string[]
}

/** The computed table: each measure's value, and names to evaluate further expressions with. */
export interface MeasureTable {
  readonly rows: readonly MeasureValue[]
  readonly names: Names
}

const dimensionOf: Readonly<Record<MeasureKind, Dimension>> = {
  length,
  angle,
  count: plain,
  ratio: plain,
  switch: plain,
  choice: plain,
  text: plain,
}

/** A value of the measure's kind, whatever it comes to. */
export function standInOf({ kind, choices = [] }: Measure): Value {
  const words = kind === 'choice' ? { word: choices[0] ?? '', choices } : kind === 'text' ? { word: '' } : {}
  return { number: 1, dimension: dimensionOf[kind], bare: false, ...words }
}

/** A name that stands for something else than a measure: what was read off the part, or that it is not known. */
export type GivenValue = Value | { readonly unknown: 'not yet' | 'broken' }

/**
 * Computes all measures in the order of their dependencies. `given` are further lengths by name (the printer's fits),
 * `read` what was read off the part; a measure of the same name goes first.
 * Names must be unique; the first of two equal ones wins and the second is a problem.
 */
export function computeMeasures(
  measures: readonly Measure[],
  unit: PartUnit,
  given: Readonly<Record<string, number>> = {},
  read: ReadonlyMap<string, GivenValue> = new Map(),
): MeasureTable {
  const byName = new Map<string, Measure>()
  for (const measure of measures) if (!byName.has(measure.name)) byName.set(measure.name, measure)
  const rows = new Map<string, MeasureValue>()
  const open: string[] = []
  /** for each name of a ring, all names of the ring */
  const rings = new Map<string, readonly string[]>()
  const ringText = (ring: readonly string[]) => [...ring, ring[0]].join(' → ')

  const row = (measure: Measure): MeasureValue => {
    const known = rows.get(measure.id)
    if (known) return known
    open.push(measure.name)
    const computed = compute(measure)
    open.pop()
    rows.set(measure.id, computed)
    return computed
  }

  const compute = (measure: Measure): MeasureValue => {
    const path = ['measures', measure.id, 'expression']
    const unfit = nameProblem(measure, measures, Object.keys(given))
    const plainRow = { measure, value: undefined, word: undefined, problem: unfit, uses: [] }
    try {
      switch (measure.kind) {
        case 'switch':
          return { ...plainRow, value: holds(measure.expression, names) ? 1 : 0 }
        case 'choice':
          return { ...plainRow, ...chosen(measure) }
        case 'text':
          return { ...plainRow, value: 0, word: filledTemplate(measure.expression, names) }
        default: {
          const { value, uses } = evaluate(measure.expression, measure.kind, names)
          return { ...plainRow, value, uses }
        }
      }
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error
      return { ...plainRow, problem: unfit ?? error.toProblem(path) }
    }
  }

  const names: Names = {
    unit,
    has: (name) => byName.has(name) || read.has(name) || Object.hasOwn(given, name),
    resolve(name, at): Value {
      const measure = byName.get(name)
      const known = measure ? undefined : read.get(name)
      if (known && 'unknown' in known) throw new ProblemError('readout-unknown', { name }, at)
      if (known) return known
      if (!measure) {
        const number = Object.hasOwn(given, name) ? given[name] : undefined
        if (number !== undefined) return { number, dimension: length, bare: false }
        throw new ProblemError(
          'unknown-name',
          { name, suggestion: suggestion(name, [...byName.keys(), ...read.keys(), ...Object.keys(given)]) },
          at,
        )
      }
      const from = open.indexOf(name)
      if (from >= 0 && !rows.has(measure.id)) {
        const ring = open.slice(from)
        for (const member of ring) rings.set(member, ring)
        throw new ProblemError('cycle', { path: ringText(ring) }, at)
      }
      const { value, word } = row(measure)
      if (value === undefined) {
        // Each measure of a ring tells of the ring itself, not of its neighbour's trouble.
        const ring = rings.get(name)
        if (ring?.includes(open.at(-1) ?? '')) throw new ProblemError('cycle', { path: ringText(ring) }, at)
        throw new ProblemError('depends-on-broken', { name }, at)
      }
      return {
        number: value,
        dimension: dimensionOf[measure.kind],
        bare: false,
        ...(word === undefined ? {} : { word }),
        ...(measure.kind === 'choice' ? { choices: measure.choices ?? [] } : {}),
      }
    },
  }

  return { rows: measures.map(row), names }
}

/** @throws ProblemError choice-unknown */
function chosen({ expression, choices = [] }: Measure): { readonly value: number; readonly word: string } {
  const index = choices.indexOf(expression)
  if (index < 0)
    throw new ProblemError('choice-unknown', {
      value: expression,
      known: choices.join(', ') || 'the words of this choice',
    })
  return { value: index + 1, word: expression }
}

/** Whether `measure` may be called what it is called. */
function nameProblem(measure: Measure, all: readonly Measure[], given: readonly string[]): Problem | undefined {
  const path = ['measures', measure.id, 'name']
  const detail = unfitName(measure.name, given)
  if (detail) return problem('name-unfit', path, { name: measure.name, detail })
  const first = all.find((other) => other.name === measure.name)
  if (first && first.id !== measure.id) return problem('name-taken', path, { name: measure.name })
  return undefined
}

/** Why `name` cannot name a measure, or undefined. */
export function unfitName(name: string, given: readonly string[] = []): string | undefined {
  if (name === '') return 'it is empty'
  if (name.length > 40) return 'it is longer than 40 characters'
  if (!/^[\p{L}_][\p{L}\p{N}_]*$/u.test(name)) return 'use letters, digits and _ only, and begin with a letter'
  if (reservedWords.has(name) || Object.hasOwn(lengthUnits, name)) return 'that is a unit'
  if (Object.hasOwn(functions, name)) return 'that is a function'
  if (['yes', 'no', 'and', 'or', 'not'].includes(name)) return 'that is a word of conditions'
  if (given.includes(name)) return 'that is a fit'
  if (/^cop(y[1-9]?|ies)$/.test(name)) return 'that is the number of a copy'
  return undefined
}

/** " Did you mean “wall”?" where a known name is at most two letters away. */
function suggestion(name: string, known: readonly string[]): string {
  const near = known
    .map((other) => ({ other, steps: editDistance(name.toLowerCase(), other.toLowerCase()) }))
    .filter(({ steps, other }) => steps <= Math.min(2, Math.floor(other.length / 2)))
    .sort((a, b) => a.steps - b.steps)[0]
  return near ? ` Did you mean “${near.other}”?` : ''
}

/** Levenshtein distance, by rows. */
function editDistance(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, j) => j)
  for (let i = 1; i <= a.length; i++) {
    const next = [i]
    for (let j = 1; j <= b.length; j++)
      next.push(Math.min(row[j]! + 1, next[j - 1]! + 1, row[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1)))
    row = next
  }
  return row[b.length]!
}
