import { ProblemError } from '../problems/index.ts'
import { length, type PartUnit, sameDimension } from '../units/index.ts'
import { impliedLengths, type Names, type ValueKind } from './evaluate.ts'
import { type Node, parseExpression } from './parse.ts'

/**
 * Between a number and a unit that was written for the maker stands a space that does not break: so it is known, when the
 * part comes back to that unit, that the number stood alone, and it does again.
 */
const mark = '\u00a0'

interface Insertion {
  readonly at: number
  readonly text: string
}

/**
 * `text` with the unit `from` written to each bare number that was taken as a length, so that it keeps its value when the
 * part's unit changes. `kind` is what it gives: `free` whatever it does; `any` a text, whose lengths are shown in the part's
 * unit, and are asked for in `from` from then on.
 * @throws ProblemError where what is bare in it cannot be told
 */
export function withWrittenUnits(text: string, kind: ValueKind | 'any' | 'free', names: Names, from: PartUnit): string {
  const { taken, dimension } = impliedLengths(text, kind === 'any' ? 'free' : kind, names)
  const insertions = taken.flatMap((node) => lengthened(node, text, from))
  const written = [...insertions]
    .sort((a, b) => b.at - a.at)
    .reduce((out, { at, text: more }) => out.slice(0, at) + more + out.slice(at), text)
  // Shown as a plain number to as many places as a length would be.
  const said =
    kind === 'any' && sameDimension(dimension, length)
      ? `round((${written}) / 1${mark}${from}, ${shownStep[from]})`
      : written
  // It has become longer, and must still be one that can be read.
  parseExpression(said)
  return said
}

/** A length in a text is shown to so much of its unit. */
const shownStep: Readonly<Record<PartUnit, string>> = { mm: '0.001', in: '0.0001' }

/** What makes a bare number, or what is computed from such, a length. */
function lengthened(node: Node, text: string, unit: PartUnit): Insertion[] {
  const inBrackets = text[node.start] === '('
  if (node.kind === 'quantity' && !inBrackets) return [{ at: node.end, text: `${mark}${unit}` }]
  if (node.kind === 'negate' || node.kind === 'beside') return lengthened(node.of, text, unit)
  if (node.kind === 'binary' && (node.operator === '+' || node.operator === '-'))
    return [...lengthened(node.left, text, unit), ...lengthened(node.right, text, unit)]
  return [
    { at: node.start, text: '(' },
    { at: node.end, text: `) * 1${mark}${unit}` },
  ]
}

/** `text` without the units that `withWrittenUnits` wrote to it, where they are `unit`; as it is where there are none. */
export function withoutWrittenUnits(text: string, unit: PartUnit): string {
  const shown = new RegExp(`^round\\(\\((.*)\\) / 1${mark}${unit}, ${shownStep[unit].replace('.', '\\.')}\\)$`, 's')
  let out = shown.exec(text)?.[1] ?? text
  const computed = `) * 1${mark}${unit}`
  for (let end = out.indexOf(computed); end >= 0; end = out.indexOf(computed)) {
    const start = opening(out, end)
    if (start < 0) break
    out = out.slice(0, start) + out.slice(start + 1, end) + out.slice(end + computed.length)
  }
  return out.replace(new RegExp(`(?<=[\\d½⅓⅔¼¾⅕⅛⅜⅝⅞.])${mark}${unit}(?![\\p{L}\\p{N}_])`, 'gu'), '')
}

/** Where the bracket that closes at a place was opened; -1 where it was not. */
function opening(text: string, close: number): number {
  let depth = 0
  for (let i = close; i >= 0; i--) {
    if (text[i] === ')') depth++
    else if (text[i] === '(' && --depth === 0) return i
  }
  return -1
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
