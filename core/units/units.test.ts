import { describe, expect, it } from 'vitest'
import {
  dimensionName,
  formatArea,
  formatLength,
  formatMass,
  formatNumber,
  formatSize,
  formatVolume,
  inUnit,
  lengthUnits,
} from './index.ts'

describe('numbers as they are shown', () => {
  it('drops zeros that say nothing and never shows a negative zero', () => {
    expect(formatNumber(5.3)).toBe('5.3')
    expect(formatNumber(10)).toBe('10')
    expect(formatNumber(100.0004)).toBe('100')
    expect(formatNumber(-0.0001)).toBe('0')
    expect(formatNumber(1200, 0)).toBe('1200')
    // 3/32 and 1 25/32 in, by way of mm.
    expect(formatNumber((25.4 * 3) / 32 / 25.4, 4)).toBe('0.0938')
    for (let i = 1; i < 640; i++) expect(Number(formatNumber((25.4 * i) / 64 / 25.4, 6))).toBe(i / 64)
    for (let i = 1; i < 640; i += 2) expect(formatNumber((i * 25.4) / 32 / 25.4, 4)).toBe(formatNumber(i / 32, 4))
  })
  it('shows lengths in the part unit', () => {
    expect(formatLength(25.4, 'in')).toBe('1')
    expect(formatLength(6.35, 'in')).toBe('0.25')
    expect(formatLength(6.35, 'mm')).toBe('6.35')
    expect(formatSize(84.004, 'mm')).toBe('84')
  })
  it('shows areas and volumes to four figures', () => {
    expect(formatVolume(36_123.4, 'mm')).toBe('36.12 cm³')
    expect(formatVolume(25.4 ** 3, 'in')).toBe('1 in³')
    expect(formatArea(0, 'mm')).toBe('0 mm²')
  })
})

it('keeps the inch at exactly 25.4 mm and the foot at twelve of them', () => {
  expect(lengthUnits.in).toBe(25.4)
  expect(lengthUnits.ft).toBeCloseTo(12 * 25.4, 12)
})

it('names dimensions with their article', () => {
  expect(dimensionName({ length: 1, angle: 0 })).toBe('a length')
  expect(dimensionName({ length: 2, angle: 0 })).toBe('an area')
  expect(dimensionName({ length: 0, angle: 1 })).toBe('an angle')
})

it('tells lengths, areas and volumes of a text in the part’s unit', () => {
  expect(inUnit('It is 84 × 44.45 × 6.35 mm and 25.4 mm thick.', 'in')).toBe(
    'It is 3.3071 × 1.75 × 0.25 in and 1 in thick.',
  )
  expect(inUnit('overlap by 16387.064 mm³', 'in')).toBe('overlap by 1 in³')
  expect(inUnit('a cavity of 4,189 mm³', 'in')).toBe('a cavity of 0.255628 in³')
  expect(inUnit('3 mm stays', 'mm')).toBe('3 mm stays')
  expect(inUnit('use mm, cm or in', 'in')).toBe('use mm, cm or in')
})

it('tells how far a volume may be off, where that is more than its ten-thousandth', () => {
  expect(formatVolume(9469.2, 'mm', 0.9)).toBe('9.469 cm³')
  expect(formatVolume(9469.2, 'mm', 2.7)).toBe('≈ 9.469 ± 0.003 cm³')
  expect(formatVolume(0.8 * 25.4 ** 3, 'in', 0.0123 * 25.4 ** 3)).toBe('≈ 0.8 ± 0.02 in³')
  expect(formatVolume(5_000_000, 'mm', 12_300)).toBe('≈ 5000 ± 13 cm³')
})

it('keeps names and what is quoted as they were typed', () => {
  expect(inUnit('Gauge 5 mm is 25.4 mm high; “2 mm” is none.', 'in', ['Gauge 5 mm', 'Lid'])).toBe(
    'Gauge 5 mm is 1 in high; “2 mm” is none.',
  )
})

it('tells a small mass, and never none of something', () => {
  expect([formatMass(0.04), formatMass(0), formatMass(1.234), formatMass(42.94), formatMass(12_345)]).toEqual([
    '0.04 g',
    '0 g',
    '1.23 g',
    '42.9 g',
    '12.35 kg',
  ])
})
