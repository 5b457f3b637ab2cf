import 'fake-indexeddb/auto'
import { newPart } from '@makrel/core/document'
import { expect, it, vi } from 'vitest'

const part = newPart({ part: 'a', piece: 'p' }, 'A')

it('takes back what was done before the checks were there, where it could not be kept', async () => {
  vi.stubGlobal(
    'fetch',
    async () => new Response(JSON.stringify({ revision: 2, updatedAt: new Date(0).toISOString() })),
  )
  // As they are when the page has just come.
  vi.resetModules()
  const { usePart } = await import('./part.ts')
  const state = () => usePart.getState()
  state().open(part, 1, new Date(0))
  expect(state().edit({ type: 'rename', name: 'B' })).toBe(true)
  expect(state().edit({ type: 'rename', name: 'x'.repeat(121) })).toBe(true)
  await vi.waitFor(() => expect(state().part?.name).toBe('B'))
  // From then on it is not done at all.
  expect(state().edit({ type: 'rename', name: 'y'.repeat(121) })).toBe(false)
  expect(state().part?.name).toBe('B')
  vi.unstubAllGlobals()
})
