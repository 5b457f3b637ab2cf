import { angle, formatLength, formatNumber, length, sameDimension } from '../units/index.ts'
import { evaluateFree, type Names } from './evaluate.ts'

/** An expression in a text stands between braces. */
const hole = /\{([^{}]*)\}/g

/** The text with every expression in braces put through `change`. */
export function mapTemplate(text: string, change: (expression: string) => string): string {
  return text.replace(hole, (_, expression: string) => `{${change(expression)}}`)
}

/**
 * The text with the values of its expressions: lengths in the part's unit, to three decimals (four in inches), angles in
 * degrees.
 * @throws ProblemError of the first expression that cannot be computed
 */
export function filledTemplate(text: string, names: Names): string {
  return text.replace(hole, (_, expression: string) => {
    const { value } = evaluateFree(expression, names)
    if (value.word !== undefined) return value.word
    if (sameDimension(value.dimension, length)) return formatLength(value.number, names.unit)
    return formatNumber(value.number, sameDimension(value.dimension, angle) ? 2 : 4)
  })
}
