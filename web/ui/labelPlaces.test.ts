import type { Vec2 } from '@makrel/core/plane'
import { describe, expect, it } from 'vitest'
import { alongBothWays, LabelPlaces } from './labelPlaces.ts'

describe('places of labels', () => {
  it('lie on one another never while there is room', () => {
    const places = new LabelPlaces()
    const given = Array.from({ length: 12 }, () => places.take(alongBothWays([100.3, 50], [0.6, 0.8], 7, 40), 40, 18))
    for (const [i, a] of given.entries())
      for (const b of given.slice(i + 1))
        expect(Math.abs(a[0] - b[0]) >= 40 - 1e-9 || Math.abs(a[1] - b[1]) >= 18 - 1e-9).toBe(true)
    expect(given[0]).toEqual([100.3, 50])
  })
  it('are where they are wanted, though nothing is free', () => {
    const places = new LabelPlaces()
    const at: Vec2 = [5, 5]
    expect(places.take([at], 10, 10)).toEqual(at)
    expect(places.take([at, [6, 5]], 10, 10)).toEqual(at)
    // Side by side is no overlap.
    expect(places.take([at, [15, 5]], 10, 10)).toEqual([15, 5])
  })
})
