import { describe, expect, it } from 'vitest'
import { testKernel } from '../testing/index.ts'
import { SolidCache } from './cache.ts'

const kernel = await testKernel()

/** A cache, and a way to ask it for solids of 12 triangles; tells which had to be made. */
function filled(limits: { triangles: number; entries: number }) {
  const cache = new SolidCache(limits)
  const made: string[] = []
  const ask = (...keys: readonly string[]) => {
    for (const key of keys)
      cache.get(key, () => {
        made.push(key)
        const solid = kernel.scope((scope) => scope.handOver(scope.extrude([square], 1)))
        return { solid, originals: [key.charCodeAt(0)] }
      })
    return made.splice(0)
  }
  const build = (...keys: readonly string[]) => {
    const gone = cache.trim().flatMap(({ originals }) => originals.map((code) => String.fromCharCode(code)))
    const fresh = ask(...keys)
    cache.finish()
    return { gone, fresh }
  }
  return { cache, ask, build }
}
const square = [
  [0, 0],
  [3, 0],
  [3, 3],
  [0, 3],
] as const

describe('the cache of solids', () => {
  it('gives again what it has, and lets go of what was used longest ago', () => {
    const before = kernel.live
    const { cache, build } = filled({ triangles: 1e6, entries: 3 })
    expect(build('a', 'b')).toEqual({ gone: [], fresh: ['a', 'b'] })
    expect(build('b', 'c')).toEqual({ gone: [], fresh: ['c'] })
    expect(build('c', 'd')).toEqual({ gone: [], fresh: ['d'] })
    // Four are there: the one that was asked for longest ago goes, at the next build.
    expect(build('d')).toEqual({ gone: ['a'], fresh: [] })
    expect(cache.size).toBe(3)
    expect(build('b')).toEqual({ gone: [], fresh: [] })
    expect(build('a').fresh).toEqual(['a'])
    expect(kernel.live - before).toBe(cache.size)
    cache.clear()
    expect([cache.size, kernel.live - before]).toEqual([0, 0])
  })
  it('counts triangles as well', () => {
    const { cache, build } = filled({ triangles: 36, entries: 100 })
    build('a')
    build('b')
    build('c')
    expect(build('d').gone).toEqual([])
    expect(build('e').gone).toEqual(['a'])
    cache.clear()
  })
  it('keeps all of the last build that was finished, and of one that was not, however large', () => {
    const { cache, ask, build } = filled({ triangles: 12, entries: 1 })
    build('a', 'b', 'c')
    expect(cache.size).toBe(3)
    // Begun and stopped.
    cache.trim()
    ask('d')
    expect(cache.trim()).toEqual([])
    expect(cache.size).toBe(4)
    build('e')
    expect(build('e').gone.sort()).toEqual(['a', 'b', 'c'])
    cache.clear()
  })
  it('keeps what something was made with as long as that is used', () => {
    const { cache, ask } = filled({ triangles: 1e6, entries: 1 })
    const solid = () => kernel.scope((scope) => scope.handOver(scope.extrude([square], 1)))
    const whole = () =>
      cache.get('whole', () => ({ solid: solid(), parts: [cache.get('part', () => ({ solid: solid() }))] }))
    for (let build = 0; build < 3; build++) {
      whole()
      cache.finish()
      expect(cache.trim()).toEqual([])
      expect(cache.size).toBe(2)
    }
    ask('a')
    cache.finish()
    expect(cache.trim().map(({ key }) => key)).toEqual(['whole', 'part'])
    cache.clear()
  })
})
