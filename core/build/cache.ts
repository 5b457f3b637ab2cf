import type { Solid } from '../kernel/index.ts'

/** A solid kept for its content's key. `original` is the id that its triangles carry, where it has one of its own. */
export interface Entry {
  readonly key: string
  /** short and never used twice: what other keys are made of */
  readonly id: number
  readonly solid: Solid
  readonly original: number | undefined
  /** for the result of a run: which of its operands changed nothing */
  readonly idle: readonly number[]
}

/**
 * Solids by their content. It owns them and releases the longest unused ones when `trim` finds too many; between two
 * trims nothing is released, so what a build took from it is safe until the next build.
 */
export class SolidCache {
  readonly #entries = new Map<string, Entry>()
  #nextId = 1
  readonly #mostTriangles: number
  readonly #mostEntries: number

  constructor(limits: { triangles: number; entries: number } = { triangles: 4_000_000, entries: 3000 }) {
    this.#mostTriangles = limits.triangles
    this.#mostEntries = limits.entries
  }

  get size(): number {
    return this.#entries.size
  }

  /** The entry for `key`, made by `make` where it is missing. `make` hands its solid over. */
  get(key: string, make: () => { solid: Solid; original?: number; idle?: readonly number[] }): Entry {
    const known = this.#entries.get(key)
    if (known) {
      // A map keeps the order of insertion: put again, it is the latest used.
      this.#entries.delete(key)
      this.#entries.set(key, known)
      return known
    }
    const { solid, original, idle = [] } = make()
    const entry = { key, id: this.#nextId++, solid, original, idle }
    this.#entries.set(key, entry)
    return entry
  }

  /** Releases the longest unused entries until the rest is within the limits; tells which went. */
  trim(): Entry[] {
    const gone: Entry[] = []
    let triangles = 0
    let kept = 0
    for (const entry of [...this.#entries.values()].reverse()) {
      triangles += entry.solid.triangleCount()
      kept++
      if (triangles <= this.#mostTriangles && kept <= this.#mostEntries) continue
      this.#entries.delete(entry.key)
      entry.solid.release()
      gone.push(entry)
    }
    return gone
  }

  clear(): void {
    for (const entry of this.#entries.values()) entry.solid.release()
    this.#entries.clear()
  }
}
