import { ProblemError } from '../problems/index.ts'
import { evaluateFree, type Names } from './evaluate.ts'

/**
 * Conditions: `yes`, `no`, a switch by its name, `not` before it, two values compared with < > ≤ ≥ = ≠ (also <= >= !=),
 * joined by `and` and `or`; `and` binds closer. A number stands for yes where it is not 0.
 *
 *   lid and wall >= 2 or not drain
 *
 * What holds words (a choice, a text) is compared with words: `size = M5`, `label ≠ ""`.
 */
export function holds(text: string, names: Names): boolean {
  if (text.trim() === '') throw new ProblemError('expression-empty', {})
  return parts(text, 'or').some((either) => parts(either, 'and').every((part) => clause(part, names)))
}

/** The condition with each value in it put through `change`, which is told what the value is compared with. */
export function mapCondition(text: string, change: (value: string, other: string | undefined) => string): string {
  const pieces = text.split(/(\bor\b|\band\b|\bnot\b|<=|>=|!=|[<>≤≥=≠])/)
  const compares = (sign: string | undefined) => sign !== undefined && comparisons[sign] !== undefined
  return pieces
    .map((piece, i) => {
      if (i % 2 === 1 || /^\s*(yes|no)?\s*$/.test(piece)) return piece
      const other = compares(pieces[i - 1]) ? pieces[i - 2] : compares(pieces[i + 1]) ? pieces[i + 2] : undefined
      const [, before = '', value = '', after = ''] = /^(\s*)(.*?)(\s*)$/s.exec(piece) ?? []
      return before + change(value, other?.trim()) + after
    })
    .join('')
}

function parts(text: string, word: 'and' | 'or'): string[] {
  return text.split(new RegExp(`\\b${word}\\b`))
}

const comparisons: Readonly<Record<string, (difference: number) => boolean>> = {
  '<': (d) => d < -nearly,
  '>': (d) => d > nearly,
  '<=': (d) => d <= nearly,
  '≤': (d) => d <= nearly,
  '>=': (d) => d >= -nearly,
  '≥': (d) => d >= -nearly,
  '=': (d) => Math.abs(d) <= nearly,
  '!=': (d) => Math.abs(d) > nearly,
  '≠': (d) => Math.abs(d) > nearly,
}
/** Two values nearer than this are equal: they were computed, not typed. */
const nearly = 1e-9

function clause(text: string, names: Names): boolean {
  const [, not, rest = ''] = /^\s*(not\b)?(.*)$/s.exec(text) ?? []
  const value = bare(rest.trim(), names)
  return not ? !value : value
}

function bare(text: string, names: Names): boolean {
  if (text === 'yes' || text === 'no') return text === 'yes'
  const [left, sign, right, ...more] = text.split(/(<=|>=|!=|[<>≤≥=≠])/)
  if (more.length > 0) throw new ProblemError('condition-unclear', {})
  if (sign === undefined) return evaluateFree(text, names).value.number !== 0
  const words = wordsOf(left!.trim(), names)
  if (words) return comparedWords(words, sign, right!.trim(), names)
  // As a difference, so that both sides must measure the same, and a bare number takes the other side's dimension.
  return comparisons[sign]!(evaluateFree(`(${left}) - (${right})`, names).value.number)
}

/** What is on the left of a comparison, where it holds words. */
function wordsOf(
  text: string,
  names: Names,
): { readonly word: string; readonly choices?: readonly string[] } | undefined {
  if (!names.has(text)) return undefined
  const { word, choices } = names.resolve(text, [0, text.length])
  return word === undefined ? undefined : choices ? { word, choices } : { word }
}

function comparedWords(
  { word, choices }: { readonly word: string; readonly choices?: readonly string[] },
  sign: string,
  right: string,
  names: Names,
): boolean {
  if (sign !== '=' && sign !== '!=' && sign !== '≠') throw new ProblemError('words-unordered', { word })
  const plain = right.replace(/^["“”](.*)["“”]$/s, '$1')
  const other = wordsOf(right, names)?.word ?? plain
  if (choices && !choices.includes(other))
    throw new ProblemError('choice-unknown', { value: other, known: choices.join(', ') })
  return (word === other) === (sign === '=')
}
