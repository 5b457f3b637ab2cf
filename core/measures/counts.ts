import { attempt } from '../problems/index.ts'
import { plain } from '../units/index.ts'
import { evaluate, type Names, type ValueKind } from './evaluate.ts'
import type { Measure } from './table.ts'

/**
 * Measures that make sense of a text once they are counts: lengths that were typed as a plain whole number, as `n = 7` for how many there
 * are, which make `n * pitch` an area. None where it can be read as it is.
 */
export function countsThatFit<M extends Pick<Measure, 'name' | 'kind' | 'expression'>>(
  text: string,
  kind: ValueKind,
  names: Names,
  measures: readonly M[],
): readonly M[] {
  if (attempt([], () => evaluate(text, kind, names)).ok) return []
  return measures.filter((measure) => {
    if (measure.kind !== 'length' || !/^\s*\d+\s*$/.test(measure.expression)) return false
    const counted: Names = {
      unit: names.unit,
      has: (name) => names.has(name),
      resolve: (name, at) =>
        name === measure.name
          ? { number: Number(measure.expression), dimension: plain, bare: false }
          : names.resolve(name, at),
    }
    return attempt([], () => evaluate(text, kind, counted)).ok
  })
}
