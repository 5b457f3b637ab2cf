import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { api } from './api.ts'

beforeEach(() => void vi.useFakeTimers())
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

/** A server that answers with these, one after the other. */
function answering(...statuses: number[]) {
  const asked = vi.fn(async () => new Response(JSON.stringify({ error: 'busy' }), { status: statuses.shift() ?? 200 }))
  vi.stubGlobal('fetch', asked)
  return asked
}

it('asks a server that was too busy again, and gives up after the third time', async () => {
  const asked = answering(503, 503, 200)
  const open = api.read('a')
  await vi.advanceTimersByTimeAsync(10_000)
  await expect(open).resolves.toEqual({ error: 'busy' })
  expect(asked).toHaveBeenCalledTimes(3)

  const never = answering(503, 503, 503)
  const failed = expect(api.read('a')).rejects.toMatchObject({ status: 503, message: 'busy' })
  await vi.advanceTimersByTimeAsync(10_000)
  await failed
  expect(never).toHaveBeenCalledTimes(3)
})

it('asks once where something is wrong with what was sent', async () => {
  const asked = answering(400)
  await expect(api.read('a')).rejects.toMatchObject({ status: 400 })
  expect(asked).toHaveBeenCalledTimes(1)
})
