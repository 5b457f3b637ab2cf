import { type Part, patchBetween } from '@makrel/core/document'
import {
  type CallName,
  type Calls,
  type Cancelling,
  type NameOf,
  overtakes,
  type PartSent,
  type Progress,
  type Request,
  type Response,
} from './protocol.ts'
import { Overtaken, Stopped, useWork, workText } from './work.ts'
import { type BuiltAhead, readySolids, startChecks, startSolids } from './workers.ts'

/** What runs for longer is told, and can be stopped, ms. */
const tolerable = 2000

interface Waiting {
  readonly name: CallName
  readonly since: number
  /** how far it is, in words; empty where that is not told */
  readonly far: string
  readonly progress: ((told: Progress) => void) | undefined
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

/** A worker as it is given to a channel. */
interface Started {
  readonly worker: Worker
  /** what it has begun already */
  readonly ahead?: BuiltAhead | undefined
}

/** A copy of what lies on the graphics card would keep the page waiting. */
const isGivenAway = (value: unknown) => value instanceof ImageBitmap

/** One worker and the calls that wait for it. A worker that is stopped in the middle of something is followed by another one. */
class Channel<Names extends CallName> {
  readonly #start: () => Started
  readonly #options: ChannelOptions
  readonly #waiting = new Map<number, Waiting>()
  #worker: Worker | undefined
  /** the part that the worker has */
  #sent: Part | undefined
  #ahead: BuiltAhead | undefined
  #nextId = 1
  #watch: ReturnType<typeof setInterval> | undefined

  constructor(start: () => Started, options: ChannelOptions = {}) {
    this.#start = start
    this.#options = options
  }

  /**
   * Asks the worker for something, about `part` where that is given: what has changed of it is sent along. `progress` is told how far it is.
   * @throws Stopped where it is stopped, by hand or because it takes too long
   * @throws Overtaken where a newer call takes its place
   */
  call<N extends Names>(
    name: N,
    input: Calls[N]['in'],
    part?: Part,
    progress?: (told: Progress) => void,
  ): Promise<Calls[N]['out']> {
    const id = this.#nextId++
    this.#worker ??= this.started()
    const worker = this.#worker
    this.overtake(overtakes[name] ?? [])
    const ahead = this.takenAhead(name, part)
    const sent = part && this.changed(part)
    const request: Request<N> = { id, name, input, ...(sent ? { part: sent } : {}) }
    this.#watch ??= setInterval(() => this.look(), 250)
    return new Promise((resolve, reject) => {
      const since = performance.now()
      const settle = { resolve: resolve as (value: unknown) => void, reject }
      this.#waiting.set(id, { name, since, far: '', progress, ...settle })
      if (ahead) void ahead.answer.then((response) => this.answered({ ...response, id }))
      else worker.postMessage(request, Object.values(input).filter(isGivenAway))
    })
  }

  /** What the worker was asked for before the page was there, where it is this very part: only the first call is given it. */
  private takenAhead(name: CallName, part: Part | undefined): BuiltAhead | undefined {
    const ahead = this.#ahead
    this.#ahead = undefined
    if (!ahead) return undefined
    if (name === 'build' && ahead.part === part) {
      this.#sent = part
      return ahead
    }
    this.#worker?.postMessage({ cancel: ahead.id } satisfies Cancelling)
    return undefined
  }

  private answered(response: Response): void {
    const waiting = this.#waiting.get(response.id)
    this.#waiting.delete(response.id)
    if (response.ok) waiting?.resolve(response.output)
    else waiting?.reject(new Error(response.message))
    // The next one has had its turn from now on.
    const [next] = this.#waiting
    if (next) this.#waiting.set(next[0], { ...next[1], since: performance.now() })
  }

  /** Nobody waits any more for these. */
  overtake(names: readonly CallName[]): void {
    for (const [id, { name, reject }] of this.#waiting) {
      if (!names.includes(name)) continue
      this.#waiting.delete(id)
      this.#worker?.postMessage({ cancel: id } satisfies Cancelling)
      reject(new Overtaken())
    }
  }

