/**
 * Points in single precision, each place once and numbered from 0: a table of hashes (open addressing, Knuth, The Art of Computer
 * Programming 3, 6.4), since a text for each point would take most of the time that a solid takes.
 */
export class Places {
  readonly #table: Int32Array
  readonly #mask: number
  readonly #values: Float32Array
  readonly #bits: Int32Array
  #count = 0

  /** `most`: how many points there may be */
  constructor(most: number) {
    const size = 2 ** Math.ceil(Math.log2(2 * most + 2))
    this.#table = new Int32Array(size).fill(-1)
    this.#mask = size - 1
    this.#values = new Float32Array(3 * most)
    this.#bits = new Int32Array(this.#values.buffer)
  }

  get count(): number {
    return this.#count
  }

  /** x, y, z of each place, in their order. */
  get values(): Float32Array {
    return this.#values.subarray(0, 3 * this.#count)
  }

  /** The number of a place, as single precision has it; a new one where it was not there. */
  add(x: number, y: number, z: number): number {
    const slot = this.slot(x, y, z)
    const known = this.#table[slot]!
    if (known >= 0) return known
    const number = this.#count++
    this.#table[slot] = number
    return number
  }

  /** The number of a place; −1 where it is not there. */
  at(x: number, y: number, z: number): number {
    return this.#table[this.slot(x, y, z)]!
  }

  /** Where in the table a place is, or would be. Its numbers are left behind the last point. */
  private slot(x: number, y: number, z: number): number {
    const [values, bits] = [this.#values, this.#bits]
    const next = 3 * this.#count
    // Of both zeros there is one.
    const [fx, fy, fz] = [Math.fround(x) + 0, Math.fround(y) + 0, Math.fround(z) + 0]
    scratch[0] = fx
    scratch[1] = fy
    scratch[2] = fz
    const [a, b, c] = [scratchBits[0]!, scratchBits[1]!, scratchBits[2]!]
    let hash = Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b) ^ Math.imul(c, 0xc2b2ae35)
    hash ^= hash >>> 15
    for (let slot = hash & this.#mask; ; slot = (slot + 1) & this.#mask) {
      const known = this.#table[slot]!
      if (known < 0) {
        if (next + 2 < values.length) values.set(scratch, next)
        return slot
      }
      if (bits[3 * known] === a && bits[3 * known + 1] === b && bits[3 * known + 2] === c) return slot
    }
  }
}

const scratch = new Float32Array(3)
const scratchBits = new Int32Array(scratch.buffer)
