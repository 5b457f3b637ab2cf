import type { Vec2 } from '../plane/index.ts'
import { buildableWithin, type Component, componentsOf, jacobian, solved, worst } from './solve.ts'
import { type Given, type System, systemOf } from './system.ts'

/** What the equations of a solved drawing leave open, and which of them say too much. */
export interface Freedom {
  /** free moves that are left: unknowns less independent equations */
  readonly moves: number
  /** points that can still move: in one direction (unit), or `any` */
  readonly points: ReadonlyMap<string, Vec2 | 'any'>
  /** curves whose size can still change */
  readonly sizes: ReadonlySet<string>
  /** constraints that follow from others, with these */
  readonly redundant: ReadonlyMap<string, readonly string[]>
}

/** Below this, of what an equation asks nothing is new; rows are of length 1. */
const dependentBelow = 1e-7

/**
 * Reads the free moves off the slopes of the equations at x. Each row is reduced by those before it; what is left of it is
 * a new condition, or nothing: then it follows from the rows that it was reduced by.
 */
export function freedomOf(system: System, x: Float64Array): Freedom {
  const read = known.get(system)
  if (read?.x === x) return read.freedom
  const freedom = readFreedom(system, x)
  known.set(system, { x, freedom })
  return freedom
}

/** The drawing and its sheet both ask. */
const known = new WeakMap<System, { readonly x: Float64Array; readonly freedom: Freedom }>()

function readFreedom(system: System, x: Float64Array): Freedom {
  let moves = 0
  const redundant = new Map<string, readonly string[]>()
  const spared = new Map<string, number>()
  const moving = new Map<number, readonly number[]>()
  for (const component of componentsOf(system)) {
    const { rank, spare, kernel } = reduced(component, x)
    moves += component.unknowns.length - rank
    // Of a constraint with two equations one may be said already; only both together make it redundant.
    for (const { id, others } of spare) {
      spared.set(id, (spared.get(id) ?? 0) + 1)
      if (spared.get(id) === rowsOf(system, id)) redundant.set(id, others)
    }
    component.unknowns.forEach((i, k) => void moving.set(i, kernel[k]!))
  }
  const points = new Map<string, Vec2 | 'any'>()
  for (const [id, p] of system.points) {
    if (p >= system.unknowns) continue
    const way = wayOf(moving.get(p)!, moving.get(p + 1)!)
    if (way) points.set(id, way)
  }
  const sizes = new Set(
    [...system.sizes].filter(([, i]) => moving.get(i)?.some((value) => Math.abs(value) > 1e-6)).map(([id]) => id),
  )
  return { moves, points, sizes, redundant }
}

function rowsOf({ equations }: System, id: string): number {
  return equations.find(({ constraint }) => constraint?.id === id)?.equation.count ?? 0
}

/** How many random free moves are looked at; two that agree in a point agree by accident with no chance. */
const samples = 3

/** The direction that all free moves take a point in; `any` where they differ, undefined where none moves it. */
function wayOf(xs: readonly number[], ys: readonly number[]): Vec2 | 'any' | undefined {
  let longest = 0
  let way: Vec2 = [0, 0]
  xs.forEach((dx, i) => {
    const long = Math.hypot(dx, ys[i]!)
    if (long > longest) {
      longest = long
      way = [dx / long, ys[i]! / long]
    }
  })
  if (longest < 1e-6) return undefined
  const across = Math.max(...xs.map((dx, i) => Math.abs(dx * way[1] - ys[i]! * way[0])))
  return across > 1e-4 * longest ? 'any' : way
}

interface Row {
  readonly pivot: number
  /** where it is not zero */
  readonly filled: Int32Array
  readonly values: Float64Array
  /** the rows of equations that it was made of, with their shares */
  readonly made: ReadonlyMap<number, number>
}

