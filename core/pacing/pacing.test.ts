import { describe, expect, it } from 'vitest'
import { atOnce, type Paced, withTurns } from './index.ts'

/** Adds up, and is at work for so long between turns, ms. */
function* sum(count: number, ms: number): Paced<number> {
  let all = 0
  for (let i = 1; i <= count; i++) {
    const until = performance.now() + ms
    while (performance.now() < until);
    all += i
    yield
  }
  return all
}
function* twice(count: number, ms: number): Paced<number> {
  return (yield* sum(count, ms)) + (yield* sum(count, ms))
}

describe('work in turns', () => {
  it('comes to the same as at once, and lets others in', async () => {
    let turns = 0
    const pause = async () => {
      turns++
    }
    expect(atOnce(twice(4, 0))).toBe(20)
    expect(await withTurns(twice(4, 12), pause)).toBe(20)
    // Each part of it took longer than it is worth to wait for.
    expect(turns).toBe(8)
  })
  it('does not wait where it takes next to no time', async () => {
    let turns = 0
    const pause = async () => {
      turns++
    }
    expect(await withTurns(sum(5, 0), pause)).toBe(15)
    // Where the machine is stopped meanwhile it may.
    expect(turns).toBeLessThan(5)
  })
  it('is left where nobody waits for it any more', async () => {
    const done: number[] = []
    function* work(): Paced<void> {
      for (let i = 0; i < 5; i++) {
        yield* sum(1, 12)
        done.push(i)
      }
    }
    const stop = async () => {
      if (done.length === 2) throw new Error('stopped')
    }
    await expect(withTurns(work(), stop)).rejects.toThrow('stopped')
    expect(done).toEqual([0, 1])
  })
  it('throws what the work throws', async () => {
    // biome-ignore lint/correctness/useYield: it fails before others get a turn
    function* fails(): Paced<void> {
      throw new Error('broken')
    }
    expect(() => atOnce(fails())).toThrow('broken')
    await expect(withTurns(fails(), async () => undefined)).rejects.toThrow('broken')
  })
})
