import { type Cells, middleOf, stridesOf } from '../necks/index.ts'
import type { Vec3 } from '../place/index.ts'

/** How what is loaded leads to what is held: as a current would flow through a solid from one to the other. */
export interface Flow {
  readonly cells: Cells
  /** 0 where it is held, 1 where it is loaded; NaN outside, and where nothing leads to */
  readonly potential: Float64Array
  /** whether a cell and the next one along an axis hang together */
  isOpen(cell: number, axis: number): boolean
  /** by cells that lie beside each other: from where it is loaded to where it is held, the way it falls fastest */
  readonly way: readonly number[]
}

/** It is settled where what is left over is so much less than at first; there are never more rounds than these. */
const [settled, mostRounds] = [1e-6, 2000]
/** Rounds between two turns of others. */
const betweenTurns = 20

/**
 * Settles the potential in the cells of a solid (conjugate gradients, preconditioned: Hestenes and Stiefel, 1952); undefined where no way leads through it
 * from one to the other, and where it does not settle. `before`: what was settled in larger cells, to begin with.
 */
export async function flowBetween(
  cells: Cells,
  shut: Uint8Array,
  held: readonly number[],
  loaded: readonly number[],
  pause?: () => Promise<void>,
  before?: Flow,
): Promise<Flow | undefined> {
  const { isInside } = cells
  const strides = stridesOf(cells)
  const isOpen = (cell: number, axis: number) =>
    isInside[cell]! > 0 && isInside[cell + strides[axis]!]! > 0 && !(shut[cell]! & (1 << axis))
  const potential = new Float64Array(isInside.length).fill(Number.NaN)
  const isReached = reachedFrom(held, cells, strides, isOpen)
  const ends = loaded.filter((cell) => isReached[cell])
  if (ends.length === 0) return undefined
  const isFree = isReached.slice()
  for (const cell of held) isFree[cell] = 0
  for (const cell of ends) isFree[cell] = 0
  for (let cell = 0; cell < potential.length; cell++)
    if (isReached[cell]) potential[cell] = before && isFree[cell] ? potentialAt(before, middleOf(cells, cell)) : 0
  for (const cell of ends) potential[cell] = 1
  if (!(await settle(potential, isFree, strides, isOpen, pause))) return undefined
  const flow = { cells, potential, isOpen }
  return { ...flow, way: fallingFrom(flow, ends) }
}

/** The potential of the cell that a place is in; 0.5 where there is none. */
function potentialAt({ cells: { size, counts, from }, potential }: Flow, p: Vec3): number {
  const [x, y, z] = [0, 1, 2].map((k) => Math.round((p[k]! - from[k]!) / size)) as [number, number, number]
  const value = potential[x + counts[0] * (y + counts[1] * z)]
  return value === undefined || Number.isNaN(value) ? 0.5 : value
}

function reachedFrom(
  from: readonly number[],
  { isInside }: Cells,
  strides: readonly number[],
  isOpen: Flow['isOpen'],
): Uint8Array {
  const seen = new Uint8Array(isInside.length)
  const queue: number[] = []
  const reach = (cell: number) => {
    if (seen[cell]) return
    seen[cell] = 1
    queue.push(cell)
  }
  for (const cell of from) reach(cell)
  for (let i = 0; i < queue.length; i++) {
    const cell = queue[i]!
    for (let axis = 0; axis < 3; axis++) {
      const by = strides[axis]!
      if (isOpen(cell, axis)) reach(cell + by)
      if (isOpen(cell - by, axis)) reach(cell - by)
    }
  }
  return seen
}

