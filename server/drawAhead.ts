import { setTimeout } from 'node:timers/promises'
import { type Limits, Readers } from '@makrel/threads'
import { builtBeside } from './beside.ts'
import type { Drawings } from './drawings.ts'
import type { PartStore } from './parts.ts'

/** Of so many parts, those changed last, there are drawings. */
const mostParts = 60

/** After so long without a change a part is drawn, ms. */
const restsAfter = 60_000

/** How often it is looked what has changed, ms. */
const lookEvery = 15_000

const drawLimits: Limits = { longest: 60_000, memory: 1024 }

/** Draws parts that nobody has opened yet, or that were changed since, one at a time and behind everything else. */
export class DrawAhead {
  readonly #store: PartStore
  readonly #drawings: Drawings
  readonly #readers: Readers
  readonly #closing = new AbortController()
  /** revisions of parts that were looked at, by owner and id */
  readonly #known = new Map<string, number>()
  #going: Promise<void> | undefined

  constructor(store: PartStore, drawings: Drawings) {
    this.#store = store
    this.#drawings = drawings
    this.#readers = new Readers({
      worker: builtBeside(import.meta.url, 'drawWorker'),
      ...drawLimits,
      lanes: 1,
      standsReady: false,
    })
  }

  /** Begins with all that there is. */
  start(): void {
    this.#going ??= this.goOn()
  }

  private async goOn(): Promise<void> {
    for (let rests = 0; !this.#closing.signal.aborted; rests = restsAfter) {
      await this.drawAll(rests).catch(() => undefined)
      await setTimeout(lookEvery, undefined, { signal: this.#closing.signal, ref: false }).catch(() => undefined)
    }
  }

  /** Draws what is not drawn and was not changed for so long, ms. */
  async drawAll(rests: number): Promise<void> {
    for (const { owner, id, revision, updatedAt } of await this.#store.changedLately(mostParts)) {
      if (this.#closing.signal.aborted) return
      const name = `${owner} ${id}`
      if (this.#known.get(name) === revision || Date.now() - updatedAt.getTime() < rests) continue
      const kept = await this.#store.shelf({ owner }).read(id)
      if (kept) await this.draw(kept.text).catch(() => undefined)
      // What can't be drawn is not tried again until it is changed.
      this.#known.set(name, revision)
    }
  }

  private async draw(text: string): Promise<void> {
    const sums = await this.#readers.run<readonly string[]>('sums', { text })
    const there = await Promise.all(sums.map((sum) => this.#drawings.has(sum)))
    if (there.every(Boolean)) return
    const bytes = await this.#readers.run<Uint8Array | undefined>('draw', { text })
    if (bytes) await this.#drawings.keep(sums, bytes)
  }

  async close(): Promise<void> {
    this.#closing.abort()
    await this.#readers.abandon()
    await this.#going
  }
}
