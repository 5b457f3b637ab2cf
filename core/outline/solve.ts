import { Coupled } from './sparse.ts'
import type { System, SystemEquation } from './system.ts'

/** A drawing reaches no farther than this from its origin, mm: see the limits of the document. */
const farthestPlace = 1e6

/** Residuals below this are zero, mm. */
export const solvedWithin = 1e-10

/** A drawing whose equations miss by no more than this can be made, mm. */
export const buildableWithin = 1e-7

export interface Solution {
  readonly x: Float64Array
  /** largest residual, mm */
  readonly residual: number
  readonly solved: boolean
}

/** A point that is pulled while the rest is solved: the place of its first coordinate, and where it is to be. */
export interface Pull {
  readonly p: number
  readonly to: readonly [number, number]
}

/**
 * Brings a drawing to where all its equations hold, as near as can be to where it starts (damped least squares, Levenberg
 * 1944: with little damping each step is the shortest one). Drawings that hang together are solved one by one, and those
 * in which nothing is wrong are left alone. Where the whole way at once does not arrive, it is gone in stages: equations
 * are asked for a part of what they miss. Among the stages' ways the first that arrives is taken.
 *
 * `pull`: a point that follows as far as the equations let it. `stages`: in how many the way is tried.
 */
export function solved(
  system: System,
  from: Float64Array = system.start,
  pull?: Pull,
  stages: readonly number[] = [4, 24],
): Solution {
  const x = from.slice()
  for (const component of componentsOf(system)) {
    const pulled = pull && component.unknowns.includes(pull.p) ? pull : undefined
    const missed = worst(component.equations, x)
    if (!pulled && missed < solvedWithin) continue
    const before = x.slice()
    solvePart(component, x, pulled, stages)
    // Nothing is gained by what runs away.
    if (component.unknowns.some((i) => !(Math.abs(x[i]!) <= farthestPlace))) x.set(before)
    // What can be made and comes no nearer to being right is left alone, so that it does not creep from one solve to the next.
    if (!pulled && missed < buildableWithin && worst(component.equations, x) > 0.1 * missed) x.set(before)
  }
  const residual = worst(system.equations, x)
  return { x, residual, solved: residual < buildableWithin }
}

/** Equations and unknowns that hang together. */
export interface Component {
  readonly equations: readonly SystemEquation[]
  /** places in x */
  readonly unknowns: readonly number[]
}

const knownComponents = new WeakMap<System, readonly Component[]>()

export function componentsOf(system: System): readonly Component[] {
  const known = knownComponents.get(system)
  if (known) return known
  const parent = Int32Array.from({ length: system.unknowns }, (_, i) => i)
  const root = (start: number) => {
    let i = start
    while (parent[i] !== i) {
      parent[i] = parent[parent[i]!]!
      i = parent[i]!
    }
    return i
  }
  for (const { vars } of system.equations) for (const i of vars) parent[root(i)] = root(vars[0]!)
  // Both coordinates of a point go together, so that it can be pulled.
  for (const p of system.points.values()) if (p < system.unknowns) parent[root(p)] = root(p + 1)
  const made = new Map<number, { equations: SystemEquation[]; unknowns: number[] }>()
  for (let i = 0; i < system.unknowns; i++) {
    const key = root(i)
    if (!made.has(key)) made.set(key, { equations: [], unknowns: [] })
    made.get(key)!.unknowns.push(i)
  }
  for (const held of system.equations) if (held.vars.length > 0) made.get(root(held.vars[0]!))!.equations.push(held)
  const all = [...made.values()]
  knownComponents.set(system, all)
  return all
}

/** Largest residual of equations at x. */
export function worst(equations: readonly SystemEquation[], x: Float64Array): number {
  let most = 0
  for (const { equation } of equations) {
    equation.residual(x, scratch, 0)
    for (let i = 0; i < equation.count; i++) most = Math.max(most, Math.abs(scratch[i]!))
  }
  return Number.isFinite(most) ? most : Number.POSITIVE_INFINITY
}
const scratch = new Float64Array(8)
const ahead = new Float64Array(8)
const behind = new Float64Array(8)