/** What flows in is what flows out, in each cell that is neither held nor loaded; false where so many rounds do not come to that. */
async function settle(
  potential: Float64Array,
  isFree: Uint8Array,
  strides: readonly number[],
  isOpen: Flow['isOpen'],
  pause: (() => Promise<void>) | undefined,
): Promise<boolean> {
  const free: number[] = []
  const numbers = new Int32Array(potential.length).fill(-1)
  for (let cell = 0; cell < potential.length; cell++)
    if (isFree[cell]) {
      numbers[cell] = free.length
      free.push(cell)
    }
  // Three neighbours of each that come before it, and three that come after it; none where it is shut, or fixed.
  const [before, after] = [new Int32Array(3 * free.length).fill(-1), new Int32Array(3 * free.length).fill(-1)]
  const rest = new Float64Array(free.length)
  const count = new Float64Array(free.length)
  for (let i = 0; i < free.length; i++)
    for (let axis = 0; axis < 3; axis++) {
      const [cell, by] = [free[i]!, strides[axis]!]
      const meet = (other: number, slots: Int32Array) => {
        count[i]!++
        if (numbers[other]! >= 0) slots[3 * i + axis] = numbers[other]!
        else rest[i]! += potential[other]!
      }
      if (isOpen(cell, axis)) meet(cell + by, after)
      if (isOpen(cell - by, axis)) meet(cell - by, before)
    }
  const value = Float64Array.from(free, (cell) => potential[cell]!)
  // What there is to begin with settles some of it already.
  const left = rest.slice()
  let most = 0
  for (let i = 0; i < free.length; i++) {
    most += (rest[i]! * rest[i]!) / (count[i]! || 1)
    left[i]! -= count[i]! * value[i]!
    for (let slot = 3 * i; slot < 3 * i + 3; slot++) {
      if (before[slot]! >= 0) left[i]! += value[before[slot]!]!
      if (after[slot]! >= 0) left[i]! += value[after[slot]!]!
    }
  }
  const scale = factored(before, after, count)
  const [near, half] = [new Float64Array(free.length), new Float64Array(free.length)]
  /** What would settle nearly what is left: one sweep forth, and one back. */
  const approach = () => {
    for (let i = 0; i < free.length; i++) {
      let sum = left[i]!
      for (let slot = 3 * i; slot < 3 * i + 3; slot++) {
        const other = before[slot]!
        if (other >= 0) sum += scale[other]! * half[other]!
      }
      half[i] = sum * scale[i]!
    }
    for (let i = free.length - 1; i >= 0; i--) {
      let sum = half[i]!
      for (let slot = 3 * i; slot < 3 * i + 3; slot++) {
        const other = after[slot]!
        if (other >= 0) sum += scale[i]! * near[other]!
      }
      near[i] = sum * scale[i]!
    }
  }
  approach()
  const way = near.slice()
  const through = new Float64Array(free.length)
  let [size, over] = [0, 0]
  for (let i = 0; i < free.length; i++) {
    size += near[i]! * left[i]!
    over += (left[i]! * left[i]!) / (count[i]! || 1)
  }
  const enough = settled * settled * most
  for (let round = 0; round < mostRounds && over > enough; round++) {
    if (round % betweenTurns === 0) await pause?.()
    let along = 0
    for (let i = 0; i < free.length; i++) {
      let sum = count[i]! * way[i]!
      for (let slot = 3 * i; slot < 3 * i + 3; slot++) {
        if (before[slot]! >= 0) sum -= way[before[slot]!]!
        if (after[slot]! >= 0) sum -= way[after[slot]!]!
      }
      through[i] = sum
      along += sum * way[i]!
    }
    const by = size / along
    over = 0
    for (let i = 0; i < free.length; i++) {
      value[i]! += by * way[i]!
      left[i]! -= by * through[i]!
      over += (left[i]! * left[i]!) / (count[i]! || 1)
    }
    approach()
    let next = 0
    for (let i = 0; i < free.length; i++) next += near[i]! * left[i]!
    const share = next / size
    for (let i = 0; i < free.length; i++) way[i] = near[i]! + share * way[i]!
    size = next
  }
  for (let i = 0; i < free.length; i++) potential[free[i]!] = value[i]!
  return over <= enough
}

/** Of what is left out in factors, so much is taken off what stays; what comes out too small is not taken. */
const [made, safe] = [0.97, 0.25]

/**
 * What nearly makes two factors of the whole, one for each sweep: of each cell one over the root of what is left of its count (modified
 * incomplete Cholesky: Gustafsson, 1978; the numbers as in Bridson, Fluid Simulation for Computer Graphics, 2008).
 */
function factored(before: Int32Array, after: Int32Array, count: Float64Array): Float64Array {
  const scale = new Float64Array(count.length)
  for (let i = 0; i < count.length; i++) {
    let own = count[i]!
    for (let slot = 3 * i; slot < 3 * i + 3; slot++) {
      const other = before[slot]!
      if (other < 0) continue
      let others = 0
      for (let next = 3 * other; next < 3 * other + 3; next++) if (after[next]! >= 0 && after[next] !== i) others++
      own -= (1 + made * others) * scale[other]! * scale[other]!
    }
    scale[i] = 1 / Math.sqrt(own < safe * count[i]! ? count[i]! || 1 : own)
  }
  return scale
}

function fallingFrom({ cells, potential, isOpen }: Omit<Flow, 'way'>, from: readonly number[]): readonly number[] {
  const strides = stridesOf(cells)
  const below = (cell: number) => {
    let next = cell
    for (const [axis, by] of strides.entries()) {
      if (isOpen(cell, axis) && potential[cell + by]! < potential[next]!) next = cell + by
      if (isOpen(cell - by, axis) && potential[cell - by]! < potential[next]!) next = cell - by
    }
    return next
  }
  // Those in the midst of what is loaded fall nowhere.
  const first = from.reduce((best, cell) => (potential[below(cell)]! < potential[below(best)]! ? cell : best))
  const way = [first]
  for (let cell = first, next = below(cell); next !== cell; cell = next, next = below(cell)) way.push(next)
  return way
}
