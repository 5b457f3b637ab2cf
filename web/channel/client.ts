import type { CallName, Calls, Request, Response } from './protocol.ts'
import { Stopped, useWork, workText } from './work.ts'

/** What runs for longer is told, and can be stopped, ms. */
const tolerable = 2000

interface Waiting {
  readonly name: CallName
  readonly since: number
  resolve(value: unknown): void
  reject(error: Error): void
}

interface ChannelOptions {
  /** work is given up by itself after so long, ms */
  readonly longest?: number
  /** whether what takes long is told; else it only ends by itself */
  readonly told?: boolean
  /** whether what was stopped is told, and can be done again from there */
  readonly again?: boolean
}

/** One worker and the calls that wait for it. A worker that is stopped in the middle of something is followed by another one. */
class Channel {
  readonly #start: () => Worker
  readonly #options: ChannelOptions
  readonly #waiting = new Map<number, Waiting>()
  #worker: Worker | undefined
  #nextId = 1
  #watch: ReturnType<typeof setInterval> | undefined

  constructor(start: () => Worker, options: ChannelOptions = {}) {
    this.#start = start
    this.#options = options
  }

  /** @throws Stopped where it is stopped, by hand or because it takes too long */
  call<N extends CallName>(name: N, input: Calls[N]['in']): Promise<Calls[N]['out']> {
    const id = this.#nextId++
    const request: Request<N> = { id, name, input }
    this.#worker ??= this.started()
    const worker = this.#worker
    this.#watch ??= setInterval(() => this.look(), 250)
    return new Promise((resolve, reject) => {
      this.#waiting.set(id, { name, since: performance.now(), resolve: resolve as (value: unknown) => void, reject })
      worker.postMessage(request)
    })
  }

  /** Gives up all that is asked for. */
  stop(why = 'It was stopped.'): void {
    const [oldest] = this.#waiting.values()
    if (!oldest) return
    this.#worker?.terminate()
    this.#worker = undefined
    const all = [...this.#waiting.values()]
    this.#waiting.clear()
    for (const { name, reject } of all) reject(new Stopped(name, why))
    if (this.#options.again) useWork.setState({ stopped: workText(oldest.name) })
    this.look()
  }

  private started(): Worker {
    const worker = this.#start()
    worker.onmessage = ({ data }: MessageEvent<Response>) => {
      const waiting = this.#waiting.get(data.id)
      this.#waiting.delete(data.id)
      if (data.ok) waiting?.resolve(data.output)
      else waiting?.reject(new Error(data.message))
      // The next one has had its turn from now on.
      const [next] = this.#waiting
      if (next) this.#waiting.set(next[0], { ...next[1], since: performance.now() })
    }
    worker.onerror = (event) => {
      for (const { reject } of this.#waiting.values()) reject(new Error(event.message || 'the worker stopped'))
      this.#waiting.clear()
      // The next call begins with another one.
      worker.terminate()
      if (this.#worker === worker) this.#worker = undefined
    }
    return worker
  }

  /** Tells what takes long, ends what takes too long. */
  private look(): void {
    const [oldest] = this.#waiting.values()
    const took = oldest ? performance.now() - oldest.since : 0
    const { longest = Infinity, told } = this.#options
    if (took > longest) {
      this.stop(`It took longer than ${Math.round(longest / 1000)} seconds.`)
      return
    }
    if (told) {
      const running =
        oldest && took > tolerable
          ? { text: workText(oldest.name), since: oldest.since, stop: () => this.stop() }
          : undefined
      const before = useWork.getState().running
      if (before?.since !== running?.since) useWork.setState({ running })
    }
    if (oldest) return
    clearInterval(this.#watch)
    this.#watch = undefined
  }
}

const solidWorker = () => new Worker(new URL('./worker.ts', import.meta.url), { type: 'module', name: 'solids' })

const editing = new Channel(solidWorker, { told: true, again: true })
const pictures = new Channel(solidWorker, { longest: 60_000 })
const reading = new Channel(
  () => new Worker(new URL('./readWorker.ts', import.meta.url), { type: 'module', name: 'reader' }),
  { told: true, longest: 60_000 },
)

/** The worker that builds the part being edited. */
export function solids(): Channel {
  return editing
}

/** A second one for the shelf's pictures, so that they never wait in front of an edit. */
export function pictureSolids(): Channel {
  return pictures
}

/** One that reads files from elsewhere: whatever is in them, the page goes on. */
export function reader(): Channel {
  return reading
}
