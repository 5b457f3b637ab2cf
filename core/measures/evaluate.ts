import { ProblemError } from '../problems/index.ts'
import {
  angle,
  type Dimension,
  dimensionName,
  length,
  mmPer,
  type PartUnit,
  plain,
  rounded,
  sameDimension,
} from '../units/index.ts'
import { type Node, parseExpression } from './parse.ts'

/**
 * A number with what it measures. `bare` marks a number typed without a unit (or made of such): only these may become
 * a length in the part's unit, or an angle in degrees, where one is needed.
 */
export interface Value {
  readonly number: number
  readonly dimension: Dimension
  readonly bare: boolean
  /** a choice or a text: its words; `number` is then the choice's place among `choices`, from 1 */
  readonly word?: string
  readonly choices?: readonly string[]
}

/** What a field or a measure holds. `count` is a whole number, `ratio` any plain number. */
export type ValueKind = 'length' | 'angle' | 'count' | 'ratio'
export const valueKinds: readonly ValueKind[] = ['length', 'angle', 'count', 'ratio']

export interface Names {
  /** The part's unit: what a bare number means where a length is needed. */
  readonly unit: PartUnit
  /** @throws ProblemError unknown-name, cycle, depends-on-broken */
  resolve(name: string, at: readonly [number, number]): Value
  /** whether there is a value of this name, sound or not */
  has(name: string): boolean
}

export interface Evaluated {
  /** mm, degrees, or a plain number */
  readonly value: number
  /** names read, in the order of their first appearance */
  readonly uses: readonly string[]
}

/** What a word behind a size adds to it: a value by name, so many times; undefined of a word that means nothing there. */
export type Beside = (word: string) => { readonly name: string; readonly times: number } | undefined

const kindDimension: Readonly<Record<ValueKind, Dimension>> = { length, angle, count: plain, ratio: plain }

/**
 * The same sum written so that it is a difference, where a whole text is a mixed number as on a rule: who measures in inches means one
 * and a quarter by 1-1/4, and by 4-1/3 four and a third. Undefined where it can be read in one way only.
 */
export function asDifference(text: string, kind: ValueKind, { unit }: Pick<Names, 'unit'>): string | undefined {
  if (kind !== 'length' || unit !== 'in') return undefined
  const [, whole, over, under] = /^\s*(\d+)-(\d+)\/(\d+)\s*$/.exec(text) ?? []
  return whole !== undefined && Number(over) < Number(under) ? `${whole} - ${over}/${under}` : undefined
}

function isRuled(text: string, kind: ValueKind, names: Names): boolean {
  return asDifference(text, kind, names) !== undefined
}

/**
 * `beside` tells what a word behind the size means.
 * @throws ProblemError naming the offending word by its range
 */
export function evaluate(text: string, kind: ValueKind, names: Names, beside?: Beside): Evaluated {
  const work = new Evaluation(names, false, beside)
  const tree = isRuled(text, kind, names) ? parseExpression(`${text}"`) : parseExpression(text)
  const wanted = kindDimension[kind]
  const raw = work.taken(work.value(tree), tree, wanted)
  const whole: readonly [number, number] = [0, text.length]
  if (!sameDimension(raw.dimension, wanted))
    throw new ProblemError(
      'wrong-kind',
      { expected: dimensionName(wanted), given: dimensionName(raw.dimension) },
      whole,
    )
  if (!Number.isFinite(raw.number)) throw new ProblemError('not-finite', {}, whole)
  if (kind === 'count' && Math.abs(raw.number - Math.round(raw.number)) > 1e-9)
    throw new ProblemError('not-whole', { value: raw.number }, whole)
  return {
    value: kind === 'count' ? Math.round(raw.number) : raw.number,
    uses: [...work.uses],
  }
}

/**
 * The value of an expression of any dimension.
 * @throws ProblemError naming the offending word by its range
 */
export function evaluateFree(text: string, names: Names): Pick<Evaluated, 'uses'> & { readonly value: Value } {
  const work = new Evaluation(names)
  const value = work.any(parseExpression(text))
  if (!Number.isFinite(value.number)) throw new ProblemError('not-finite', {}, [0, text.length])
  return { value, uses: [...work.uses] }
}

