import 'fake-indexeddb/auto'
import { cleanup, configure } from '@testing-library/react'
import { afterEach, vi } from 'vitest'

/** A worker that never answers: a test tells the page itself what is known. */
class Silent extends EventTarget {
  postMessage(): void {}
  terminate(): void {}
}

vi.stubGlobal('Worker', Silent)
vi.stubGlobal('fetch', () => new Promise(() => undefined))

// What one test was told is nothing that the next one knows. After what workers are here: some are started at once.
const { useBuild } = await import('../state/build.ts')
const { usePart } = await import('../state/part.ts')
afterEach(() => {
  cleanup()
  usePart.setState(usePart.getInitialState(), true)
  useBuild.setState(useBuild.getInitialState(), true)
})
// A slow machine is not a fault.
configure({ asyncUtilTimeout: 20_000 })

/** What is painted goes nowhere: nothing of it could be read. */
HTMLCanvasElement.prototype.getContext = function nowhere(this: HTMLCanvasElement) {
  return new Proxy(
    {},
    {
      get: (_, name) => (name === 'canvas' ? this : name === 'measureText' ? () => ({ width: 0 }) : () => undefined),
      set: () => true,
    },
  )
} as never
