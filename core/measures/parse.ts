import jsep from 'jsep'
import { ProblemError } from '../problems/index.ts'
import { angle, angleUnits, type Dimension, length, lengthUnits, plain } from '../units/index.ts'

/**
 * Expressions as a small tree. The words come from the `jsep` parser, taught two token kinds through its hooks:
 *
 *   quantity   12.5   12,5   1e-3   3/8"   1/4 in   1 1/4 in   1-1/4 in   1½ in   5 inches   6'   45°
 *              (number, fraction or mixed number, with a unit)
 *   name       wall   bolt_2   größe                            (a measure, a fit or a function)
 *
 * Anything that is not arithmetic (assignment, member access, comparison, strings…) is refused here, so that an
 * evaluator need not know of it. `start` and `end` are positions in the text, for messages and for rewriting; brackets round
 * a part of something larger belong to that part.
 */
export type Node = (
  | { readonly kind: 'quantity'; readonly value: number; readonly dimension: Dimension; readonly bare: boolean }
  | { readonly kind: 'name'; readonly name: string }
  | { readonly kind: 'call'; readonly name: string; readonly args: readonly Node[] }
  | { readonly kind: 'negate'; readonly of: Node }
  | { readonly kind: 'binary'; readonly operator: Operator; readonly left: Node; readonly right: Node }
  /** a word behind a whole expression: "8 slide" */
  | { readonly kind: 'beside'; readonly of: Node; readonly word: string }
) & { readonly start: number; readonly end: number }

export type Operator = '+' | '-' | '*' | '/' | '^'

export const expressionLimits = { characters: 400, depth: 32 } as const

const unitWords = Object.keys({ ...lengthUnits, ...angleUnits })
/** Further ways to write a unit, right behind a number only: elsewhere they are names as good as any. */
const unitNames: Readonly<Record<string, keyof typeof lengthUnits | keyof typeof angleUnits>> = {
  ...{ millimetre: 'mm', millimetres: 'mm', millimeter: 'mm', millimeters: 'mm', mms: 'mm' },
  ...{ centimetre: 'cm', centimetres: 'cm', centimeter: 'cm', centimeters: 'cm' },
  ...{ metre: 'm', metres: 'm', meter: 'm', meters: 'm' },
  ...{ inches: 'in', ins: 'in', '″': 'in', '”': 'in', "''": 'in' },
  ...{ foot: 'ft', feet: 'ft', "'": 'ft', '′': 'ft', '’': 'ft' },
  ...{ degree: 'deg', degrees: 'deg', radians: 'rad', turns: 'turn' },
}
export const reservedWords: ReadonlySet<string> = new Set([...unitWords, 'pi'])

const numberPattern = '(?:\\d+(?:\\.\\d*)?|\\.\\d+)(?:[eE][+-]?\\d+)?'
const unitPattern = `(?:''|["°″”'′’]|[a-zA-Z]+)`
// mixed: "1 1/4 in"; fraction: "1/4 in" (a fraction only where a unit follows, else it is a division); plain: "12 mm", "12"
const mixed = new RegExp(`(\\d+) (\\d+)/(\\d+)(?:\\s*(${unitPattern}))?(?![\\p{L}\\p{N}_])`, 'uy')
const fraction = new RegExp(`(\\d+)/(\\d+)\\s*(${unitPattern})(?![\\p{L}\\p{N}_(])`, 'uy')
// "1-1/4 in": a dash without spaces before a fraction with a unit joins the two, as on a rule.
const dashed = new RegExp(`(\\d+)-(\\d+)/(\\d+)\\s*(${unitPattern})(?![\\p{L}\\p{N}_(])`, 'uy')
const vulgar = new RegExp(`(?:(\\d+) ?)?([½⅓⅔¼¾⅕⅛⅜⅝⅞])(?:\\s*(${unitPattern}))?`, 'uy')
const vulgars: Readonly<Record<string, readonly [number, number]>> = {
  ...{ '½': [1, 2], '⅓': [1, 3], '⅔': [2, 3], '¼': [1, 4], '¾': [3, 4], '⅕': [1, 5] },
  ...{ '⅛': [1, 8], '⅜': [3, 8], '⅝': [5, 8], '⅞': [7, 8] },
}
const number = new RegExp(`(${numberPattern})(?:\\s*(${unitPattern}))?`, 'uy')
const name = /[\p{L}_][\p{L}\p{N}_]*/uy

interface RawNode extends jsep.Expression {
  start?: number
  end?: number
}
interface Gobbler {
  readonly expr: string
  index: number
  gobbleTokenProperty(node: RawNode): RawNode
}

jsep.removeAllBinaryOps()
jsep.removeAllUnaryOps()
jsep.removeAllLiterals()
for (const [sign, precedence] of [
  ['+', 9],
  ['-', 9],
  ['−', 9],
  ['*', 10],
  ['×', 10],
  ['·', 10],
  ['/', 10],
  ['÷', 10],
] as const)
  jsep.addBinaryOp(sign, precedence)
jsep.addBinaryOp('^', 11, true)
for (const sign of ['-', '−', '+']) jsep.addUnaryOp(sign)