  /** Gives up all that is asked for. */
  stop(why = 'It was stopped.'): void {
    const [oldest] = this.#waiting.values()
    if (!oldest) return
    this.ended()
    const all = [...this.#waiting.values()]
    this.#waiting.clear()
    for (const { name, reject } of all) reject(new Stopped(name, why))
    if (this.#options.again) useWork.setState({ stopped: workText(oldest.name) })
    this.look()
  }

  private changed(part: Part): PartSent | undefined {
    const before = this.#sent
    if (before === part) return undefined
    this.#sent = part
    return before?.id === part.id ? { patch: patchBetween(before, part) } : { whole: part }
  }

  private ended(): void {
    this.#worker?.terminate()
    this.#worker = undefined
    this.#sent = undefined
    this.#ahead = undefined
  }

  private started(): Worker {
    const { worker, ahead } = this.#start()
    this.#ahead = ahead
    worker.onmessage = ({ data }: MessageEvent<Response | Progress>) => {
      if (!('done' in data)) return this.answered(data)
      const waiting = this.#waiting.get(data.id)
      if (waiting) this.#waiting.set(data.id, { ...waiting, far: `${data.done + 1} of ${data.of}` })
      waiting?.progress?.(data)
    }
    worker.onerror = (event) => {
      for (const { reject } of this.#waiting.values()) reject(new Error(event.message || 'the worker stopped'))
      this.#waiting.clear()
      // The next call begins with another one.
      if (this.#worker === worker) this.ended()
      else worker.terminate()
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
      const { running: before } = useWork.getState()
      const own = before?.of === this
      if (oldest && took > tolerable) {
        const text = oldest.far ? `${workText(oldest.name)}, ${oldest.far}` : workText(oldest.name)
        // What has run longest is told, of whichever worker.
        if (own ? before.text !== text || before.since !== oldest.since : !before)
          useWork.setState({
            running: { of: this, call: oldest.name, text, since: oldest.since, stop: () => this.stop() },
          })
      } else if (own) useWork.setState({ running: undefined })
    }
    if (oldest) return
    clearInterval(this.#watch)
    this.#watch = undefined
  }
}

const editing = new Channel<NameOf<'solids'>>(readySolids.taken, { told: true, again: true })
const pictures = new Channel<NameOf<'solids'>>(() => ({ worker: startSolids() }), { longest: 60_000 })
const checking = new Channel<NameOf<'checks'>>(() => ({ worker: startChecks() }), { told: true, again: true })
const bending = new Channel<NameOf<'checks'>>(() => ({ worker: startChecks() }), { told: true, again: true })
const picking = new Channel<NameOf<'picking'>>(() => ({
  worker: new Worker(new URL('./pickWorker.ts', import.meta.url), { type: 'module', name: 'picking' }),
}))
const reading = new Channel<NameOf<'files'>>(
  () => ({ worker: new Worker(new URL('./readWorker.ts', import.meta.url), { type: 'module', name: 'reader' }) }),
  { told: true, longest: 60_000 },
)

/** The worker that builds the part being edited. */
export function solids(): Channel<NameOf<'solids'>> {
  return editing
}

/** A second one that proves, measures and hands off: an edit never waits for it. */
export function checks(): Channel<NameOf<'checks'>> {
  return checking
}

/** Another one for the flex test that is looked at: it never waits for a proof, which may try many. */
export function bender(): Channel<NameOf<'checks'>> {
  return bending
}

/** One that sorts triangles for the pointer. */
export function picker(): Channel<NameOf<'picking'>> {
  return picking
}

/** One for the shelf's pictures, so that they never wait in front of an edit. */
export function pictureSolids(): Channel<NameOf<'solids'>> {
  return pictures
}

/** One that reads files from elsewhere: whatever is in them, the page goes on. */
export function reader(): Channel<NameOf<'files'>> {
  return reading
}
