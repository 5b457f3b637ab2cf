import fc from 'fast-check'
import { expect, it } from 'vitest'
import { built, onFace, partOf, runs, step, testKernel } from '../testing/index.ts'
import { real } from '../testing/sample.ts'
import { layerAreas, layerAt, layerBottom, layerCount, layerMiddle, sectionAt } from './index.ts'

const kernel = await testKernel()

const heights = { firstLayer: 0.27, layerHeight: 0.2 }

it('counts layers, not one more for a rounding error', () => {
  const even = { firstLayer: 0.2, layerHeight: 0.2 }
  expect(layerCount(62, even)).toBe(310)
  expect(layerCount(0.1 + 0.2, { firstLayer: 0.1, layerHeight: 0.1 })).toBe(3)
  expect(layerCount(1.01, even)).toBe(6)
  for (const none of [0, -3, Number.NaN]) expect(layerCount(none, even)).toBe(0)
  // Of what is no higher than the first one there is one.
  expect([0.1, 0.27, 0.28, 0.47, 0.48].map((height) => layerCount(height, heights))).toEqual([1, 1, 2, 2, 3])
})

it('lays each layer on the one below, the first of its own height', () => {
  const own = (i: number) => [layerBottom(i, heights), layerMiddle(i, heights)]
  expect(own(0)).toEqual([0, 0.135])
  expect(own(1)).toEqual([0.27, expect.closeTo(0.37, 9)])
  expect(own(41)).toEqual([expect.closeTo(8.27, 9), expect.closeTo(8.37, 9)])
  for (let i = 0; i < 50; i++) expect(layerAt(layerMiddle(i, heights), heights)).toBe(i)
  expect(layerAt(-1, heights)).toBe(0)
})

it('cuts each layer through its middle, and its areas add up to the volume', async () => {
  const own = { firstLayer: 0.4, layerHeight: 0.2 }
  const part = partOf([
    step('a', 'plate', { width: '20', depth: '10', height: '4' }),
    step('w', 'wedge', { length: '20', height: '10', thick: '10' }, { place: onFace('a', 'top') }),
  ])
  const solid = (await built(kernel, part)).pieces[0]!.solid!
  expect(sectionAt(kernel, solid, layerMiddle(0, own)).area).toBeCloseTo(200, 6)
  expect(sectionAt(kernel, solid, 9).area).toBeCloseTo(100, 4)
  expect(sectionAt(kernel, solid, 100).rings).toEqual([])
  expect(sectionAt(kernel, undefined, 1)).toEqual({ rings: [], area: 0 })
  const areas = layerAreas(kernel, solid, own, layerCount(14, own))
  // The middle of a layer stands for it exactly where the section changes evenly.
  expect(areas.reduce((sum, area, i) => sum + area * (layerBottom(i + 1, own) - layerBottom(i, own)), 0)).toBeCloseTo(
    solid.volume(),
    3,
  )
})

it('lays layers of any heights one on the other, and finds each of them', () => {
  const size = fc.integer({ min: 5, max: 40 }).map((k) => k / 100 + 0.0033)
  const any = fc.record({
    firstLayer: size,
    layerHeight: size,
    changes: fc.array(fc.record({ up: real(0, 9), layerHeight: size }), {
      maxLength: 4,
    }),
  })
  fc.assert(
    fc.property(any, ({ changes, ...plain }) => {
      let from = 0
      const own = {
        ...plain,
        changes: changes.map(({ up, layerHeight }) => {
          from += up
          return { from, layerHeight }
        }),
      }
      // By hand: from one layer to the next, each as high as the last change at or below its bottom says.
      let bottom = 0
      for (let i = 0; i < 60; i++) {
        expect(layerBottom(i, own)).toBeCloseTo(bottom, 9)
        expect(layerAt(layerMiddle(i, own), own)).toBe(i)
        expect(layerCount(layerMiddle(i, own), own)).toBe(i + 1)
        const changed = own.changes.filter((change) => change.from <= bottom + 1e-7).at(-1)
        bottom += i === 0 ? own.firstLayer : (changed?.layerHeight ?? own.layerHeight)
        expect(layerMiddle(i, own)).toBeCloseTo((layerBottom(i, own) + bottom) / 2, 9)
      }
    }),
    { numRuns: runs(300) },
  )
})
