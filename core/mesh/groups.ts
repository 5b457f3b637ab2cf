/** Things by their numbers, 0 up to a count, that are joined into groups (union–find with path halving). */
export class Groups {
  #parent: Uint32Array
  #count: number

  constructor(count = 0) {
    this.#count = count
    this.#parent = Uint32Array.from({ length: count }, (_, i) => i)
  }

  /** One thing more, in a group of its own: its number. */
  add(): number {
    if (this.#count === this.#parent.length) {
      const before = this.#parent
      this.#parent = new Uint32Array(2 * before.length + 16)
      this.#parent.set(before)
    }
    this.#parent[this.#count] = this.#count
    return this.#count++
  }

  /** One of a thing's group, the same for all of it. */
  of(thing: number): number {
    const parent = this.#parent
    let at = thing
    while (parent[at] !== at) {
      parent[at] = parent[parent[at]!]!
      at = parent[at]!
    }
    return at
  }

  join(a: number, b: number): void {
    this.#parent[this.of(a)] = this.of(b)
  }
}
