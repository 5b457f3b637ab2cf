import { describe, expect, it } from 'vitest'
import { computeMeasures, evaluate, withoutWrittenUnits, withWrittenUnits } from '../measures/index.ts'
import { workOut } from '../planning/index.ts'
import { attempt } from '../problems/index.ts'
import { partOf, step } from '../testing/index.ts'
import {
  besideOf,
  fitBeside,
  fitGaps,
  fitMeanings,
  fitNames,
  fitPairs,
  originText,
  shippedMaterials,
  shippedPrinters,
} from './index.ts'

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

it.each(shippedMaterials)('$name takes less strain again and again than once, and no more than any plastic', (each) => {
  expect(each.strainOften).toBeGreaterThan(0)
  expect(each.strainOften).toBeLessThan(0.8 * each.strainOnce)
  expect(each.strainOnce).toBeLessThan(each.stiffness < 100 ? 100 : 10)
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

describe('a fit behind a size', () => {
  const { names } = computeMeasures(
    [{ id: 'a', name: 'wall', kind: 'length', expression: '15.3', note: '' }],
    'mm',
    fitGaps(shippedPrinters[0]!),
  )
  const value = (text: string, takes?: 'round' | 'flat') => evaluate(text, 'length', names, besideOf(takes)).value
  it('adds its gap on both sides, by what goes in', () => {
    expect(value('8 slide', 'round')).toBeCloseTo(8.4, 12)
    expect(value('8 slide', 'flat')).toBeCloseTo(8.3, 12)
    expect(value('1/3 in captive', 'round')).toBeCloseTo(25.4 / 3 + 0.7, 12)
    expect(value('wall * 2 + 1 free', 'flat')).toBeCloseTo(31.6 + 0.6, 12)
    expect(value('(wall) snug ', 'round')).toBeCloseTo(15.5, 12)
    expect(evaluate('wall slide', 'length', names, besideOf('flat')).uses).toEqual(['wall', 'slide_flat'])
  })
  it.each([
    ['8 slide', undefined, 'word-behind', [2, 7]],
    ['8 wall', 'round', 'word-behind', [2, 6]],
    ['8 slidy', 'round', 'unknown-unit', [2, 7]],
    ['wall slidy', 'round', 'expression-syntax', [5, 10]],
    ['8 + slide slide slide', 'round', 'expression-syntax', [10, 15]],
    ['8° slide', 'round', 'mixed-kinds', [3, 8]],
    ['8 slide mm', 'round', 'unknown-unit', undefined],
  ] as const)('is told where it cannot be: %s', (text, takes, code, at) => {
    const told = attempt([], () => value(text, takes))
    expect(told).toMatchObject({ ok: false, problem: { code } })
    if (at) expect(told).toMatchObject({ problem: { at } })
  })
  it('is there where a step cuts, and is told as a fault where it adds', () => {
    const bar = (operation: string) =>
      workOut(partOf([step('b', 'bar', { diameter: '8 slide' }, { operation })])).resolved.problems.map(
        ({ code }) => code,
      )
    expect(bar('cut')).not.toContain('word-behind')
    expect(bar('add')).toContain('word-behind')
    const hole = workOut(partOf([step('h', 'hole', { diameter: '15.3 free' }, { operation: 'cut' })])).resolved
    expect(hole.steps.get('h')!.values).toMatchObject({ diameter: 15.3 + 0.7 })
  })
  it('is known again in what was typed', () => {
    expect(fitBeside('8 slide')).toEqual({ fit: 'slide', size: '8' })
    expect(fitBeside(' wall * 2  press ')).toEqual({ fit: 'press', size: ' wall * 2' })
    for (const text of ['8 + slide', '8', 'slide', '8 slidy', '2 *(slide', '8 - free'])
      expect(fitBeside(text)).toBeUndefined()
  })
  it('keeps its meaning when a part goes over to inches and back', () => {
    const written = withWrittenUnits('8 slide', 'length', names, 'mm')
    expect(written.replace('\u00a0', ' ')).toBe('8 mm slide')
    expect(withoutWrittenUnits(written, 'mm')).toBe('8 slide')
    expect(value(written, 'round')).toBeCloseTo(8.4, 12)
  })
})