/** How much a residual changes with each unknown it reads, by central differences: rows of `vars.length`. */
export function jacobian({ equation, vars }: SystemEquation, x: Float64Array, out: Float64Array): void {
  const residual = equation.residualNear?.(x) ?? equation.residual
  for (let k = 0; k < vars.length; k++) {
    const i = vars[k]!
    const before = x[i]!
    const step = 2e-6 * Math.max(1, Math.abs(before))
    x[i] = before + step
    residual(x, ahead, 0)
    x[i] = before - step
    residual(x, behind, 0)
    x[i] = before
    for (let row = 0; row < equation.count; row++)
      out[row * vars.length + k] = (ahead[row]! - behind[row]!) / (2 * step)
  }
}

function solvePart(component: Component, x: Float64Array, pull: Pull | undefined, tries: readonly number[]): void {
  const work = new Descent(component, x)
  if (pull) {
    // Followed as well as may be, then let go, so that the equations hold exactly.
    work.run(x, { pull, rounds: 4 })
    work.run(x, { rounds: 40 })
    return
  }
  const start = x.slice()
  work.run(x, { rounds: 60 })
  for (const stages of tries) {
    const before = worst(component.equations, x)
    if (before < buildableWithin) return
    const best = x.slice()
    const missed = work.residuals(start)
    x.set(start)
    for (let stage = 1; stage <= stages; stage++)
      work.run(x, { rounds: 30, asked: missed.map((r) => r * (1 - stage / stages)) })
    work.run(x, { rounds: 40 })
    const after = worst(component.equations, x)
    if (after > before) x.set(best)
    // What misses as much by another way contradicts itself.
    if (after > buildableWithin && Math.abs(after - before) < 1e-3 * before) return
  }
}

interface Way {
  readonly rounds: number
  readonly pull?: Pull
  /** residuals that are asked for, in place of zero */
  readonly asked?: Float64Array
}

/** How strongly a pulled point follows, against equations that hold with 1. */
const pullStrength = 0.02

/** What of a component's descent does not change from one solve to the next. */
interface Ground {
  readonly matrix: Coupled
  /** place of each unknown among those of the component */
  readonly local: ReadonlyMap<number, number>
  readonly held: readonly GroundedEquation[]
  readonly rows: number
}
interface GroundedEquation {
  readonly held: SystemEquation
  /** of its unknowns: their places in the component */
  readonly places: Int32Array
  /** of each pair of its unknowns, the second not before the first: the entry of the matrix */
  readonly slots: Int32Array
  readonly slopes: Float64Array
  /** whether the slopes are the same everywhere, and known */
  constant: boolean
}

const grounds = new WeakMap<Component, Ground>()

function groundOf(component: Component): Ground {
  const known = grounds.get(component)
  if (known) return known
  const local = new Map(component.unknowns.map((i, k) => [i, k]))
  const matrix = new Coupled(
    component.unknowns.length,
    component.equations.map(({ vars }) => vars.map((i) => local.get(i)!)),
  )
  const held = component.equations.map((each): GroundedEquation => {
    const places = Int32Array.from(each.vars, (i) => local.get(i)!)
    const slots: number[] = []
    for (let i = 0; i < places.length; i++) for (let k = 0; k <= i; k++) slots.push(matrix.slot(places[i]!, places[k]!))
    return {
      held: each,
      places,
      slots: Int32Array.from(slots),
      slopes: new Float64Array(each.equation.count * places.length),
      constant: false,
    }
  })
  const rows = component.equations.reduce((sum, { equation }) => sum + equation.count, 0)
  const made = { matrix, local, held, rows }
  grounds.set(component, made)
  return made
}

/** The damped least squares of one component. */
class Descent {
  private readonly component: Component
  private readonly ground: Ground
  /** no step moves anything farther than this, mm */
  private readonly farthest: number

