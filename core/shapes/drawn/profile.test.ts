import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { line, type Vec2 } from '../../plane/index.ts'
import { drawnOf, rectangleCurves } from '../../testing/outlines.ts'
import { real } from '../../testing/sample.ts'
import { sidesOf } from './profile.ts'
import { subdivided } from './subdivide.ts'

describe('how far an outline reaches to both sides of its axis', () => {
  it('is measured from that, wherever it lies', () => {
    // 12.4 wide and 30 high, its middle at the origin.
    const outline = drawnOf(rectangleCurves(-6.2, -15, 12.4, 30))
    expect(sidesOf(outline, line([-9.3, 0], [-9.3, 5]))).toEqual({ left: 0, right: expect.closeTo(15.5, 9) })
    expect(sidesOf(outline, line([1.7, 8], [1.7, 2]))).toEqual({
      left: expect.closeTo(4.5, 9),
      right: expect.closeTo(7.9, 9),
    })
  })
})

describe('a smoothed ring', () => {
  const ring: Vec2[] = [
    [0, 0],
    [20.3, 1.1],
    [22, 15.7],
    [3.1, 12],
  ]
  it('has as many flats at any size, where the tolerance grows with it', () => {
    const count = subdivided(ring, 6, () => false, 0.01).length
    expect(count).toBeGreaterThan(30)
    fc.assert(
      fc.property(real(0.01, 300), (by) => {
        const scaled = ring.map(([x, y]): Vec2 => [x * by, y * by])
        expect(subdivided(scaled, 6, () => false, 0.01 * by)).toHaveLength(count)
      }),
    )
  })
  it('lies within the tolerance of one that is halved further', () => {
    const within = 0.02
    const coarse = subdivided(ring, 12, () => false, within)
    const fine = subdivided(ring, 9, () => false, 1e-9)
    for (const [x, y] of coarse) {
      const near = Math.min(...fine.map((p) => Math.hypot(p[0] - x, p[1] - y)))
      expect(near).toBeLessThan(4 * within)
    }
  })
})
