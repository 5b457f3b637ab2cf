import { describe, expect, it } from 'vitest'
import { fitMeanings, fitNames, materialFor, materials, printerFor, printers } from './index.ts'

describe.each(printers)('the fits of the $name', ({ fits, leastGap, lineWidth, layerHeight, bed }) => {
  it('go from tight to loose, and what is printed in place does not fuse', () => {
    const { press, snug, slide, free, captive } = fits
    expect(press).toBeGreaterThanOrEqual(0)
    expect([press, snug, slide, free]).toEqual([...new Set([press, snug, slide, free])].sort((a, b) => a - b))
    expect(captive).toBeGreaterThanOrEqual(leastGap)
    expect(Object.keys(fits)).toEqual([...fitNames])
  })
  it('belong to a machine that can be', () => {
    expect(layerHeight).toBeLessThan(lineWidth)
    for (const side of bed) expect(side).toBeGreaterThan(100)
  })
})

it.each([
  ['printers', printers, printerFor],
  ['materials', materials, materialFor],
])('%s are found by their ids, the first in place of one that is not known', (_, all, find) => {
  for (const each of all) expect(find(each.id)).toBe(each)
  expect(find('toString')).toBe(all[0])
  expect(new Set(all.map(({ id }) => id)).size).toBe(all.length)
})

it('each fit is explained', () => {
  for (const name of fitNames) expect(fitMeanings[name]).not.toBe('')
  expect(Object.keys(fitMeanings)).toEqual([...fitNames])
})