const operators: Readonly<Record<string, Operator>> = {
  '+': '+',
  '-': '-',
  '−': '-',
  '*': '*',
  '×': '*',
  '·': '*',
  '/': '/',
  '÷': '/',
  '^': '^',
}

jsep.hooks.add('gobble-token', function (this: unknown, env) {
  const at = this as Gobbler
  const start = at.index
  const quantity = readQuantity(at.expr, start)
  if (quantity) {
    at.index = quantity.end
    env.node = { type: 'Quantity', ...quantity }
    return
  }
  name.lastIndex = start
  const word = name.exec(at.expr)?.[0]
  if (word) {
    at.index = start + word.length
    env.node = at.gobbleTokenProperty({ type: 'Identifier', name: word, start, end: at.index })
    if (env.node.start === undefined) Object.assign(env.node, { start, end: at.index })
  }
})

function readQuantity(text: string, start: number) {
  for (const pattern of [mixed, dashed, vulgar, fraction, number]) pattern.lastIndex = start
  let match = dashed.exec(text)
  if (match && isUnit(match[4]!) && Number(match[2]) < Number(match[3])) {
    const under = divisor(match[3]!)
    return quantityNode(start, match[0], Number(match[1]) * under + Number(match[2]), match[4], under)
  }
  match = vulgar.exec(text)
  if (match && (!match[3] || isUnit(match[3]))) {
    const [over, under] = vulgars[match[2]!]!
    return quantityNode(start, match[0], Number(match[1] ?? 0) * under + over, match[3], under)
  }
  match = mixed.exec(text)
  if (match && (!match[4] || isUnit(match[4]))) {
    const under = divisor(match[3]!)
    return quantityNode(start, match[0], Number(match[1]) * under + Number(match[2]), match[4], under)
  }
  match = fraction.exec(text)
  if (match && isUnit(match[3]!)) return quantityNode(start, match[0], Number(match[1]), match[3], divisor(match[2]!))
  match = number.exec(text)
  if (!match) return undefined
  const unit = match[2]
  // A name right behind a number is a product that was not written out, or a unit mistyped.
  if (unit && !isUnit(unit)) {
    const at = start + match[0].length - unit.length
    throw new ProblemError('unknown-unit', { name: unit }, [at, at + unit.length])
  }
  return quantityNode(start, match[0], Number(match[1]), unit)
}

function divisor(text: string): number {
  if (Number(text) === 0) throw new ProblemError('division-by-zero', {})
  return Number(text)
}

function isUnit(word: string): boolean {
  return unitWords.includes(word) || Object.hasOwn(unitNames, word)
}

/** Divides last: 3/8" is 3 × 25.4 ÷ 8 = 9.525 exactly, where 0.375 × 25.4 is not. */
function quantityNode(start: number, text: string, value: number, unit: string | undefined, under = 1) {
  const known = unit && (unitNames[unit] ?? unit)
  const scale = known ? { ...lengthUnits, ...angleUnits }[known as keyof typeof lengthUnits] : 1
  const dimension = !known ? plain : known in lengthUnits ? length : angle
  return { value: (value * scale) / under, dimension, bare: !unit, start, end: start + text.trimEnd().length }
}

/** Trees of the texts read lately: with each keystroke all expressions of a part are read, and hardly one is new. */
const known = new Map<string, Node>()
const mostKnown = 4000

/** @throws ProblemError expression-empty, -too-long, -too-deep, -syntax, -not-arithmetic, unknown-unit, division-by-zero */
export function parseExpression(text: string): Node {
  const before = known.get(text)
  if (before) return before
  const tree = parsed(text)
  if (known.size >= mostKnown) known.clear()
  known.set(text, tree)
  return tree
}

function parsed(text: string): Node {
  if (text.trim() === '') throw new ProblemError('expression-empty', {})
  if (text.length > expressionLimits.characters)
    throw new ProblemError('expression-too-long', { limit: expressionLimits.characters })
  if (nesting(text) > expressionLimits.depth)
    throw new ProblemError('expression-too-deep', { limit: expressionLimits.depth })
  return besideWord(text) ?? simplified(rawTree(withPoints(text)), text)
}