/**
 * The parts of an expression that were taken as a length in the part's unit, being bare numbers, and what the whole of it
 * measures. Only dimensions matter here: what cannot be computed for its numbers alone, as a division by zero, is no hindrance.
 * @throws ProblemError
 */
export function impliedLengths(
  text: string,
  kind: ValueKind | 'free',
  names: Names,
): { readonly taken: readonly Node[]; readonly dimension: Dimension } {
  if (kind !== 'free' && isRuled(text, kind, names)) {
    const tree = parseExpression(`${text}"`)
    return { taken: [{ ...tree, end: text.trimEnd().length }], dimension: length }
  }
  const work = new Evaluation(names, true)
  const tree = parseExpression(text)
  const value = work.any(tree)
  const wanted = kind === 'free' ? value.dimension : kindDimension[kind]
  const { dimension } = work.taken(value, tree, wanted)
  if (!sameDimension(dimension, wanted))
    throw new ProblemError('wrong-kind', { expected: dimensionName(wanted), given: dimensionName(dimension) })
  return { taken: work.impliedLength, dimension }
}

class Evaluation {
  readonly uses = new Set<string>()
  readonly impliedLength: Node[] = []
  private readonly names: Names
  private readonly dimensionsOnly: boolean
  private readonly beside: Beside | undefined

  /** `dimensionsOnly`: its numbers do not matter and may be anything. */
  constructor(names: Names, dimensionsOnly = false, beside?: Beside) {
    this.names = names
    this.dimensionsOnly = dimensionsOnly
    this.beside = beside
  }

  /** A value to calculate with. */
  value(node: Node): Value {
    const value = this.any(node)
    if (value.word !== undefined)
      throw new ProblemError('word-in-arithmetic', { word: value.word }, [node.start, node.end])
    return value
  }

  any(node: Node): Value {
    switch (node.kind) {
      case 'quantity':
        return { number: node.value, dimension: node.dimension, bare: node.bare }
      case 'name':
        if (node.name === 'pi') return { number: Math.PI, dimension: plain, bare: false }
        this.uses.add(node.name)
        return this.names.resolve(node.name, [node.start, node.end])
      case 'negate': {
        const of = this.value(node.of)
        return { ...of, number: -of.number }
      }
      case 'binary':
        return this.binary(node)
      case 'call':
        return this.call(node)
      case 'beside':
        return this.withWord(node)
    }
  }

  /** A size with what the word behind it adds. */
  private withWord({ of, word, end }: Extract<Node, { kind: 'beside' }>): Value {
    const at: readonly [number, number] = [end - word.length, end]
    const size = this.taken(this.value(of), of, length)
    if (this.dimensionsOnly) return size
    const more = this.beside?.(word)
    if (!more) {
      if (this.names.has(word)) throw new ProblemError('word-behind', { name: word }, at)
      if (of.kind === 'quantity' && of.bare) throw new ProblemError('unknown-unit', { name: word }, at)
      throw new ProblemError('expression-syntax', { detail: 'an operator is missing between two values' }, at)
    }
    this.uses.add(more.name)
    const each = this.names.resolve(more.name, at)
    if (!sameDimension(size.dimension, each.dimension))
      throw new ProblemError(
        'mixed-kinds',
        { left: dimensionName(size.dimension), right: dimensionName(each.dimension), operator: word },
        at,
      )
    return { number: size.number + more.times * each.number, dimension: size.dimension, bare: false }
  }

  /** `value` as `wanted` where it is a bare number and something with a dimension is wanted. */
  taken(value: Value, node: Node, wanted: Dimension): Value {
    if (!value.bare || sameDimension(value.dimension, wanted)) return value
    if (sameDimension(wanted, length)) {
      this.impliedLength.push(node)
      return { number: value.number * mmPer(this.names.unit), dimension: length, bare: false }
    }
    if (sameDimension(wanted, angle)) return { number: value.number, dimension: angle, bare: false }
    return value
  }

