import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { real } from '../testing/sample.ts'
import { Places } from './places.ts'

describe('places', () => {
  const near = fc.oneof(fc.constantFrom(0, -0, 1.3, 85.1, -12.7), real(-50, 50))
  it('are numbered once each, as single precision tells them apart', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(near, near, near), { maxLength: 60 }), (points) => {
        const places = new Places(points.length)
        const known = new Map<string, number>()
        for (const [x, y, z] of points) {
          const key = [x, y, z].map((each) => Math.fround(each) + 0).join()
          const expected = known.get(key) ?? known.size
          known.set(key, expected)
          expect(places.add(x, y, z)).toBe(expected)
          expect(places.at(x, y, z)).toBe(expected)
        }
        expect(places.count).toBe(known.size)
        expect([...places.values].length).toBe(3 * known.size)
        for (const [key, number] of known)
          expect([...places.values.subarray(3 * number, 3 * number + 3)].join()).toBe(key)
        expect(places.at(1e6, 2, 3)).toBe(-1)
      }),
    )
  })
})