  constructor(component: Component, x: Float64Array) {
    this.component = component
    this.ground = groundOf(component)
    this.farthest = 2 * component.unknowns.reduce((most, i) => Math.max(most, Math.abs(x[i]!)), 1)
  }

  residuals(x: Float64Array, asked?: Float64Array): Float64Array {
    const out = new Float64Array(this.ground.rows)
    let row = 0
    for (const { equation } of this.component.equations) {
      equation.residual(x, out, row)
      row += equation.count
    }
    if (asked) for (let i = 0; i < out.length; i++) out[i] = out[i]! - asked[i]!
    return out
  }

  /** Goes down from x, in place. */
  run(x: Float64Array, { rounds, pull, asked }: Way): void {
    const { unknowns } = this.component
    const { matrix, local } = this.ground
    const pulls = pull ? [local.get(pull.p)!, local.get(pull.p + 1)!] : []
    const costOf = (r: Float64Array, at: Float64Array) => {
      let sum = 0
      for (let i = 0; i < r.length; i++) sum += r[i]! * r[i]!
      return sum + pulls.reduce((own, _, i) => own + (pullStrength * (at[pull!.p + i]! - pull!.to[i]!)) ** 2, 0)
    }
    let damping = 1e-9
    let r = this.residuals(x, asked)
    let cost = costOf(r, x)
    for (let round = 0; round < rounds; round++) {
      if (!pull && r.every((value) => Math.abs(value) < solvedWithin / 10)) return
      const gradient = this.gathered(x, r)
      pulls.forEach((k, i) => {
        matrix.values[k] = matrix.values[k]! + pullStrength ** 2
        gradient[k] = gradient[k]! + pullStrength ** 2 * (x[pull!.p + i]! - pull!.to[i]!)
      })
      const plain = matrix.values.slice()
      let better = false
      for (let attempt = 0; attempt < 12 && !better; attempt++) {
        matrix.values.set(plain)
        if (!matrix.factor(damping)) {
          damping *= 100
          continue
        }
        const step = matrix.solve(gradient)
        const longest = step.reduce((most, value) => Math.max(most, Math.abs(value)), 0)
        const share = Math.min(1, this.farthest / (longest || 1))
        const next = x.slice()
        for (let k = 0; k < unknowns.length; k++) next[unknowns[k]!] = x[unknowns[k]!]! - share * step[k]!
        const after = this.residuals(next, asked)
        const then = costOf(after, next)
        if (then < cost) {
          better = true
          x.set(next)
          r = after
          const gained = cost - then
          cost = then
          damping = Math.max(1e-12, damping / 10)
          // It need not follow to the last digit.
          if (pull && gained < 1e-3 * cost) return
        } else {
          if (longest < 1e-13) return
          damping = Math.max(1e-9, damping) * 10
        }
      }
      if (!better) return
    }
  }

  /** Fills the matrix with the products of the jacobian, and gives their products with the residuals. */
  private gathered(x: Float64Array, r: Float64Array): Float64Array {
    const { matrix, held } = this.ground
    const { values } = matrix
    values.fill(0)
    const gradient = new Float64Array(this.component.unknowns.length)
    let from = 0
    for (const each of held) {
      const { places, slots } = each
      const { equation } = each.held
      if (!each.constant) {
        jacobian(each.held, x, each.slopes)
        each.constant = equation.linear === true
      }
      const wide = places.length
      for (let e = 0; e < equation.count; e++) {
        const row = e * wide
        let at = 0
        for (let i = 0; i < wide; i++) {
          const a = each.slopes[row + i]!
          gradient[places[i]!] = gradient[places[i]!]! + a * r[from + e]!
          for (let k = 0; k <= i; k++) {
            const slot = slots[at++]!
            values[slot] = values[slot]! + a * each.slopes[row + k]!
          }
        }
      }
      from += equation.count
    }
    return gradient
  }
}