  /** Several operands of one sum or comparison, brought to one dimension. */
  private alike(nodes: readonly Node[], operator: string): { values: Value[]; dimension: Dimension } {
    const raw = nodes.map((node) => this.value(node))
    const leading = raw.find((value) => !value.bare) ?? raw[0]!
    const values = raw.map((value, i) => this.taken(value, nodes[i]!, leading.dimension))
    const odd = values.findIndex((value) => !sameDimension(value.dimension, leading.dimension))
    if (odd >= 0)
      throw new ProblemError(
        'mixed-kinds',
        { left: dimensionName(leading.dimension), right: dimensionName(values[odd]!.dimension), operator },
        [nodes[odd]!.start, nodes[odd]!.end],
      )
    return { values, dimension: leading.dimension }
  }

  private binary(node: Extract<Node, { kind: 'binary' }>): Value {
    if (node.operator === '+' || node.operator === '-') {
      const { values, dimension } = this.alike([node.left, node.right], node.operator)
      const [a, b] = values as [Value, Value]
      return {
        number: node.operator === '+' ? a.number + b.number : a.number - b.number,
        dimension,
        bare: a.bare && b.bare,
      }
    }
    const a = this.value(node.left)
    const b = this.value(node.right)
    // A bare number times a ratio is still a bare number: "10 * sin(tilt)" may stand where a length is needed.
    const flat = sameDimension(a.dimension, plain) && sameDimension(b.dimension, plain)
    const bare = flat && (a.bare || b.bare)
    switch (node.operator) {
      case '*':
        return { number: a.number * b.number, dimension: summed(a.dimension, b.dimension, 1), bare }
      case '/':
        if (b.number === 0 && !this.dimensionsOnly)
          throw new ProblemError('division-by-zero', {}, [node.right.start, node.right.end])
        return { number: a.number / b.number, dimension: summed(a.dimension, b.dimension, -1), bare }
      case '^':
        return power(a, b, node, bare, this.dimensionsOnly)
    }
  }

  private call(node: Extract<Node, { kind: 'call' }>): Value {
    const definition = Object.hasOwn(functions, node.name) ? functions[node.name] : undefined
    const word: readonly [number, number] = [node.start, node.start + node.name.length]
    if (!definition)
      throw new ProblemError('unknown-function', { name: node.name, known: Object.keys(functions).join(', ') }, word)
    if (node.args.length < definition.least || node.args.length > definition.most)
      throw new ProblemError(
        'wrong-argument-count',
        { name: node.name, expected: argumentCount(definition), given: node.args.length },
        word,
      )
    if (node.name === 'pick') return this.picked(node)
    const { values, dimension } =
      definition.takes === 'alike'
        ? this.alike(node.args, node.name)
        : { values: node.args.map((arg) => this.converted(arg, definition.takes as Dimension)), dimension: plain }
    const number = definition.of(values.map((value) => value.number))
    if (!Number.isFinite(number) && !this.dimensionsOnly)
      throw new ProblemError('not-finite', {}, [node.start, node.end])
    const gives = definition.gives === 'alike' ? dimension : definition.gives
    return { number, dimension: gives, bare: sameDimension(gives, plain) && values.every((value) => value.bare) }
  }

  /** `pick(size, 4, 5, 6)`: the value that belongs to what was chosen, or to a number from 1. */
  private picked({ args, start, end }: Extract<Node, { kind: 'call' }>): Value {
    const [by, ...options] = args
    const chosen = this.any(by!)
    const given = chosen.choices?.length
    if (chosen.word !== undefined && given !== options.length)
      throw new ProblemError('pick-unlike', { given: given ?? 0, values: options.length }, [start, end])
    const { values, dimension } = this.alike(options, 'pick')
    const value = values[chosen.number - 1] ?? (this.dimensionsOnly ? values[0] : undefined)
    if (!value) throw new ProblemError('pick-outside', { number: chosen.number, count: options.length }, [start, end])
    return { number: value.number, dimension, bare: value.bare }
  }

