/**
 * Symmetric positive systems whose unknowns are coupled in few places, held as the rows of their lower triangle from the
 * first entry that is not zero on (envelope), in the order of Cuthill and McKee reversed, which keeps these rows short
 * (George and Liu 1981, ch. 4).
 */
export class Envelope {
  readonly size: number
  /** place of each unknown in the order of elimination */
  readonly #place: Int32Array
  /** first column of each row, and where the row begins in `#values` */
  readonly #first: Int32Array
  readonly #start: Int32Array
  readonly #values: Float64Array

  /** `groups`: sets of unknowns (from 0 to size − 1) that have entries with one another. */
  constructor(size: number, groups: readonly (readonly number[])[]) {
    this.size = size
    this.#place = placesOf(size, groups)
    this.#first = Int32Array.from({ length: size }, (_, i) => i)
    for (const group of groups) {
      const least = Math.min(...group.map((i) => this.#place[i]!))
      for (const i of group) {
        const row = this.#place[i]!
        if (least < this.#first[row]!) this.#first[row] = least
      }
    }
    this.#start = new Int32Array(size + 1)
    for (let row = 0; row < size; row++) this.#start[row + 1] = this.#start[row]! + row - this.#first[row]! + 1
    this.#values = new Float64Array(this.#start[size]!)
  }

  clear(): void {
    this.#values.fill(0)
  }

  /** Adds to the entry of unknowns i and k; each pair is added once. */
  add(i: number, k: number, value: number): void {
    const [p, q] = [this.#place[i]!, this.#place[k]!]
    const [row, column] = p > q ? [p, q] : [q, p]
    const index = this.#start[row]! + column - this.#first[row]!
    this.#values[index] = this.#values[index]! + value
  }

  /** Adds `by` to every entry of the diagonal. */
  raise(by: number): void {
    for (let row = 0; row < this.size; row++) {
      const index = this.#start[row + 1]! - 1
      this.#values[index] = this.#values[index]! + by
    }
  }

  /** The entries as they are, to be put back before another try. */
  saved(): Float64Array {
    return this.#values.slice()
  }
  restore(values: Float64Array): void {
    this.#values.set(values)
  }

  /** Cholesky in place: A = L Lᵀ. False where the matrix is not positive. */
  factor(): boolean {
    const [first, start, values] = [this.#first, this.#start, this.#values]
    for (let i = 0; i < this.size; i++) {
      const rowStart = start[i]! - first[i]!
      for (let k = first[i]!; k < i; k++) {
        const otherStart = start[k]! - first[k]!
        let sum = values[rowStart + k]!
        for (let j = Math.max(first[i]!, first[k]!); j < k; j++) sum -= values[rowStart + j]! * values[otherStart + j]!
        values[rowStart + k] = sum / values[otherStart + k]!
      }
      let diagonal = values[rowStart + i]!
      for (let j = first[i]!; j < i; j++) diagonal -= values[rowStart + j]! ** 2
      if (!(diagonal > 0)) return false
      values[rowStart + i] = Math.sqrt(diagonal)
    }
    return true
  }

  /** Solves A x = b after `factor`. */
  solve(b: Float64Array): Float64Array {
    const [first, start, values, n] = [this.#first, this.#start, this.#values, this.size]
    const y = new Float64Array(n)
    for (let i = 0; i < n; i++) y[this.#place[i]!] = b[i]!
    for (let i = 0; i < n; i++) {
      const rowStart = start[i]! - first[i]!
      let sum = y[i]!
      for (let j = first[i]!; j < i; j++) sum -= values[rowStart + j]! * y[j]!
      y[i] = sum / values[rowStart + i]!
    }
    for (let i = n - 1; i >= 0; i--) {
      const rowStart = start[i]! - first[i]!
      const value = y[i]! / values[rowStart + i]!
      y[i] = value
      for (let j = first[i]!; j < i; j++) y[j] = y[j]! - values[rowStart + j]! * value
    }
    return Float64Array.from({ length: n }, (_, i) => y[this.#place[i]!]!)
  }
}

/** Breadth first from a far end, neighbours with few connections first, and then backwards. */
function placesOf(size: number, groups: readonly (readonly number[])[]): Int32Array {
  const near = Array.from({ length: size }, () => new Set<number>())
  for (const group of groups) for (const i of group) for (const k of group) if (i !== k) near[i]!.add(k)
  const done = new Uint8Array(size)
  const order: number[] = []
  const sweep = (from: number, into: number[]): void => {
    const seen = new Set([from])
    into.push(from)
    for (let at = into.length - 1; at < into.length; at++)
      for (const next of [...near[into[at]!]!].sort((a, b) => near[a]!.size - near[b]!.size || a - b)) {
        if (seen.has(next) || done[next]) continue
        seen.add(next)
        into.push(next)
      }
  }
  for (let i = 0; i < size; i++) {
    if (done[i]) continue
    // The last one found from anywhere lies at an end.
    const probe: number[] = []
    sweep(i, probe)
    const ordered: number[] = []
    sweep(probe.at(-1)!, ordered)
    for (const each of ordered) done[each] = 1
    order.push(...ordered)
  }
  const place = new Int32Array(size)
  order.reverse().forEach((i, at) => {
    place[i] = at
  })
  return place
}
