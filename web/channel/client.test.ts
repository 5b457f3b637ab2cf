import { newPart } from '@makrel/core/document'
import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { solids } from './client.ts'
import type { BuildAnswer } from './protocol.ts'
import { Stopped } from './work.ts'
import { readySolids } from './workers.ts'

/** A worker that only notes what it is sent. */
class Noting extends EventTarget {
  static all: Noting[] = []
  readonly sent: unknown[] = []
  onmessage: ((event: MessageEvent) => void) | undefined
  constructor() {
    super()
    Noting.all.push(this)
    this.addEventListener('message', (event) => this.onmessage?.(event as MessageEvent))
  }
  postMessage(data: unknown): void {
    this.sent.push(data)
  }
  tell(data: unknown): void {
    this.dispatchEvent(new MessageEvent('message', { data }))
  }
  terminate(): void {}
}

beforeEach(() => {
  Noting.all = []
  vi.stubGlobal('Worker', Noting)
  vi.stubGlobal('ImageBitmap', class {})
})
afterEach(() => vi.unstubAllGlobals())

const part = newPart({ part: 'tray', piece: 'p' }, 'Tray')
const answer = { pieces: [], problems: [], buildMs: 15.3 } as unknown as BuildAnswer

/** Asks for the part `wanted` where `part` has been asked for before the page was there, and gives the worker up after `work`. */
async function afterAhead(wanted: typeof part, work: (asked: Promise<BuildAnswer>, worker: Noting) => Promise<void>) {
  readySolids.start()
  readySolids.build(part)
  const asked = solids().call('build', { have: {} }, wanted)
  try {
    await work(asked, Noting.all[0]!)
  } finally {
    const last = solids().call('ghost', { step: 's' })
    solids().stop()
    await expect(last).rejects.toThrow(Stopped)
  }
}

const aheadOf = (whole: typeof part) => ({ id: 0, name: 'build', input: { have: {} }, part: { whole } })

test('a part that is built before the page asks for it is not built again', () =>
  afterAhead(part, async (asked, worker) => {
    expect(worker.sent).toEqual([aheadOf(part)])
    worker.tell({ id: 0, ok: true, output: answer })
    expect(await asked).toBe(answer)
    expect(Noting.all).toHaveLength(1)
    // What is asked for next is about the same part, which the worker has.
    const ghost = solids().call('ghost', { step: 's' }, part)
    expect(worker.sent.at(-1)).toEqual({ id: expect.any(Number), name: 'ghost', input: { step: 's' } })
    worker.tell({ id: (worker.sent.at(-1) as { id: number }).id, ok: true, output: undefined })
    await ghost
  }))

test('what became of it there reaches whoever asks for it, a failure too', () =>
  afterAhead(part, async (asked, worker) => {
    worker.tell({ id: 0, ok: false, message: 'the library was not there' })
    await expect(asked).rejects.toThrow('the library was not there')
  }))

test('another part than that takes its place', () => {
  const other = { ...part, name: 'Tray of 7' }
  return afterAhead(other, async (asked, worker) => {
    const [, cancelled, request] = worker.sent
    expect(cancelled).toEqual({ cancel: 0 })
    expect(request).toMatchObject({ name: 'build', part: { whole: other } })
    worker.tell({ id: (request as { id: number }).id, ok: true, output: answer })
    expect(await asked).toBe(answer)
  })
})