  private converted(node: Node, wanted: Dimension): Value {
    const raw = this.value(node)
    const value = this.taken(raw, node, wanted)
    if (!sameDimension(value.dimension, wanted))
      throw new ProblemError('wrong-kind', { expected: dimensionName(wanted), given: dimensionName(value.dimension) }, [
        node.start,
        node.end,
      ])
    // "bare" lives on through a function of a bare number, so that 10*sin(30) can be a length
    return { ...value, bare: raw.bare }
  }
}

function summed(a: Dimension, b: Dimension, sign: 1 | -1): Dimension {
  return { length: a.length + sign * b.length, angle: a.angle + sign * b.angle }
}

function power(
  a: Value,
  b: Value,
  node: Extract<Node, { kind: 'binary' }>,
  bare: boolean,
  dimensionsOnly: boolean,
): Value {
  if (!sameDimension(b.dimension, plain))
    throw new ProblemError('wrong-kind', { expected: 'a plain number', given: dimensionName(b.dimension) }, [
      node.right.start,
      node.right.end,
    ])
  const number = a.number ** b.number
  if (!Number.isFinite(number) && !dimensionsOnly) throw new ProblemError('not-finite', {}, [node.start, node.end])
  return {
    number,
    dimension: { length: a.dimension.length * b.number, angle: a.dimension.angle * b.number },
    bare,
  }
}

interface FunctionDefinition {
  readonly least: number
  readonly most: number
  readonly takes: Dimension | 'alike'
  readonly gives: Dimension | 'alike'
  of(numbers: readonly number[]): number
}
const one = (
  takes: Dimension | 'alike',
  gives: Dimension | 'alike',
  of: (x: number) => number,
): FunctionDefinition => ({
  least: 1,
  most: 1,
  takes,
  gives,
  of: ([x]) => of(x!),
})
// Rounded in the fifteenth place, so that sin(30) is 0.5 and cos(90) is 0 as a maker expects.
const tidy = (x: number) => Math.round(x * 1e15) / 1e15
const radians = (degrees: number) => (degrees * Math.PI) / 180
const degrees = (rad: number) => (rad * 180) / Math.PI

/** Functions an expression may call. Angles go in and come out in degrees. */
export const functions: Readonly<Record<string, FunctionDefinition>> = {
  min: { least: 1, most: 16, takes: 'alike', gives: 'alike', of: (n) => Math.min(...n) },
  max: { least: 1, most: 16, takes: 'alike', gives: 'alike', of: (n) => Math.max(...n) },
  // Rounding to a step keeps its meaning for lengths: round(7.3 mm, 0.5 mm). With one value: whole mm, degrees, numbers.
  round: {
    least: 1,
    most: 2,
    takes: 'alike',
    gives: 'alike',
    of: ([x, step = 1]) => (step === 0 ? Number.NaN : rounded(x! / step) * step),
  },
  pick: { least: 2, most: 61, takes: 'alike', gives: 'alike', of: ([x]) => x! },
  floor: one('alike', 'alike', Math.floor),
  ceil: one('alike', 'alike', Math.ceil),
  abs: one('alike', 'alike', Math.abs),
  hypot: { least: 1, most: 3, takes: 'alike', gives: 'alike', of: (n) => Math.hypot(...n) },
  sqrt: one(plain, plain, Math.sqrt),
  sin: one(angle, plain, (x) => tidy(Math.sin(radians(x)))),
  cos: one(angle, plain, (x) => tidy(Math.cos(radians(x)))),
  tan: one(angle, plain, (x) => tidy(Math.sin(radians(x))) / tidy(Math.cos(radians(x)))),
  asin: one(plain, angle, (x) => degrees(Math.asin(x))),
  acos: one(plain, angle, (x) => degrees(Math.acos(x))),
  atan: one(plain, angle, (x) => degrees(Math.atan(x))),
}

function argumentCount({ least, most }: FunctionDefinition): string {
  if (least === most) return least === 1 ? 'one value' : `${least} values`
  return `${least} to ${most} values`
}
