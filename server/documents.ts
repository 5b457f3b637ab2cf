import { fileURLToPath } from 'node:url'
import { type Limits, Readers } from '@makrel/threads'
import type { Sent } from './documentWorker.ts'

// Beside the built server, or where that is built to.
const worker = fileURLToPath(
  new URL(
    import.meta.url.endsWith('.ts') ? '../dist/server/documentWorker.js' : './documentWorker.js',
    import.meta.url,
  ),
)

/** Reads documents beside the server's own thread. */
export class Documents {
  readonly #readers: Readers

  constructor(limits: Limits = { longest: 10_000, memory: 1024 }) {
    this.#readers = new Readers({ worker, ...limits })
  }

  /**
   * The body of a request that keeps a part; `fresh` where that is a new one.
   * @throws Unreadable
   */
  sent(bytes: Uint8Array, fresh: boolean): Promise<Sent> {
    return this.#readers.run('sent', { bytes, fresh })
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