function reduced(component: Component, x: Float64Array) {
  const { unknowns, equations } = component
  const n = unknowns.length
  const local = new Map(unknowns.map((i, k) => [i, k]))
  const rows: Row[] = []
  const byPivot: (Row | undefined)[] = new Array(n)
  const owners: (string | undefined)[] = []
  const spare: { readonly id: string; readonly others: readonly string[] }[] = []
  for (const held of equations) {
    const slope = new Float64Array(held.equation.count * held.vars.length)
    jacobian(held, x, slope)
    const wide = held.vars.length
    for (let e = 0; e < held.equation.count; e++) {
      const index = owners.push(held.constraint?.id) - 1
      const values = new Float64Array(n)
      let size = 0
      held.vars.forEach((i, k) => {
        const value = slope[e * wide + k]!
        values[local.get(i)!] = value
        size += value * value
      })
      const made = new Map([[index, 1]])
      // A row without slopes says nothing that could be followed.
      const scale = Math.sqrt(size)
      if (scale > 1e-12) for (let k = 0; k < n; k++) values[k] = values[k]! / scale
      const pivot = scale > 1e-12 ? reduce(values, rows, made) : -1
      if (pivot >= 0) {
        const row = { pivot, values, made, filled: filledOf(values) }
        byPivot[pivot] = row
        rows.push(row)
      } else {
        const id = held.constraint?.id
        const others = [...made].filter(([i, share]) => i !== index && Math.abs(share) > 1e-6).map(([i]) => owners[i])
        const named = new Set(others.filter((other): other is string => other !== undefined && other !== id))
        if (id !== undefined) spare.push({ id, others: [...named] })
      }
    }
  }
  return { rank: rows.length, spare, kernel: randomMoves(n, rows, byPivot) }
}

function filledOf(values: Float64Array): Int32Array {
  const out: number[] = []
  values.forEach((value, k) => {
    if (value !== 0) out.push(k)
  })
  return Int32Array.from(out)
}

/** Takes from a row what rows before it ask already; the place of its largest value, or −1 where nothing is left. */
function reduce(values: Float64Array, rows: readonly Row[], made: Map<number, number>): number {
  // In their order: a row has nothing at the pivots of those before it, so what was taken does not come back.
  for (const row of rows) {
    const share = values[row.pivot]!
    if (share === 0) continue
    const by = share / row.values[row.pivot]!
    for (const j of row.filled) values[j] = values[j]! - by * row.values[j]!
    values[row.pivot] = 0
    for (const [i, share] of row.made) made.set(i, (made.get(i) ?? 0) - by * share)
  }
  let pivot = -1
  let most = dependentBelow
  values.forEach((value, k) => {
    if (Math.abs(value) > most) {
      most = Math.abs(value)
      pivot = k
    }
  })
  return pivot
}

/** Moves that no row objects to: free unknowns at random, the others after them. Per unknown, its share in each move. */
function randomMoves(n: number, rows: readonly Row[], byPivot: readonly (Row | undefined)[]): number[][] {
  const out = Array.from({ length: n }, () => new Array<number>(samples).fill(0))
  let seed = 12_345
  const random = () => {
    seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648
    return seed / 1_073_741_824 - 1
  }
  for (let s = 0; s < samples; s++) {
    const move = new Float64Array(n)
    for (let k = 0; k < n; k++) if (!byPivot[k]) move[k] = random() + 0.01
    // The last row was reduced by all before it, so it is the one without their pivots.
    for (const row of [...rows].reverse()) {
      let sum = 0
      for (const j of row.filled) if (j !== row.pivot) sum += row.values[j]! * move[j]!
      move[row.pivot] = -sum / row.values[row.pivot]!
    }
    for (let k = 0; k < n; k++) out[k]![s] = move[k]!
  }
  return out
}

/** So many equations are solved at most to find which of them contradict each other: a second's work. */
const solvedEquations = 5000

/**
 * The constraints that cannot all hold: from those that are missed where the drawing came to rest, each is left out in
 * turn; what can be left out and still nothing holds has no part in it.
 */
export function conflictsOf(system: System, x: Float64Array, given: Given): readonly string[] {
  // Those on what cannot move at all are of no component, and may be wrong too.
  const missed = new Set(
    system.equations.flatMap((held) =>
      held.constraint && worst([held], x) > buildableWithin ? [held.constraint.id] : [],
    ),
  )
  const { outline } = system
  const holds = (ids: ReadonlySet<string>) => {
    const left = outline.constraints.filter(({ id }) => ids.has(id) || !missed.has(id))
    const tried = systemOf({ ...outline, constraints: left }, given)
    // There are many to try, and where it can be solved at all it mostly is at once.
    return solved(tried, tried.start, undefined, [4]).solved
  }
  let kept = [...missed]
  // Each try is a solve; of very many, some are only named.
  const tries = Math.min(24, Math.floor(solvedEquations / system.equations.length))
  for (const id of kept.slice(0, tries)) {
    const fewer = kept.filter((other) => other !== id)
    if (fewer.length > 0 && !holds(new Set(fewer))) kept = fewer
  }
  return kept
}
