import type { Sequelize, Transaction } from 'sequelize'

type Work<T> = (transaction: Transaction) => Promise<T>
interface Waiting {
  readonly work: Work<unknown>
  done(value: unknown): void
  failed(error: unknown): void
}

/** Whether the last write could be done, and how many wait for their turn. */
export interface Health {
  readonly ok: boolean
  readonly waiting: number
}

/** As many are written together at most, so that none waits for long. */
const together = 50

/**
 * Writes run one after another. Those that wait while another one is written are written in one transaction: the disk is
 * waited for once. Where one of them fails, each is tried by itself, so that work may run twice; nobody is answered
 * before his own is on the disk.
 */
export class Writes {
  readonly #database: Sequelize
  #waiting: Waiting[] = []
  #running: Promise<void> | undefined
  #failing = false

  constructor(database: Sequelize) {
    this.#database = database
  }

  write<T>(work: Work<T>): Promise<T> {
    return new Promise<T>((done, failed) => {
      this.#waiting.push({ work, done: done as (value: unknown) => void, failed })
      this.#running ??= this.run()
    })
  }

  health(): Health {
    return { ok: !this.#failing, waiting: this.#waiting.length }
  }

  /** Resolves when every write that was asked for is done. */
  async settled(): Promise<void> {
    while (this.#running) await this.#running
  }

  private async run(): Promise<void> {
    while (this.#waiting.length > 0) {
      const all = this.#waiting.splice(0, together)
      if (!(await this.asOne(all))) for (const one of all) await this.alone(one)
    }
    this.#running = undefined
  }

  private async asOne(all: readonly Waiting[]): Promise<boolean> {
    try {
      const values = await this.#database.transaction(async (transaction) => {
        const values: unknown[] = []
        for (const { work } of all) values.push(await work(transaction))
        return values
      })
      this.#failing = false
      for (const [i, { done }] of all.entries()) done(values[i])
      return true
    } catch {
      return false
    }
  }

  private async alone({ work, done, failed }: Waiting): Promise<void> {
    try {
      const value = await this.#database.transaction(work)
      this.#failing = false
      done(value)
    } catch (error) {
      this.#failing = true
      failed(error)
    }
  }
}
