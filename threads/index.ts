import { attempt } from '@makrel/core/problems'
import { Piscina } from 'piscina'

export interface Limits {
  /** ms that one piece of work may take */
  readonly longest: number
  /** MB of heap that it may take */
  readonly memory: number
}

interface ReadersOptions extends Limits {
  /** the built worker, a file whose exports are the pieces of work */
  readonly worker: string
}

/** What a worker's function gives: what it read, or why it could not, in words for who sent the file. */
export type Answer<T> = { readonly value: T } | { readonly fault: string }

/** What is sent or given cannot be read; the message is for who sent it. */
export class Unreadable extends Error {
  readonly statusCode = 400
}

/**
 * A thread that reads what comes from elsewhere, one thing after the other: whatever is in it, the program goes on. What takes too long or too much
 * memory is given up, and takes only itself away.
 */
export class Readers {
  readonly #pool: Piscina
  readonly #limits: Limits
  /** settles when all that was asked for is done */
  #last: Promise<unknown> = Promise.resolve()

  constructor({ worker, longest, memory }: ReadersOptions) {
    this.#limits = { longest, memory }
    this.#pool = new Piscina({
      filename: worker,
      minThreads: 1,
      maxThreads: 1,
      idleTimeout: 60_000,
      resourceLimits: { maxOldGenerationSizeMb: memory },
    })
    // What a thread died of is told to who asked for the work.
    this.#pool.on('error', () => {})
  }

  /**
   * Runs the function `name` of the worker, in turn. Its time begins with its turn: a wait for others is not its own.
   * @throws Unreadable
   */
  run<T>(name: string, input: object): Promise<T> {
    const turn = this.#last.then(() => this.now<T>(name, input))
    this.#last = turn.catch(() => undefined)
    return turn
  }

  private async now<T>(name: string, input: object): Promise<T> {
    const { longest, memory } = this.#limits
    const giveUp = new AbortController()
    const timer = setTimeout(() => giveUp.abort(), longest)
    try {
      const answer: Answer<T> = await this.#pool.run(input, { name, signal: giveUp.signal })
      if ('fault' in answer) throw new Unreadable(answer.fault)
      return answer.value
    } catch (error) {
      if (giveUp.signal.aborted) throw new Unreadable(`It takes longer than ${longest / 1000} seconds to read.`)
      if ((error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY')
        throw new Unreadable(`It takes more than ${memory} MB of memory to read.`)
      throw error
    } finally {
      clearTimeout(timer)
    }
  }

  /** What is being read is finished first. */
  async close(): Promise<void> {
    await this.#last
    await this.#pool.close()
  }
}

/** On the worker's side: a problem with what was sent is its answer. */
export function answer<T>(work: () => T): Answer<T> {
  const result = attempt([], work)
  return result.ok ? { value: result.value } : { fault: result.problem.text }
}
