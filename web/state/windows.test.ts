import { afterEach, expect, it, vi } from 'vitest'

/** A browser's locks, of which others hold some; what `grants` says comes with the answer to the next question, as on a page that was busy. */
function locksWith(others: readonly string[], grants: readonly string[]) {
  const held = new Set(others)
  const waiting = new Map<string, () => void>()
  return {
    request(name: string, options: LockOptions, given: (lock: Lock | null) => unknown): Promise<unknown> {
      const grant = () => {
        held.add(name)
        return given({ name, mode: 'exclusive' })
      }
      if (!held.has(name) && !grants.includes(name)) return Promise.resolve(grant())
      if (options.ifAvailable) return Promise.resolve(given(null))
      return new Promise((_, reject) => {
        waiting.set(name, grant)
        options.signal?.addEventListener('abort', () => waiting.delete(name) && reject(options.signal?.reason))
      })
    },
    async query() {
      for (const name of grants) {
        waiting.get(name)?.()
        waiting.delete(name)
      }
      return { held: [...held].map((name) => ({ name })), pending: [] }
    },
  }
}

/** The name that a window takes which was called `before`. */
async function namedAfter(before: string, others: readonly string[], grants: readonly string[]): Promise<string> {
  vi.resetModules()
  vi.useFakeTimers()
  const store = new Map([['makrel-window', before]])
  vi.stubGlobal('sessionStorage', {
    getItem: (key: string) => store.get(key) ?? null,
    setItem: (key: string, value: string) => store.set(key, value),
  })
  vi.stubGlobal('navigator', { locks: locksWith(others, grants) })
  const { thisWindow } = await import('./windows.ts')
  await vi.advanceTimersByTimeAsync(60_000)
  const name = await thisWindow
  expect(store.get('makrel-window')).toBe(name)
  return name
}

afterEach(() => {
  vi.unstubAllGlobals()
  vi.useRealTimers()
})

it('a window keeps its name over a reload, also where it hears late that it may', async () => {
  expect(await namedAfter('k7', [], [])).toBe('k7')
  expect(await namedAfter('k7', [], ['makrel-window-k7'])).toBe('k7')
})

it('a window that was copied from one that is open gets another name', async () => {
  expect(await namedAfter('k7', ['makrel-window-k7'], [])).not.toBe('k7')
})
