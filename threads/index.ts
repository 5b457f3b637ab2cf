import { attempt } from '@makrel/core/problems'
import { Piscina } from 'piscina'

export interface Limits {
  /** ms of a processor that one piece of work may take */
  readonly longest: number
  /** MB of heap that it may take */
  readonly memory: number
}

interface ReadersOptions extends Limits {
  /** ms by the clock after which work that gets no processor is given up; six times the longest by default */
  readonly patience?: number
  /** the built worker, a file whose exports are the pieces of work */
  readonly worker: string
  /** so many things are read at a time; two by default */
  readonly lanes?: number
  /** whether a thread stands ready while nothing is read; by default one does */
  readonly standsReady?: boolean
}

/** What a worker's function gives: what it read, or why it could not, in words for who sent the file. */
export type Answer<T> = { readonly value: T } | { readonly fault: string }

/** What is sent or given cannot be read; the message is for who sent it. */
export class Unreadable extends Error {
  readonly statusCode = 400
}

/** The machine did not get to it: nothing is wrong with what was sent. */
export class Busy extends Error {
  readonly statusCode = 503
  constructor() {
    super('This machine is too busy to read it now; try again.')
  }
}

/** How often it is looked how much has been used, ms. */
const lookEvery = 200

/**
 * Threads that read what comes from elsewhere: whatever is in it, the program goes on. What takes too long or too much memory is given up, and
 * takes only itself away.
 */
export class Readers {
  readonly #pool: Piscina
  readonly #limits: Required<Pick<ReadersOptions, 'longest' | 'memory' | 'patience'>>
  readonly #lanes: number
  #running = 0
  /** those that wait for their turn, the first one first */
  readonly #waiting: (() => void)[] = []
  /** all that was asked for and is not done */
  readonly #asked = new Set<Promise<unknown>>()

  constructor(options: ReadersOptions) {
    const { worker, longest, memory, patience = 6 * longest, lanes = 2, standsReady = true } = options
    this.#lanes = lanes
    this.#limits = { longest, memory, patience }
    this.#pool = new Piscina({
      filename: worker,
      minThreads: standsReady ? 1 : 0,
      maxThreads: lanes,
      idleTimeout: 60_000,
      resourceLimits: { maxOldGenerationSizeMb: memory },
    })
    // What a thread died of is told to who asked for the work.
    this.#pool.on('error', () => {})
  }

  /**
   * Runs the function `name` of the worker, in turn. Its time begins with its turn: a wait for others is not its own.
   * @throws Unreadable, Busy
   */
  run<T>(name: string, input: object): Promise<T> {
    const work = this.inTurn(() => this.now<T>(name, input))
    const done = work.then(
      () => undefined,
      () => undefined,
    )
    this.#asked.add(done)
    void done.then(() => this.#asked.delete(done))
    return work
  }

  private async inTurn<T>(work: () => Promise<T>): Promise<T> {
    if (this.#running < this.#lanes) this.#running++
    // Whoever is done hands its place on.
    else await new Promise<void>((go) => void this.#waiting.push(go))
    try {
      return await work()
    } finally {
      const next = this.#waiting.shift()
      if (next) next()
      else this.#running--
    }
  }

  private async now<T>(name: string, input: object): Promise<T> {
    const { longest, memory, patience } = this.#limits
    const giveUp = new AbortController()
    const began = performance.now()
    let why: Error | undefined
    let used = 0
    let before = process.cpuUsage()
    // Nobody tells how much one thread has used: of what the process did, each that runs has its share.
    const timer = setInterval(() => {
      const { user, system } = process.cpuUsage(before)
      before = process.cpuUsage()
      used += (user + system) / 1000 / this.#running
      if (used > longest) why = new Unreadable(`It takes longer than ${longest / 1000} seconds to read.`)
      else if (performance.now() - began > patience) why = new Busy()
      if (why) giveUp.abort()
    }, lookEvery)
    try {
      const answer: Answer<T> = await this.#pool.run(input, { name, signal: giveUp.signal })
      if ('fault' in answer) throw new Unreadable(answer.fault)
      return answer.value
    } catch (error) {
      if (why) throw why
      if ((error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY')
        throw new Unreadable(`It takes more than ${memory} MB of memory to read.`)
      throw error
    } finally {
      clearInterval(timer)
    }
  }

  /** What is being read is finished first. */
  async close(): Promise<void> {
    await Promise.all(this.#asked)
    await this.#pool.close()
  }

  /** What is being read is given up. */
  async abandon(): Promise<void> {
    await this.#pool.destroy()
  }
}

/** On the worker's side: a problem with what was sent is its answer. */
export function answer<T>(work: () => T): Answer<T> {
  const result = attempt([], work)
  return result.ok ? { value: result.value } : { fault: result.problem.text }
}
