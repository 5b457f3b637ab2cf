import fc from 'fast-check'
import { expect, it } from 'vitest'
import { proofOf } from '../../proof/index.ts'
import { built, partOf, step, testKernel } from '../../testing/index.ts'
import { real } from '../../testing/sample.ts'
import { shapeOf } from '../index.ts'

const kernel = await testKernel()
const mail = shapeOf('chain-mail')!
/** As the shape says of itself. */
const gapOf = (outer: number, wire: number) => 0.4659 * ((outer - wire) / 2) - wire

it('is as many rings as it says, each linked, and as far from all others as it says', () => {
  fc.assert(
    fc.property(real(9, 31.7), real(0, 1), (outer, s) => {
      const most = (0.4659 * outer - 0.6) / 2.4659
      const v = { outer, wire: (0.4 + 0.6 * s) * most, across: 3, along: 3 }
      expect(mail.impossible!(v as never)).toBeUndefined()
      kernel.scope((scope) => {
        const context = { scope, fineness: 0.03 } as never
        const all = scope.parts(mail.solid(v as never, context))
        expect(all).toHaveLength(9)
        // In the middle row: those beside it, and those of the rows next to it.
        const middle = [...all].sort((a, b) => distance(a) - distance(b))[0]!
        const gaps = all.filter((each) => each !== middle).map((each) => middle.gapTo(each, gapOf(outer, v.wire) + 1))
        const least = Math.min(...gaps)
        // Flats of either ring lie within the fineness of it.
        expect(least).toBeGreaterThan(gapOf(outer, v.wire) - 2 * 0.03)
        expect(least).toBeLessThan(gapOf(outer, v.wire) + 0.07)
        // Pulled straight up and out, it meets the four that it goes through.
        const met = new Set<unknown>()
        for (const up of [0.15, 0.3, 0.45, 0.6, 0.75]) {
          const pulled = scope.placed(middle, {
            ...{ origin: [0, 0, up * outer], u: [1, 0, 0], v: [0, 1, 0], n: [0, 0, 1] },
          } as const)
          for (const each of all)
            if (each !== middle && scope.intersection([each, pulled]).volume() > 1e-3) met.add(each)
        }
        expect(met.size).toBeGreaterThanOrEqual(4)
      })
    }),
    { numRuns: 4, seed: 2 },
  )
})
/** Of the middle of its box from the axis. */
function distance(solid: { bounds(): { min: readonly number[]; max: readonly number[] } | undefined }): number {
  const { min, max } = solid.bounds()!
  return Math.hypot(min[0]! + max[0]!, min[1]! + max[1]!)
}

it('says how thick its wire may be where its rings would fuse', () => {
  const wrong = mail.impossible!({ outer: 14, wire: 3, across: 2, along: 2 } as never)!
  expect(wrong.field).toBe('wire')
  const { value } = wrong.nearest!
  expect(mail.impossible!({ outer: 14, wire: value, across: 2, along: 2 } as never)).toBeUndefined()
  expect(mail.impossible!({ outer: 14, wire: value + 0.02, across: 2, along: 2 } as never)).toBeDefined()
})

it('is meant to be many solids, with what it hangs on beside it; two such beside it are not', async () => {
  const bodies = async (more: ReturnType<typeof step>[]) => {
    const sheet = step('m', 'chain-mail', { across: '2', along: '2' })
    const findings = await proofOf(kernel, await built(kernel, partOf([sheet, ...more])), { only: ['bodies'] })
    return findings
  }
  const aside = (id: string, by: string) =>
    step(
      id,
      'plate',
      { width: '9', depth: '9', height: '2' },
      { place: { across: { from: 'centre', to: 'centre', by } } },
    )
  expect(await bodies([])).toMatchObject([{ rank: 'pass', text: expect.stringContaining('4 solids') }])
  expect(await bodies([aside('a', '60')])).toMatchObject([{ rank: 'pass' }])
  expect(await bodies([aside('a', '60'), aside('b', '85.1')])).toMatchObject([{ rank: 'fault' }])
})
