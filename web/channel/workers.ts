import type { Part } from '@makrel/core/document'
import type { Progress, Request, Response } from './protocol.ts'

/** The workers that know the solid library. The one that draws may be started before anybody asks it: it gets ready meanwhile. */

export const startSolids = () =>
  new Worker(new URL('./solidsWorker.ts', import.meta.url), { type: 'module', name: 'solids' })
export const startChecks = () =>
  new Worker(new URL('./checkWorker.ts', import.meta.url), { type: 'module', name: 'checks' })

/** A part that a worker builds before the page is there to ask for it. */
export interface BuiltAhead {
  /** of the call */
  readonly id: number
  readonly part: Part
  readonly answer: Promise<Response>
}

/** No call of the page has this one. */
const aheadId = 0

function createReady() {
  let ready: Worker | undefined
  let ahead: BuiltAhead | undefined
  return {
    start(): void {
      ready ??= startSolids()
    },
    /** Builds a part, once, as long as the page has not taken the worker. */
    build(part: Part): void {
      if (!ready || ahead) return
      const worker = ready
      const answer = new Promise<Response>((resolve) => {
        const listen = ({ data }: MessageEvent<Response | Progress>) => {
          if (data.id !== aheadId || 'done' in data) return
          worker.removeEventListener('message', listen)
          resolve(data)
        }
        worker.addEventListener('message', listen)
      })
      worker.postMessage({ id: aheadId, name: 'build', input: { have: {} }, part: { whole: part } } satisfies Request)
      ahead = { id: aheadId, part, answer }
    },
    taken(): { worker: Worker; ahead?: BuiltAhead | undefined } {
      const taken = { worker: ready ?? startSolids(), ahead }
      ready = undefined
      ahead = undefined
      return taken
    },
  }
}

export const readySolids = createReady()
