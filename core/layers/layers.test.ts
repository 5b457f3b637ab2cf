import { expect, it } from 'vitest'
import { built, onFace, partOf, step, testKernel } from '../testing/index.ts'
import { layerAreas, layerCount, layerMiddle, sectionAt } from './index.ts'

const kernel = await testKernel()

it('counts layers, not one more for a rounding error', () => {
  expect(layerCount(62, 0.2)).toBe(310)
  expect(layerCount(0.1 + 0.2, 0.1)).toBe(3)
  expect(layerCount(1.01, 0.2)).toBe(6)
  expect(layerCount(0, 0.2)).toBe(0)
})

it('cuts each layer through its middle, and its areas add up to the volume', async () => {
  const part = partOf([
    step('a', 'plate', { width: '20', depth: '10', height: '4' }),
    step('w', 'wedge', { length: '20', height: '10', thick: '10' }, { place: onFace('a', 'top') }),
  ])
  const solid = (await built(kernel, part)).pieces[0]!.solid!
  expect(sectionAt(kernel, solid, layerMiddle(0, 0.2)).area).toBeCloseTo(200, 6)
  expect(sectionAt(kernel, solid, 9).area).toBeCloseTo(100, 4)
  expect(sectionAt(kernel, solid, 100).rings).toEqual([])
  expect(sectionAt(kernel, undefined, 1)).toEqual({ rings: [], area: 0 })
  const areas = layerAreas(kernel, solid, 0.2, layerCount(14, 0.2))
  // The middle of a layer stands for it exactly where the section changes evenly.
  expect(areas.reduce((sum, area) => sum + area * 0.2, 0)).toBeCloseTo(solid.volume(), 3)
})
