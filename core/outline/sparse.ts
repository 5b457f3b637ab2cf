/**
 * Symmetric positive systems whose unknowns are coupled in few places: Cholesky's factors, with the unknowns taken in the
 * order of least degree (Tinney and Walker 1967), which leaves chains and stars, and so drawings, nearly as empty as they were.
 *
 *     unknown v is taken: its column has an entry for each unknown that is still coupled with it,
 *     and these are coupled with one another from then on
 */
export class Coupled {
  readonly size: number
  /** all entries: first the diagonal, by unknown, then the others, column by column */
  readonly values: Float64Array
  readonly #order: Int32Array
  /** of each unknown: the unknowns that its column has entries for, and where these begin in `values` */
  readonly #rows: readonly Int32Array[]
  readonly #start: Int32Array
  /** for each pair of entries of a column, in turn: the entry that their product is taken from */
  readonly #targets: readonly Int32Array[]
  readonly #slots: ReadonlyMap<number, number>

  /** `groups`: sets of unknowns, from 0 to size − 1, that have entries with one another. */
  constructor(size: number, groups: readonly (readonly number[])[]) {
    this.size = size
    const { order, columns } = eliminated(size, groups)
    this.#order = Int32Array.from(order)
    this.#rows = columns.map((rows) => Int32Array.from(rows))
    this.#start = new Int32Array(size)
    const rank = new Int32Array(size)
    order.forEach((v, i) => {
      rank[v] = i
    })
    const slots = new Map<number, number>()
    let next = size
    for (const v of order) {
      this.#start[v] = next
      for (const row of columns[v]!) slots.set(this.key(v, row), next++)
    }
    this.#slots = slots
    this.values = new Float64Array(next)
    this.#targets = columns.map((rows) => {
      const out = new Int32Array((rows.length * (rows.length + 1)) / 2)
      let at = 0
      for (let b = 0; b < rows.length; b++) for (let a = 0; a <= b; a++) out[at++] = this.slot(rows[a]!, rows[b]!)
      return out
    })
  }

  private key(i: number, k: number): number {
    return i < k ? i * this.size + k : k * this.size + i
  }

  /** Where the entry of unknowns i and k, which are coupled, lies in `values`. */
  slot(i: number, k: number): number {
    return i === k ? i : this.#slots.get(this.key(i, k))!
  }

  /** Factors `values` in place, with `raised` added to the diagonal. False where the matrix is not positive. */
  factor(raised: number): boolean {
    const { values } = this
    for (let v = 0; v < this.size; v++) values[v] = values[v]! + raised
    for (const v of this.#order) {
      const diagonal = values[v]!
      if (!(diagonal > 0)) return false
      const root = Math.sqrt(diagonal)
      values[v] = root
      const [start, count, targets] = [this.#start[v]!, this.#rows[v]!.length, this.#targets[v]!]
      for (let b = 0; b < count; b++) values[start + b] = values[start + b]! / root
      let at = 0
      for (let b = 0; b < count; b++) {
        const factor = values[start + b]!
        for (let a = 0; a <= b; a++) {
          const target = targets[at++]!
          values[target] = values[target]! - factor * values[start + a]!
        }
      }
    }
    return true
  }

  /** Solves for the right side `b` after `factor`. */
  solve(b: Float64Array): Float64Array {
    const { values } = this
    const y = b.slice()
    for (const v of this.#order) {
      const rows = this.#rows[v]!
      const value = y[v]! / values[v]!
      y[v] = value
      for (let a = 0; a < rows.length; a++) y[rows[a]!] = y[rows[a]!]! - values[this.#start[v]! + a]! * value
    }
    for (let i = this.size - 1; i >= 0; i--) {
      const v = this.#order[i]!
      const rows = this.#rows[v]!
      let sum = y[v]!
      for (let a = 0; a < rows.length; a++) sum -= values[this.#start[v]! + a]! * y[rows[a]!]!
      y[v] = sum / values[v]!
    }
    return y
  }
}

/** The order of least degree, and for each unknown those that are coupled with it when it is taken. */
function eliminated(size: number, groups: readonly (readonly number[])[]) {
  const near = Array.from({ length: size }, () => new Set<number>())
  for (const group of groups) for (const i of group) for (const k of group) if (i !== k) near[i]!.add(k)
  const order: number[] = []
  const columns: number[][] = Array.from({ length: size }, () => [])
  // Unknowns by their degree; what is out of date in a list is passed over.
  const byDegree: number[][] = []
  const file = (v: number) => {
    const degree = near[v]!.size
    for (let d = byDegree.length; d <= degree; d++) byDegree.push([])
    byDegree[degree]!.push(v)
  }
  const done = new Uint8Array(size)
  for (let v = 0; v < size; v++) file(v)
  for (let degree = 0; order.length < size; ) {
    const v = byDegree[degree]!.pop()
    if (v === undefined) {
      degree++
      continue
    }
    if (done[v] || near[v]!.size !== degree) continue
    done[v] = 1
    order.push(v)
    const rows = [...near[v]!]
    columns[v] = rows
    for (const row of rows) {
      near[row]!.delete(v)
      for (const other of rows) if (other !== row) near[row]!.add(other)
    }
    for (const row of rows) {
      file(row)
      degree = Math.min(degree, near[row]!.size)
    }
  }
  return { order, columns }
}
