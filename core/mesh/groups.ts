/** Things by their numbers, 0 up to a count, that are joined into groups (union–find with path halving). */
export class Groups {
  readonly #parent: Uint32Array

  constructor(count: number) {
    this.#parent = Uint32Array.from({ length: count }, (_, i) => i)
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
