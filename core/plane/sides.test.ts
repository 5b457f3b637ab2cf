import fc from 'fast-check'
import { expect, it } from 'vitest'
import { runs } from '../testing/index.ts'
import { real } from '../testing/sample.ts'
import { insideRings, offSide, type Ring, RingSides, type Vec2 } from './index.ts'

const place = fc.tuple(real(-20, 20), real(-20, 20))
/** A star about its middle, so that its ring runs once round and never across itself. */
const star = fc.tuple(place, fc.array(real(0.5, 9), { minLength: 3, maxLength: 40 })).map(
  ([[x, y], far]): Ring =>
    far.map((r, i) => {
      const turn = (2 * Math.PI * i) / far.length
      return [x + r * Math.cos(turn), y + r * Math.sin(turn)]
    }),
)

it('tell what any of several regions has, and how far the nearest side is, as going through all of them does', () => {
  fc.assert(
    fc.property(
      fc.array(star, { maxLength: 4 }),
      fc.array(place, { minLength: 20, maxLength: 20 }),
      (stars, places) => {
        const sides = new RingSides(stars)
        for (const p of [...places, ...stars.map(([first]): Vec2 => [first![0] + 1e-3, first![1] - 2e-3])]) {
          expect(sides.isFilledAt(p)).toBe(stars.some((ring) => insideRings([ring], p)))
          const far = stars.flatMap((ring) => ring.map((a, i) => offSide(p, a, ring[(i + 1) % ring.length]!)))
          expect(sides.distanceFrom(p)).toBeCloseTo(Math.min(Number.POSITIVE_INFINITY, ...far), 9)
          const near = sides.in({ min: [p[0] - 1, p[1] - 1], max: [p[0] + 1, p[1] + 1] })
          expect(near.length).toBeGreaterThanOrEqual(far.filter((each) => each < 1).length)
        }
      },
    ),
    { numRuns: runs(100) },
  )
})

it('are none of a hole, which takes away of one region only', () => {
  const box = (half: number): Ring => [
    [-half, -half],
    [half, -half],
    [half, half],
    [-half, half],
  ]
  const holed = [box(5), box(2).toReversed()]
  expect(new RingSides(holed).isFilledAt([0.3, 0.1])).toBe(false)
  expect(new RingSides([...holed, box(1)]).isFilledAt([0.3, 0.1])).toBe(true)
})
