import 'fake-indexeddb/auto'
import { cleanup } from '@testing-library/react'
import { afterEach, vi } from 'vitest'

/** A worker that never answers: a test tells the page itself what is known. */
class Silent extends EventTarget {
  postMessage(): void {}
  terminate(): void {}
}

vi.stubGlobal('Worker', Silent)
vi.stubGlobal('fetch', () => new Promise(() => undefined))
afterEach(cleanup)
