/** Savings that run one after another, also past the closing of their part. */
export class Queue {
  #last: Promise<unknown> = Promise.resolve()

  /** Does some saving after all that was asked for before; a failure is nobody else's. */
  add(saving: () => Promise<unknown>): Promise<void> {
    this.#last = this.#last.then(saving).catch(() => undefined)
    return this.all()
  }

  /** Resolves when everything made so far is with the server, or could not be brought there. */
  async all(): Promise<void> {
    await this.#last
  }
}

export const saves = new Queue()
