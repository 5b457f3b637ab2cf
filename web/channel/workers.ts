/** The workers that know the solid library. The one that draws may be started before anybody asks it: it gets ready meanwhile. */

export const startSolids = () =>
  new Worker(new URL('./solidsWorker.ts', import.meta.url), { type: 'module', name: 'solids' })
export const startChecks = () =>
  new Worker(new URL('./checkWorker.ts', import.meta.url), { type: 'module', name: 'checks' })

function createReady() {
  let ready: Worker | undefined
  return {
    start(): void {
      ready ??= startSolids()
    },
    taken(): Worker {
      const worker = ready ?? startSolids()
      ready = undefined
      return worker
    },
  }
}

export const readySolids = createReady()
