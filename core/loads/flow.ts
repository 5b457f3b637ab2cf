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
 * Settles the potential in the cells of a solid (conjugate gradients: Hestenes and Stiefel, 1952); undefined where no way leads through it from
 * one to the other. `before`: what was settled in larger cells, to begin with.
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
  const reached = reachedFrom(held, strides, isOpen)
  for (const cell of reached) potential[cell] = 0
  const ends = loaded.filter((cell) => potential[cell] === 0)
  if (ends.length === 0) return undefined
  const isFixed = new Uint8Array(isInside.length)
  for (const cell of held) isFixed[cell] = 1
  for (const cell of ends) {
    isFixed[cell] = 1
    potential[cell] = 1
  }
  if (before)
    for (const cell of reached) if (!isFixed[cell]) potential[cell] = potentialAt(before, middleOf(cells, cell))
  await settle(potential, reached, isFixed, strides, isOpen, pause)
  const flow = { cells, potential, isOpen }
  return { ...flow, way: fallingFrom(flow, ends) }
}

/** The potential of the cell that a place is in; 0.5 where there is none. */
function potentialAt({ cells: { size, counts, from }, potential }: Flow, p: Vec3): number {
  const [x, y, z] = [0, 1, 2].map((k) => Math.round((p[k]! - from[k]!) / size)) as [number, number, number]
  const value = potential[x + counts[0] * (y + counts[1] * z)]
  return value === undefined || Number.isNaN(value) ? 0.5 : value
}

function reachedFrom(from: readonly number[], strides: readonly number[], isOpen: Flow['isOpen']): readonly number[] {
  const seen = new Set(from)
  const queue = [...seen]
  for (let i = 0; i < queue.length; i++) {
    const cell = queue[i]!
    for (const [axis, by] of strides.entries())
      for (const [other, open] of [
        [cell + by, isOpen(cell, axis)],
        [cell - by, isOpen(cell - by, axis)],
      ] as const)
        if (open && !seen.has(other)) {
          seen.add(other)
          queue.push(other)
        }
  }
  return queue
}

/** What flows in is what flows out, in each cell that is neither held nor loaded. */
async function settle(
  potential: Float64Array,
  reached: readonly number[],
  isFixed: Uint8Array,
  strides: readonly number[],
  isOpen: Flow['isOpen'],
  pause: (() => Promise<void>) | undefined,
): Promise<void> {
  const free = reached.filter((cell) => !isFixed[cell])
  const numbers = new Int32Array(potential.length).fill(-1)
  for (const [i, cell] of free.entries()) numbers[cell] = i
  // Six neighbours of each; none where it is shut, or fixed.
  const beside = new Int32Array(6 * free.length).fill(-1)
  const rest = new Float64Array(free.length)
  const count = new Float64Array(free.length)
  for (const [i, cell] of free.entries())
    for (const [axis, by] of strides.entries())
      for (const [k, other] of [cell + by, cell - by].entries()) {
        if (!isOpen(k === 0 ? cell : other, axis)) continue
        count[i]!++
        if (numbers[other]! >= 0) beside[6 * i + 2 * axis + k] = numbers[other]!
        else rest[i]! += potential[other]!
      }
  const value = Float64Array.from(free, (cell) => potential[cell]!)
  // What there is to begin with settles some of it already.
  const left = rest.slice()
  let most = 0
  for (let i = 0; i < free.length; i++) {
    most += (rest[i]! * rest[i]!) / (count[i]! || 1)
    left[i]! -= count[i]! * value[i]!
    for (let slot = 6 * i; slot < 6 * i + 6; slot++) if (beside[slot]! >= 0) left[i]! += value[beside[slot]!]!
  }
  const way = new Float64Array(free.length)
  const through = new Float64Array(free.length)
  let size = 0
  for (let i = 0; i < free.length; i++) {
    way[i] = left[i]! / (count[i]! || 1)
    size += way[i]! * left[i]!
  }
  const enough = settled * settled * most
  for (let round = 0; round < mostRounds && size > enough; round++) {
    if (round % betweenTurns === 0) await pause?.()
    let along = 0
    for (let i = 0; i < free.length; i++) {
      let sum = count[i]! * way[i]!
      for (let slot = 6 * i; slot < 6 * i + 6; slot++) {
        const other = beside[slot]!
        if (other >= 0) sum -= way[other]!
      }
      through[i] = sum
      along += sum * way[i]!
    }
    const by = size / along
    let next = 0
    for (let i = 0; i < free.length; i++) {
      value[i]! += by * way[i]!
      left[i]! -= by * through[i]!
      next += (left[i]! * left[i]!) / (count[i]! || 1)
    }
    const share = next / size
    for (let i = 0; i < free.length; i++) way[i] = left[i]! / (count[i]! || 1) + share * way[i]!
    size = next
  }
  for (const [i, cell] of free.entries()) potential[cell] = value[i]!
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
