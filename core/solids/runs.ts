import Flatbush from 'flatbush'
import { type OperationDefinition, operations } from '../operations/index.ts'
import { type Box, meet } from '../place/index.ts'
import { adds, type Operand } from '../planning/index.ts'

/** Operands that act together in one operation. */
export interface Run {
  readonly operation: OperationDefinition
  readonly operands: readonly Operand[]
}

/** Boxes nearer than this count as meeting, mm: cuts reach a little out of their faces. */
export const nearness = 0.1

/**
 * The operands gathered into few operations. Two that stand one after the other may change places when they do the same or
 * do not meet; what acts on all that stands (a keep, most treatments) changes places with nothing. Two uses are made of that:
 *
 *  - operations of one kind are gathered, so that a long sheet falls into few runs;
 *  - what is being edited (`recentlyEdited`), and what hangs on it, goes last:
 *
 *        early: everything else                     | late: recentlyEdited, and what must follow it
 *        add add add …  →  cut cut cut cut …        | add  →  cut
 *        built once while the edit goes on          | built for each keystroke
 */
export function runsOf(operands: readonly Operand[], recentlyEdited: ReadonlySet<string>): Run[] {
  const late = lateOperands(operands, recentlyEdited)
  const early = operands.filter((operand) => !late.has(operand))
  // Without material to begin with there is no early part.
  if (!early[0] || !adds(early[0]) || late.size === 0) return gathered(operands, false)
  const last = operands.filter((operand) => late.has(operand))
  return [...gathered(early, false), ...gathered(last, true)]
}

/** Those that are being edited, and those behind them that may not change places with one of these. */
function lateOperands(operands: readonly Operand[], recentlyEdited: ReadonlySet<string>): ReadonlySet<Operand> {
  const late = new Set<Operand>()
  if (recentlyEdited.size === 0) return late
  const order = new Order(operands)
  for (const [i, operand] of operands.entries())
    if (isRecentlyEdited(operand, recentlyEdited) || order.anyHolding(i, (before) => late.has(operands[before]!)))
      late.add(operand)
  return late
}

function isRecentlyEdited(operand: Operand, recentlyEdited: ReadonlySet<string>): boolean {
  return (
    recentlyEdited.has(operand.step.id) ||
    (operand.kind === 'body' &&
      operand.body.kind === 'bundle' &&
      operand.body.operands.some((inner) => isRecentlyEdited(inner, recentlyEdited)))
  )
}

/** Whether it goes on to what stands before it; then it keeps its place in the order. */
export function meetsOthers(operand: Operand): boolean {
  if (operand.kind !== 'body') return false
  const { body } = operand
  return body.kind === 'shape' ? body.shape.meets === true : body.operands.some(meetsOthers)
}

/** Whether it keeps its place among all others. */
function isBarrier(operand: Operand): boolean {
  return operand.kind === 'body' ? !operand.operation.gathers || meetsOthers(operand) : operand.box === undefined
}

function gathers(operand: Operand): boolean {
  return operand.kind === 'body' && operand.operation.gathers
}

/** Which operands of a list hold others back. Only those whose boxes are near are looked at (a tree of boxes). */
class Order {
  readonly #operands: readonly Operand[]
  readonly #barriers: readonly boolean[]
  /** places of the barriers */
  readonly #kept: readonly number[]
  readonly #tree: Flatbush | undefined
  /** place in the tree -> place in the list */
  readonly #boxed: readonly number[]

  constructor(operands: readonly Operand[]) {
    this.#operands = operands
    this.#barriers = operands.map(isBarrier)
    this.#kept = operands.flatMap((_, i) => (this.#barriers[i] ? [i] : []))
    this.#boxed = operands.flatMap(({ box }, i) => (box && !this.#barriers[i] ? [i] : []))
    if (this.#boxed.length === 0) return
    this.#tree = new Flatbush(this.#boxed.length)
    for (const i of this.#boxed) {
      const { min, max } = operands[i]!.box!
      this.#tree.add(min[0], min[1], max[0], max[1])
    }
    this.#tree.finish()
  }

  /** Calls `each` with those before operand `i` that may not change places with it. */
  holding(i: number, each: (before: number) => void): void {
    const operand = this.#operands[i]!
    if (this.#barriers[i]) {
      for (let before = 0; before < i; before++) each(before)
      return
    }
    for (const before of this.#kept) {
      if (before >= i) break
      each(before)
    }
    const { min, max } = operand.box as Box
    this.#tree!.search(min[0] - nearness, min[1] - nearness, max[0] + nearness, max[1] + nearness, (place) => {
      const before = this.#boxed[place]!
      const other = this.#operands[before]!
      const alike = other.operation === operand.operation && gathers(operand)
      if (before < i && !alike && meet(other.box!, operand.box!, nearness)) each(before)
      return false
    })
  }

  anyHolding(i: number, is: (before: number) => boolean): boolean {
    let any = false
    this.holding(i, (before) => {
      any ||= is(before)
    })
    return any
  }
}

/**
 * The fewest turns that keep the order of those that may not change places: all of the first kind that nothing before
 * them holds back, then all of the second, and so on. Begins with the kind of the first operand or, where something stands
 * already (`onSolid`), with the one that takes fewer runs.
 */
function gathered(operands: readonly Operand[], onSolid: boolean): Run[] {
  const order = new Order(operands)
  const all = operations.filter((operation) => operation.acts === 'with-body' && operation.gathers)
  const first = Math.max(0, all.indexOf(operands[0]?.operation as OperationDefinition))
  const beginning = (at: number) => turns(operands, order, [...all.slice(at), ...all.slice(0, at)])
  let best = beginning(first)
  if (!onSolid) return best
  for (let i = 1; i < all.length; i++) {
    const other = beginning((first + i) % all.length)
    if (other.length < best.length) best = other
  }
  return best
}

/** Kinds take turns, over and over; what does not gather goes alone, between two turns. */
function turns(operands: readonly Operand[], order: Order, kinds: readonly OperationDefinition[]): Run[] {
  const turnOf: number[] = []
  for (const [i, operand] of operands.entries()) {
    let after = -1
    order.holding(i, (before) => {
      after = Math.max(after, turnOf[before]!)
    })
    if (gathers(operand)) {
      const own = kinds.indexOf(operand.operation)
      const next = Math.floor(after) + 1
      turnOf.push(next + ((((own - next) % kinds.length) + kinds.length) % kinds.length))
    } else turnOf.push(Number.isInteger(after) ? after + 0.5 : after + 1)
  }
  const byTurn = new Map<number, Operand[]>()
  for (const [i, operand] of operands.entries()) {
    const turn = byTurn.get(turnOf[i]!)
    if (turn) turn.push(operand)
    else byTurn.set(turnOf[i]!, [operand])
  }
  return [...byTurn]
    .sort(([a], [b]) => a - b)
    .flatMap(([, own]) =>
      gathers(own[0]!)
        ? [{ operation: own[0]!.operation, operands: own }]
        : own.map((operand) => ({ operation: operand.operation, operands: [operand] })),
    )
}
