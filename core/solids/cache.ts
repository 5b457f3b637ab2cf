import type { Solid } from '../kernel/index.ts'

/** A solid kept for its content's key. `originals` are ids that its triangles carry and that nothing else has. */
export interface Entry {
  readonly key: string
  /** short and never used twice: what other keys are made of */
  readonly id: number
  readonly solid: Solid
  readonly originals: readonly number[]
  /** for the result of a run: which of its operands changed nothing */
  readonly idle: readonly number[]
}

/**
 * Solids by their content. It owns them. `trim` releases the longest unused ones beyond the limit, but none of the last
 * build that was finished, nor of one that was not: what a build gave out is safe until the next one is finished, and a
 * large part does not push itself out.
 */
export class SolidCache {
  readonly #entries = new Map<string, Entry>()
  #used = new Set<Entry>()
  #lastBuild: ReadonlySet<Entry> = new Set()
  #nextId = 1
  readonly #mostTriangles: number
  readonly #mostEntries: number

  constructor(limits: { triangles: number; entries: number } = { triangles: 1_000_000, entries: 1000 }) {
    this.#mostTriangles = limits.triangles
    this.#mostEntries = limits.entries
  }

  get size(): number {
    return this.#entries.size
  }

  /** The entry for `key`, made by `make` where it is missing. `make` hands its solid over. */
  get(key: string, make: () => { solid: Solid; originals?: readonly number[]; idle?: readonly number[] }): Entry {
    let entry = this.#entries.get(key)
    if (entry) this.#entries.delete(key)
    else {
      const { solid, originals = [], idle = [] } = make()
      entry = { key, id: this.#nextId++, solid, originals, idle }
    }
    // A map keeps the order of insertion: put again, it is the latest used.
    this.#entries.set(key, entry)
    this.#used.add(entry)
    return entry
  }

  /** Tells which entries went. */
  trim(): Entry[] {
    const gone: Entry[] = []
    let triangles = 0
    let kept = 0
    for (const entry of [...this.#entries.values()].reverse()) {
      triangles += entry.solid.triangleCount()
      kept++
      if (this.#used.has(entry) || this.#lastBuild.has(entry)) continue
      if (triangles <= this.#mostTriangles && kept <= this.#mostEntries) continue
      this.#entries.delete(entry.key)
      entry.solid.release()
      gone.push(entry)
    }
    return gone
  }

  /** A build is finished: what it used is what is safe from now on. */
  finish(): void {
    this.#lastBuild = this.#used
    this.#used = new Set()
  }

  clear(): void {
    for (const entry of this.#entries.values()) entry.solid.release()
    this.#entries.clear()
    this.finish()
    this.finish()
  }
}
