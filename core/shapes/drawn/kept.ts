import type { Drawn } from '../../plane/index.ts'

/** So many of one drawing: a value that is dragged leaves no more behind. */
const most = 24

/** Drawings made from other ones, kept as long as these are. */
export class Kept {
  readonly #made = new WeakMap<Drawn, Map<string, Drawn>>()

  get(from: Drawn, key: string, make: () => Drawn): Drawn {
    const own = this.#made.get(from) ?? new Map<string, Drawn>()
    this.#made.set(from, own)
    const known = own.get(key)
    if (known) return known
    const made = make()
    if (own.size >= most) own.delete(own.keys().next().value!)
    own.set(key, made)
    return made
  }
}
