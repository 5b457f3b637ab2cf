import type { Vec2 } from '@makrel/core/plane'
import fc from 'fast-check'
import { expect, it } from 'vitest'
import { scaledPicture } from './pictureMath.ts'

const coordinate = fc.integer({ min: -5000, max: 5000 }).map((steps) => steps / 61)
const place = fc.tuple(coordinate, coordinate)

it('a picture is so large that two of its places are as far apart as they were measured, the first one staying', () => {
  fc.assert(
    fc.property(place, place, place, fc.integer({ min: 1, max: 900 }), (at, from, to, tenths) => {
      const distance = tenths / 10
      const now = Math.hypot(to[0] - from[0], to[1] - from[1])
      fc.pre(now > 0.1)
      const picture = { asset: 'f00d', at, width: 85.1, turn: 37.3, opacity: 0.5 } as never as Parameters<
        typeof scaledPicture
      >[0]
      const after = scaledPicture(picture, from, to, distance)
      // Where something on the picture is, by its share of the width.
      const placed = (p: Vec2): Vec2 => {
        const share = after.width / picture.width
        return [after.at[0] + (p[0] - at[0]) * share, after.at[1] + (p[1] - at[1]) * share]
      }
      const [a, b] = [placed(from), placed(to)]
      expect(Math.hypot(b[0] - a[0], b[1] - a[1])).toBeCloseTo(distance, 6)
      expect(Math.hypot(a[0] - from[0], a[1] - from[1])).toBeLessThan(1e-6)
      expect(after).toMatchObject({ turn: 37.3, opacity: 0.5 })
      // Two presses at one place measure nothing.
      expect(scaledPicture(picture, from, from, distance)).toBe(picture)
    }),
  )
})
