/**
 * Symmetric systems whose unknowns are coupled near one another: rows of the lower half from the first entry on, factored as L D Lᵀ.
 * Unknowns are taken in the order of Cuthill and McKee (1969), reversed (George 1971), which keeps rows short.
 */
export class Profile {
  readonly size: number
  readonly values: Float64Array
  /** the place of each unknown in the order of elimination */
  readonly #place: Int32Array
  /** of each row, by place: its first column, and where that is in `values` */
  readonly #first: Int32Array
  readonly #start: Int32Array

  /** `groups`: sets of unknowns, from 0 to size − 1, that have entries with one another. */
  constructor(size: number, groups: readonly ArrayLike<number>[]) {
    this.size = size
    this.#place = placesOf(size, groups)
    const first = Int32Array.from({ length: size }, (_, i) => i)
    for (const group of groups) {
      let low = size
      for (let i = 0; i < group.length; i++) low = Math.min(low, this.#place[group[i]!]!)
      for (let i = 0; i < group.length; i++) {
        const row = this.#place[group[i]!]!
        if (low < first[row]!) first[row] = low
      }
    }
    this.#first = first
    this.#start = new Int32Array(size + 1)
    for (let row = 0; row < size; row++) this.#start[row + 1] = this.#start[row]! + row - first[row]! + 1
    this.values = new Float64Array(this.#start[size]!)
  }

  /** Adds to the entry of two unknowns that are coupled; each pair once, whichever comes first. */
  add(i: number, k: number, value: number): void {
    const [a, b] = [this.#place[i]!, this.#place[k]!]
    const [row, column] = a > b ? [a, b] : [b, a]
    const at = this.#start[row]! + column - this.#first[row]!
    this.values[at] = this.values[at]! + value
  }

  /** Factors in place. False where a pivot is next to nothing: then nothing holds some unknown. */
  factor(): boolean {
    const { values } = this
    const first = this.#first
    const start = this.#start
    let largest = 0
    for (let row = 0; row < this.size; row++) largest = Math.max(largest, Math.abs(values[start[row + 1]! - 1]!))
    for (let row = 0; row < this.size; row++) {
      const from = first[row]!
      const own = start[row]! - from
      for (let column = from; column < row; column++) {
        const low = Math.max(from, first[column]!)
        const other = start[column]! - first[column]!
        values[own + column] = values[own + column]! - dotWithin(values, own + low, other + low, column - low)
      }
      let pivot = values[own + row]!
      for (let column = from; column < row; column++) {
        const raised = values[own + column]!
        const scaled = raised / values[start[column + 1]! - 1]!
        pivot -= raised * scaled
        values[own + column] = scaled
      }
      if (!(Math.abs(pivot) > 1e-13 * largest)) return false
      values[own + row] = pivot
    }
    return true
  }

  /** What solves the factored system for a right-hand side, by unknown. */
  solved(right: Float64Array): Float64Array {
    const { values, size } = this
    const first = this.#first
    const start = this.#start
    const x = new Float64Array(size)
    for (let i = 0; i < size; i++) x[this.#place[i]!] = right[i]!
    for (let row = 0; row < size; row++) {
      const own = start[row]! - first[row]!
      let sum = x[row]!
      for (let k = first[row]!; k < row; k++) sum -= values[own + k]! * x[k]!
      x[row] = sum
    }
    for (let row = 0; row < size; row++) x[row] = x[row]! / values[start[row + 1]! - 1]!
    for (let row = size - 1; row >= 0; row--) {
      const own = start[row]! - first[row]!
      const value = x[row]!
      for (let k = first[row]!; k < row; k++) x[k] = x[k]! - values[own + k]! * value
    }
    return Float64Array.from({ length: size }, (_, i) => x[this.#place[i]!]!)
  }
}

/** The dot product of two stretches of one array, as four sums that need not wait for one another. */
function dotWithin(values: Float64Array, one: number, other: number, count: number): number {
  let a = 0
  let b = 0
  let c = 0
  let d = 0
  let k = 0
  for (; k + 3 < count; k += 4) {
    a += values[one + k]! * values[other + k]!
    b += values[one + k + 1]! * values[other + k + 1]!
    c += values[one + k + 2]! * values[other + k + 2]!
    d += values[one + k + 3]! * values[other + k + 3]!
  }
  for (; k < count; k++) a += values[one + k]! * values[other + k]!
  return a + b + (c + d)
}

function placesOf(size: number, groups: readonly ArrayLike<number>[]): Int32Array {
  const beside: Set<number>[] = Array.from({ length: size }, () => new Set())
  for (const group of groups)
    for (let i = 0; i < group.length; i++)
      for (let k = 0; k < group.length; k++) if (i !== k) beside[group[i]!]!.add(group[k]!)
  const place = new Int32Array(size).fill(-1)
  let next = size
  /** Unknowns in the order in which they are reached, those with few neighbours first. */
  const reached = (start: number): number[] => {
    const order = [start]
    const seen = new Set(order)
    for (let at = 0; at < order.length; at++) {
      const more = [...beside[order[at]!]!].filter((i) => !seen.has(i))
      more.sort((a, b) => beside[a]!.size - beside[b]!.size)
      for (const i of more) seen.add(i)
      order.push(...more)
    }
    return order
  }
  for (let start = 0; start < size; start++) {
    if (place[start]! >= 0) continue
    // From one end of what hangs together: the last one reached from anywhere, twice.
    const far = reached(reached(start).at(-1)!).at(-1)!
    for (const i of reached(far)) place[i] = --next
  }
  return place
}
