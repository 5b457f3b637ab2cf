import { describe, expect, it } from 'vitest'
import { fitGaps, fitMeanings, fitNames, fitPairs, originText, shippedMaterials, shippedPrinters } from './index.ts'

describe.each(shippedPrinters)('the $name', (printer) => {
  const { fits, leastGap, lineWidth, layerHeight, firstLayer, bed } = printer
  it('has fits from tight to loose, flats no looser than rounds, and what is printed in place does not fuse', () => {
    expect(Object.keys(fits)).toEqual([...fitNames])
    for (const pair of fitPairs) {
      const [press, snug, slide, free, captive] = fitNames.map((name) => fits[name][pair].gap)
      expect(press).toBeGreaterThanOrEqual(0)
      expect([press, snug, slide, free]).toEqual([...new Set([press, snug, slide, free])].sort((a, b) => a! - b!))
      expect(captive).toBeGreaterThanOrEqual(leastGap)
    }
    for (const name of fitNames) expect(fits[name].flat.gap).toBeLessThanOrEqual(fits[name].round.gap)
  })
  it('gives its gaps by name, those of flats apart', () => {
    expect(fitGaps(printer)).toMatchObject({ slide: fits.slide.round.gap, slide_flat: fits.slide.flat.gap })
    expect(Object.keys(fitGaps(printer))).toHaveLength(2 * fitNames.length)
  })
  it('is a machine that can be', () => {
    expect(layerHeight).toBeLessThan(lineWidth)
    expect(firstLayer).toBeGreaterThanOrEqual(layerHeight)
    for (const side of bed) expect(side).toBeGreaterThan(100)
  })
})

it.each(shippedMaterials)('$name bears less again and again than once', ({ strainOnce, strainOften }) => {
  expect(strainOften / strainOnce).toBeCloseTo(0.6, 9)
})

it('each fit is explained', () => {
  for (const name of fitNames) expect(fitMeanings[name]).not.toBe('')
  expect(Object.keys(fitMeanings)).toEqual([...fitNames])
})

it('a gap says where it comes from', () => {
  const day = (iso: string) => iso.slice(0, 10)
  const on = '2026-05-17T08:15:00.000Z'
  expect(originText({ kind: 'shipped' }, day)).toBe('shipped')
  expect(originText({ kind: 'set', on }, day)).toBe('set by hand on 2026-05-17')
  expect(originText({ kind: 'calibrated', from: 'gauge 3', on, spread: 0.04 }, day)).toBe(
    'calibrated on 2026-05-17 from gauge 3, ± 0.04 mm',
  )
})