/** An expression with a word behind it that is no unit; what the word means, its reader knows. */
function besideWord(text: string): Node | undefined {
  const [, head, gap, word] = /^(.*[^\s(,+*/^×·÷−-])(\s+)([\p{L}_][\p{L}\p{N}_]*)\s*$/su.exec(text) ?? []
  if (head === undefined || gap === undefined || word === undefined || isUnit(word) || word === 'pi') return undefined
  const of = parsed(head)
  if (of.kind === 'beside')
    throw new ProblemError('expression-syntax', { detail: 'an operator is missing between two values' }, [
      of.end - of.word.length,
      of.end,
    ])
  return { kind: 'beside', of, word, start: of.start, end: head.length + gap.length + word.length }
}

/**
 * Decimal commas as points, position for position. Between the values of a function a comma separates them; and "1,234"
 * may be meant either way, so it is asked back.
 */
function withPoints(text: string): string {
  if (!text.includes(',')) return text
  const calls: boolean[] = []
  const out = text.split('')
  out.forEach((c, i) => {
    if (c === '(') calls.push(/[\p{L}\p{N}_]\s*$/u.test(text.slice(0, i)))
    else if (c === ')') calls.pop()
    if (c !== ',' || calls.at(-1)) return
    const before = /(?:^|[^\d.,])(\d*)$/.exec(text.slice(0, i))?.[1]
    const after = /^(\d+)(?![\d.,])/.exec(text.slice(i + 1))?.[1]
    if (before === undefined || after === undefined) return
    if (after.length === 3 && /^[1-9]\d{0,2}$/.test(before)) {
      const typed = `${before},${after}`
      const detail = `“${typed}” can be meant in two ways; write ${before}.${after} or ${before}${after}`
      throw new ProblemError('expression-syntax', { detail }, [i - before.length, i + 1 + after.length])
    }
    out[i] = '.'
  })
  return out.join('')
}

function nesting(text: string): number {
  let depth = 0
  let deepest = 0
  for (const c of text) {
    // A chain of signs nests as brackets do.
    if (c === '(') deepest = Math.max(deepest, ++depth)
    else if (c === ')') depth--
  }
  return Math.max(deepest, ...(text.match(/(?:[-−+]\s*)+/g) ?? []).map((signs) => signs.replace(/\s/g, '').length))
}

function rawTree(text: string): RawNode {
  try {
    return jsep(text)
  } catch (error) {
    if (error instanceof ProblemError) throw error
    const { description, index } = error as { description?: string; index?: number }
    const at = Math.min(index ?? 0, text.length)
    throw new ProblemError(
      'expression-syntax',
      { detail: plainDetail(description, text, at) },
      at < text.length ? [at, at + 1] : undefined,
    )
  }
}

function plainDetail(description: string | undefined, text: string, at: number): string {
  if (at >= text.trimEnd().length) return 'it stops too early'
  if (description?.startsWith('Unclosed')) return 'a bracket is not closed'
  return `“${text.slice(at, at + 1)}” does not belong here`
}

function refused(word: string, node: RawNode): never {
  const at = node.start === undefined ? undefined : ([node.start, node.end ?? node.start + 1] as const)
  throw new ProblemError('expression-not-arithmetic', { word }, at)
}

function simplified(node: RawNode, text: string): Node {
  switch (node.type) {
    case 'Quantity': {
      const { value, dimension, bare, start, end } = node as unknown as Extract<Node, { kind: 'quantity' }>
      return { kind: 'quantity', value, dimension, bare, start, end }
    }
    case 'Identifier':
      return { kind: 'name', name: String(node.name), start: node.start!, end: node.end! }
    case 'CallExpression': {
      const callee = node.callee as RawNode
      if (callee.type !== 'Identifier') refused('( )', node)
      const args = (node.arguments as RawNode[]).map((arg) => inBrackets(simplified(arg, text), text))
      const end = closing(text, text.indexOf('(', callee.end!)) + 1
      return { kind: 'call', name: String(callee.name), args, start: callee.start!, end }
    }
    case 'UnaryExpression': {
      const of = inBrackets(simplified(node.argument as RawNode, text), text)
      const start = Math.max(0, text.slice(0, of.start).search(/[-−+]\s*$/))
      return operators[String(node.operator)] === '-' ? { kind: 'negate', of, start, end: of.end } : of
    }
    case 'BinaryExpression': {
      const left = inBrackets(simplified(node.left as RawNode, text), text)
      const right = inBrackets(simplified(node.right as RawNode, text), text)
      const operator = operators[String(node.operator)]
      if (!operator) refused(String(node.operator), node)
      return { kind: 'binary', operator, left, right, start: left.start, end: right.end }
    }
    case 'Compound':
      throw new ProblemError(
        'expression-syntax',
        { detail: 'an operator is missing between two values' },
        secondWord(node, text),
      )
    case 'MemberExpression':
      return refused('.', node)
    default:
      return refused(text.trim(), node)
  }
}

/** The node with the brackets that stand round it alone; those of a call belong to the call. */
function inBrackets<N extends Node>(node: N, text: string): N {
  let { start, end } = node
  for (;;) {
    const before = text.slice(0, start).search(/\(\s*$/)
    const after = /^\s*\)/.exec(text.slice(end))
    if (before < 0 || !after || /[\p{L}\p{N}_]\s*$/u.test(text.slice(0, before))) return { ...node, start, end }
    start = before
    end += after[0].length
  }
}

/** Where the bracket that opens at a place is closed. */
function closing(text: string, open: number): number {
  let depth = 0
  for (let i = open; i < text.length; i++) {
    if (text[i] === '(') depth++
    else if (text[i] === ')' && --depth === 0) return i
  }
  return text.length - 1
}

function secondWord(node: RawNode, text: string): [number, number] | undefined {
  const second = (node.body as RawNode[] | undefined)?.[1]
  return second?.start === undefined ? undefined : [second.start, Math.min(second.end ?? second.start + 1, text.length)]
}
