import fc from 'fast-check'
import { expect, it } from 'vitest'
import { figuresOf } from '../solids/index.ts'
import { built, builtTwice, partOf, step, testKernel } from '../testing/index.ts'
import { real, runs } from '../testing/sample.ts'
import { usualFineness } from './fineness.ts'

it('keeps a part to a thousandth of its volume and its smallest round fifty times as large as its flats lie off it', () => {
  fc.assert(
    fc.property(
      real(-0.02, 0.02),
      real(0.005, 0.2),
      fc.option(real(0.05, 40), { nil: undefined }),
      (off, at, smallest) => {
        const { fineness, for: reason, off: usual } = usualFineness(off, at, smallest)
        expect(usual).toBeCloseTo((Math.abs(off) * 0.02) / at, 12)
        const fits = (mm: number) =>
          (Math.abs(off) * mm) / at <= 0.001 && (smallest === undefined || smallest >= 50 * mm)
        // Nothing finer than is needed, and nothing needlessly fine.
        if (fineness > 0.002) expect(fits(fineness)).toBe(true)
        const coarser = [0.02, 0.01, 0.005].filter((mm) => mm > fineness)
        expect(coarser.some(fits)).toBe(false)
        expect(reason === 'nothing').toBe(fineness === 0.02)
      },
    ),
    { numRuns: runs(300) },
  )
})

it('is such that what is written is that near to what is meant', async () => {
  const kernel = await testKernel()
  const shares: number[] = []
  for (const diameter of [3.7, 9.1, 37.3]) {
    const part = partOf([step('b', 'ball', { diameter: `${diameter}` })])
    const twice = await builtTwice(kernel, part)
    const { mass } = Object.values(figuresOf(twice))[0]!
    const off = twice.fine.pieces[0]!.solid!.volume() / mass.volume - 1
    const { fineness } = usualFineness(off, 0.03, undefined)
    const written = (await built(kernel, part, fineness)).pieces[0]!.solid!.volume()
    expect(Math.abs(written / mass.volume - 1)).toBeLessThan(0.0012)
    shares.push(fineness)
  }
  expect(shares).toEqual(shares.toSorted((a, b) => a - b))
  expect(new Set(shares).size).toBeGreaterThan(1)
})
