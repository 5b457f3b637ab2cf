import { ProblemError } from '../problems/index.ts'
import type { PartUnit } from '../units/index.ts'
import { evaluate, evaluateFree, type Names, type ValueKind } from './evaluate.ts'
import { parseExpression } from './parse.ts'

/**
 * `text` with the unit `from` written behind each bare number that was taken as a length, so that it keeps its value
 * when the part's unit changes. An expression that cannot be evaluated is left as it is.
 */
export function withWrittenUnits(text: string, kind: ValueKind | 'any', names: Names, from: PartUnit): string {
  try {
    const { taken } = kind === 'any' ? evaluateFree(text, names) : evaluate(text, kind, names)
    return [...taken]
      .sort((a, b) => b.start - a.start)
      .reduce((out, { start, end, simple }) => {
        const inner = out.slice(start, end)
        return out.slice(0, start) + (simple ? `${inner} ${from}` : `(${inner}) * 1 ${from}`) + out.slice(end)
      }, text)
  } catch (error) {
    if (error instanceof ProblemError) return text
    throw error
  }
}

/** `text` with every use of the name `from` replaced by `to`; unreadable text is left as it is. */
export function withRenamed(text: string, from: string, to: string): string {
  try {
    parseExpression(text)
  } catch (error) {
    if (error instanceof ProblemError) return text
    throw error
  }
  // The text is well formed, so a whole word that is not directly behind a digit is a name.
  return text.replace(/(?<![\p{L}\p{N}_.])[\p{L}_][\p{L}\p{N}_]*/gu, (word) => (word === from ? to : word))
}
