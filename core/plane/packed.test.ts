import fc from 'fast-check'
import { expect, it } from 'vitest'
import { runs } from '../testing/index.ts'
import { forEachCorner, packedRings, unpackedRings, type Vec2 } from './index.ts'

it('rings come back as they were packed, to the last digit', () => {
  const number = fc.double({ noNaN: true, noDefaultInfinity: true })
  const ring = fc.array(fc.tuple(number, number), { minLength: 1, maxLength: 9 })
  fc.assert(
    fc.property(fc.array(ring, { maxLength: 6 }), (rings) => {
      const packed = packedRings(rings)
      const back: Vec2[][] = []
      forEachCorner(packed, (x, y, isFirst) => {
        if (isFirst) back.push([])
        back.at(-1)!.push([x, y])
      })
      expect(back).toEqual(rings)
      expect(unpackedRings(packed)).toEqual(rings)
      expect(packed.points.length).toBe(2 * rings.flat().length)
    }),
    { numRuns: runs(200) },
  )
})
