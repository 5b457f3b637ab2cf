import { Envelope } from './sparse.ts'
import type { Held, System } from './system.ts'

/** Residuals below this are zero, mm. */
export const solvedWithin = 1e-10

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
 * `pull`: a point that follows as far as the equations let it.
 */
export function solved(system: System, from: Float64Array = system.start, pull?: Pull): Solution {
  const x = from.slice()
  for (const part of partsOf(system)) {
    const pulled = pull && part.unknowns.includes(pull.p) ? pull : undefined
    if (!pulled && worst(part.equations, x) < solvedWithin) continue
    solvePart(part, x, pulled)
  }
  const residual = worst(system.equations, x)
  return { x, residual, solved: residual < 1e-9 }
}

/** Equations and unknowns that hang together. */
export interface Part {
  readonly equations: readonly Held[]
  /** places in x */
  readonly unknowns: readonly number[]
}

const parts = new WeakMap<System, readonly Part[]>()

export function partsOf(system: System): readonly Part[] {
  const known = parts.get(system)
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
  const made = new Map<number, { equations: Held[]; unknowns: number[] }>()
  for (let i = 0; i < system.unknowns; i++) {
    const key = root(i)
    if (!made.has(key)) made.set(key, { equations: [], unknowns: [] })
    made.get(key)!.unknowns.push(i)
  }
  for (const held of system.equations) if (held.vars.length > 0) made.get(root(held.vars[0]!))!.equations.push(held)
  const all = [...made.values()]
  parts.set(system, all)
  return all
}

/** Largest residual of equations at x. */
export function worst(equations: readonly Held[], x: Float64Array): number {
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
export function slopes({ equation, vars }: Held, x: Float64Array, out: number[]): void {
  out.length = equation.count * vars.length
  vars.forEach((i, k) => {
    const before = x[i]!
    const step = 2e-6 * Math.max(1, Math.abs(before))
    x[i] = before + step
    equation.residual(x, ahead, 0)
    x[i] = before - step
    equation.residual(x, behind, 0)
    x[i] = before
    for (let row = 0; row < equation.count; row++)
      out[row * vars.length + k] = (ahead[row]! - behind[row]!) / (2 * step)
  })
}

function solvePart(part: Part, x: Float64Array, pull: Pull | undefined): void {
  const work = new Descent(part, x)
  if (pull) {
    // Followed as well as may be, then let go, so that the equations hold exactly.
    work.run(x, { pull, rounds: 8 })
    work.run(x, { rounds: 40 })
    return
  }
  const start = x.slice()
  work.run(x, { rounds: 60 })
  for (const stages of [4, 24]) {
    if (worst(part.equations, x) < solvedWithin * 10) return
    const best = x.slice()
    const missed = work.residuals(start)
    x.set(start)
    for (let stage = 1; stage <= stages; stage++)
      work.run(x, { rounds: 30, asked: missed.map((r) => r * (1 - stage / stages)) })
    work.run(x, { rounds: 40 })
    if (worst(part.equations, x) > worst(part.equations, best)) x.set(best)
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

/** The damped least squares of one part. */
class Descent {
  private readonly part: Part
  private readonly matrix: Envelope
  private readonly local: ReadonlyMap<number, number>
  private readonly rows: number
  /** no step moves anything farther than this, mm */
  private readonly farthest: number

  constructor(part: Part, x: Float64Array) {
    this.part = part
    this.local = new Map(part.unknowns.map((i, k) => [i, k]))
    this.matrix = new Envelope(
      part.unknowns.length,
      part.equations.map(({ vars }) => vars.map((i) => this.local.get(i)!)),
    )
    this.rows = part.equations.reduce((sum, { equation }) => sum + equation.count, 0)
    const values = part.unknowns.map((i) => Math.abs(x[i]!))
    this.farthest = Math.max(1, ...values) * 2
  }

  residuals(x: Float64Array, asked?: Float64Array): Float64Array {
    const out = new Float64Array(this.rows)
    let row = 0
    for (const { equation } of this.part.equations) {
      equation.residual(x, out, row)
      row += equation.count
    }
    if (asked) for (let i = 0; i < out.length; i++) out[i] = out[i]! - asked[i]!
    return out
  }

  /** Goes down from x, in place. */
  run(x: Float64Array, { rounds, pull, asked }: Way): void {
    const { unknowns } = this.part
    const pulls = pull ? [this.local.get(pull.p)!, this.local.get(pull.p + 1)!] : []
    const costOf = (r: Float64Array, at: Float64Array) => {
      let sum = 0
      for (const value of r) sum += value * value
      return sum + pulls.reduce((own, _, i) => own + (pullStrength * (at[pull!.p + i]! - pull!.to[i]!)) ** 2, 0)
    }
    let damping = 1e-9
    let r = this.residuals(x, asked)
    let cost = costOf(r, x)
    const row: number[] = []
    for (let round = 0; round < rounds; round++) {
      if (!pull && r.every((value) => Math.abs(value) < solvedWithin / 10)) return
      const gradient = new Float64Array(unknowns.length)
      this.matrix.clear()
      let from = 0
      for (const held of this.part.equations) {
        slopes(held, x, row)
        this.gather(held, row, r, from, gradient)
        from += held.equation.count
      }
      pulls.forEach((k, i) => {
        this.matrix.add(k, k, pullStrength ** 2)
        gradient[k] = gradient[k]! + pullStrength ** 2 * (x[pull!.p + i]! - pull!.to[i]!)
      })
      const plain = this.matrix.saved()
      let better = false
      for (let attempt = 0; attempt < 12 && !better; attempt++) {
        this.matrix.restore(plain)
        this.matrix.raise(damping)
        if (!this.matrix.factor()) {
          damping *= 100
          continue
        }
        const step = this.matrix.solve(gradient)
        const longest = step.reduce((most, value) => Math.max(most, Math.abs(value)), 0)
        const share = Math.min(1, this.farthest / (longest || 1))
        const next = x.slice()
        unknowns.forEach((i, k) => {
          next[i] = x[i]! - share * step[k]!
        })
        const after = this.residuals(next, asked)
        const then = costOf(after, next)
        if (then < cost) {
          better = true
          x.set(next)
          r = after
          const gained = cost - then
          cost = then
          damping = Math.max(1e-12, damping / 10)
          if (pull && gained < 1e-10 * cost) return
        } else {
          if (longest < 1e-13) return
          damping = Math.max(1e-9, damping) * 10
        }
      }
      if (!better) return
    }
  }

  private gather(
    { vars, equation }: Held,
    row: readonly number[],
    r: Float64Array,
    from: number,
    gradient: Float64Array,
  ): void {
    const wide = vars.length
    for (let e = 0; e < equation.count; e++)
      for (let i = 0; i < wide; i++) {
        const a = row[e * wide + i]!
        if (a === 0) continue
        const p = this.local.get(vars[i]!)!
        gradient[p] = gradient[p]! + a * r[from + e]!
        for (let k = 0; k <= i; k++) {
          const b = row[e * wide + k]!
          if (b !== 0) this.matrix.add(p, this.local.get(vars[k]!)!, a * b)
        }
      }
  }
}
