import fc from 'fast-check'
import { expect, it } from 'vitest'
import { cycleAt } from './cycle.ts'

const number = (low: number, high: number) =>
  fc.integer({ min: 0, max: 1000 }).map((k) => low + ((high - low) * k) / 1000)
const base = { label: 'turning', unit: 'degrees', atRest: 0 } as const

it('begins where it stands, goes up first, and comes back after twice its travel', () => {
  fc.assert(
    fc.property(number(-90, 0), number(1, 120), number(0, 1), number(0, 20), (from, long, share, seconds) => {
      const freedom = { ...base, from, to: from + long }
      const start = from + share * long * 0.98
      expect(cycleAt(freedom, start, 0)).toBeCloseTo(start, 9)
      expect(cycleAt(freedom, start, 0.01)).toBeGreaterThan(start)
      expect(cycleAt(freedom, start, seconds + 6)).toBeCloseTo(cycleAt(freedom, start, seconds), 6)
      const at = cycleAt(freedom, start, seconds)
      expect(at).toBeGreaterThanOrEqual(from - 1e-9)
      expect(at).toBeLessThanOrEqual(from + long + 1e-9)
      // Nowhere does it go faster than its travel in three seconds.
      expect(Math.abs(cycleAt(freedom, start, seconds + 0.03) - at)).toBeLessThan(long * 0.0101)
    }),
  )
})
it('goes on where it comes back after a period, through each of its places', () => {
  const freedom = { ...base, from: 0, to: 360, period: 15 }
  expect(cycleAt(freedom, 4, 0)).toBe(4)
  expect(cycleAt(freedom, 4, 1)).toBeCloseTo(9, 9)
  expect(cycleAt(freedom, 4, 3)).toBeCloseTo(4, 9)
  expect(cycleAt(freedom, 12, 1)).toBeCloseTo(2, 9)
})
it('stands where there is no travel', () => {
  expect(cycleAt({ ...base, from: 3, to: 3 }, 3, 7)).toBe(3)
})

it('begins anew where it goes one way, and never comes back', () => {
  const freedom = { ...base, from: 0, to: 360, period: 20, oneWay: true }
  expect(cycleAt(freedom, 0, 1)).toBeCloseTo(120, 9)
  expect(cycleAt(freedom, 340, 1)).toBeCloseTo(100, 9)
})
