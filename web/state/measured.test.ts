import { newPart } from '@makrel/core/document'
import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import type { CallName, Request } from '../channel/protocol.ts'

/** A worker that answers each call by its name; what throws is a call that failed. */
let answers: Partial<Record<CallName, () => unknown>> = {}
let asked: CallName[] = []
class Answering extends EventTarget {
  onmessage: ((event: MessageEvent) => void) | undefined
  postMessage(request: Request | { readonly cancel: number }): void {
    if ('cancel' in request) return
    const { id, name } = request
    asked.push(name)
    queueMicrotask(() => {
      let response: object
      try {
        response = { id, ok: true, output: answers[name]?.() }
      } catch (error) {
        response = { id, ok: false, message: (error as Error).message }
      }
      this.onmessage?.(new MessageEvent('message', { data: response }))
    })
  }
  terminate(): void {}
}

beforeEach(() => {
  vi.resetModules()
  vi.stubGlobal('Worker', Answering)
  vi.stubGlobal('ImageBitmap', class {})
  asked = []
  answers = {
    build: () => ({ pieces: [], problems: [], readings: { values: {}, problems: [] }, buildMs: 1 }),
    proof: () => [],
    figures: () => ({}),
  }
})
afterEach(() => vi.unstubAllGlobals())

/** The state of a part that was opened, once all that is asked of it is answered. */
async function opened() {
  const { useBuild } = await import('./build.ts')
  const { usePart } = await import('./part.ts')
  const part = newPart({ part: 'tray', piece: 'p' }, 'Tray')
  usePart.setState({ part })
  return { part, state: () => useBuild.getState() }
}

test('a part that cannot be measured is proved all the same, and says why', async () => {
  answers.figures = () => {
    throw new Error('no memory left')
  }
  const { part, state } = await opened()
  await vi.waitFor(() => expect(state().unmeasured).toEqual({ of: part, why: 'no memory left' }))
  expect(state().proving).toMatchObject({ of: part, state: 'done' })
})

test('a proof that fails measures nothing, and that is said too', async () => {
  answers.proof = () => {
    throw new Error('no memory left')
  }
  const { part, state } = await opened()
  await vi.waitFor(() => expect(state().unmeasured).toEqual({ of: part, why: 'no memory left' }))
  expect(state().proving).toMatchObject({ of: part, state: 'failed' })
  expect(asked).not.toContain('figures')
})

test('what is measured has no reason why not', async () => {
  const { part, state } = await opened()
  await vi.waitFor(() => expect(asked).toContain('figures'))
  await vi.waitFor(() => expect(state().answered).toBe(part))
  expect(state().unmeasured).toBeUndefined()
})
