import type { CallName, Calls, Request, Response } from './protocol.ts'

/** One worker and the calls that wait for it. */
class Channel {
  readonly #worker: Worker
  readonly #waiting = new Map<number, { resolve(value: unknown): void; reject(error: Error): void }>()
  #nextId = 1

  constructor() {
    this.#worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module', name: 'solids' })
    this.#worker.onmessage = ({ data }: MessageEvent<Response>) => {
      const waiting = this.#waiting.get(data.id)
      this.#waiting.delete(data.id)
      if (data.ok) waiting?.resolve(data.output)
      else waiting?.reject(new Error(data.message))
    }
    this.#worker.onerror = (event) => {
      for (const { reject } of this.#waiting.values()) reject(new Error(event.message || 'the worker stopped'))
      this.#waiting.clear()
    }
  }

  call<N extends CallName>(name: N, input: Calls[N]['in']): Promise<Calls[N]['out']> {
    const id = this.#nextId++
    const request: Request<N> = { id, name, input }
    return new Promise((resolve, reject) => {
      this.#waiting.set(id, { resolve: resolve as (value: unknown) => void, reject })
      this.#worker.postMessage(request)
    })
  }
}

let editing: Channel | undefined
let pictures: Channel | undefined

/** The worker that builds the part being edited. */
export function solids(): Channel {
  editing ??= new Channel()
  return editing
}

/** A second one for the shelf's pictures, so that they never wait in front of an edit. */
export function pictureSolids(): Channel {
  pictures ??= new Channel()
  return pictures
}
