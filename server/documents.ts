import { type Limits, Readers } from '@makrel/threads'
import { builtBeside } from './beside.ts'
import type { Needing, Sent } from './documentWorker.ts'

const worker = builtBeside(import.meta.url, 'documentWorker')

/** A document names assets that are not kept here. */
export class MissingAssets extends Error {
  readonly statusCode = 422
  constructor(hashes: readonly string[]) {
    super(`The document names ${hashes.length} pictures or meshes that are not stored here; send them with it.`)
  }
}

/** Reads documents beside the server's own thread. */
export class Documents {
  readonly #readers: Readers

  /** The page waits for 30 s. */
  constructor(limits: Limits & { readonly patience?: number } = { longest: 10_000, memory: 1024, patience: 25_000 }) {
    this.#readers = new Readers({ worker, ...limits })
  }

  /**
   * The body of a request that keeps a part; `fresh` where that is a new one. Assets that it names by their hashes alone are
   * asked of `kept`.
   * @throws Unreadable
   */
  async sent(
    bytes: Uint8Array,
    fresh: boolean,
    kept: (hashes: readonly string[]) => Promise<ReadonlyMap<string, string>>,
  ): Promise<Sent> {
    const read = (known: Readonly<Record<string, string>>) =>
      this.#readers.run<Sent | Needing>('sent', { bytes, fresh, known })
    const first = await read({})
    if (!('needs' in first)) return first
    const again = await read(Object.fromEntries(await kept(first.needs)))
    if ('needs' in again) throw new MissingAssets(again.needs)
    return again
  }

  /**
   * A kept document as JSON in the current version.
   * @throws Unreadable
   */
  current(text: string): Promise<string> {
    return this.#readers.run('current', { text })
  }

  close(): Promise<void> {
    return this.#readers.close()
  }
}
