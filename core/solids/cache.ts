import type { Solid } from '../kernel/index.ts'
import type { Problem } from '../problems/index.ts'

/** A solid kept for its content's key. `originals` are ids that its triangles carry and that nothing else has. */
export interface Entry {
  readonly key: string
  /** short and never used twice: what other keys are made of */
  readonly id: number
  readonly solid: Solid
  readonly originals: readonly number[]
  /** for the result of a run: which of its operands changed nothing */
  readonly idle: readonly number[]
  /** what was said while it was made */
  readonly told: readonly Told[]
  /** kept as long as it is */
  readonly parts: readonly Entry[]
  /** where the step came to several bodies: all of them, this one first */
  readonly bodies: readonly Entry[]
}

/** Said while something was made; where it belongs is known to the step that it is made for. */
export interface Told {
  readonly at: (path: readonly string[]) => Problem
  /** that something is not there: another body of the piece may have it */
  readonly missing?: true
}

/** What is made for a key; its solids are handed over. */
export interface Made {
  readonly solid: Solid
  /** further bodies */
  readonly more?: readonly Solid[]
  readonly originals?: readonly number[]
  readonly idle?: readonly number[]
  readonly told?: readonly Told[]
  readonly parts?: readonly Entry[]
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
  get(key: string, make: () => Made): Entry {
    let entry = this.#entries.get(key)
    if (entry) this.#entries.delete(key)
    else {
      const { solid, more = [], originals = [], idle = [], told = [], parts = [] } = make()
      const bodies: Entry[] = []
      entry = { key, id: this.#nextId++, solid, originals, idle, told, parts, bodies }
      bodies.push(entry, ...more.map((other, i) => this.further(`${key}#${i + 2}`, other)))
    }
    // A map keeps the order of insertion: put again, it is the latest used.
    this.#entries.set(key, entry)
    this.#used.add(entry)
    for (const part of entry.parts) this.#used.add(part)
    return entry
  }

  private further(key: string, solid: Solid): Entry {
    const bodies: Entry[] = []
    const entry: Entry = { key, id: this.#nextId++, solid, originals: [], idle: [], told: [], parts: [], bodies }
    bodies.push(entry)
    return entry
  }

  /** Tells which entries went. */
  trim(): Entry[] {
    const gone: Entry[] = []
    let triangles = 0
    let kept = 0
    for (const entry of [...this.#entries.values()].reverse()) {
      triangles += entry.bodies.reduce((sum, { solid }) => sum + solid.triangleCount(), 0)
      kept++
      if (this.#used.has(entry) || this.#lastBuild.has(entry)) continue
      if (triangles <= this.#mostTriangles && kept <= this.#mostEntries) continue
      this.#entries.delete(entry.key)
      for (const { solid } of entry.bodies) solid.release()
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
    for (const { bodies } of this.#entries.values()) for (const { solid } of bodies) solid.release()
    this.#entries.clear()
    this.finish()
    this.finish()
  }
}
