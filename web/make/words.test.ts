import { computeMeasures } from '@makrel/core/measures'
import { levelSides } from '@makrel/core/place'
import { describe, expect, it } from 'vitest'
import { reading } from './ValueField.tsx'
import {
  effectText,
  faceWord,
  isCentred,
  negated,
  offsetOf,
  offsetWay,
  offsetWays,
  operationWords,
  relationOf,
  relationText,
  relationWay,
  relationWays,
} from './words.ts'

describe('how a value reads', () => {
  const { names } = computeMeasures([{ id: 'a', name: 'wall', kind: 'length', expression: '6', note: '' }], 'mm', {
    slide: 0.2,
  })
  it.each([
    ['84', 'length', '84'],
    ['1/4 in', 'length', '6.35'],
    ['wall', 'length', 'wall 6'],
    ['wall * 2', 'length', '12'],
    ['slide', 'length', 'slide 0.2'],
    ['30', 'angle', '30°'],
    ['4', 'count', '4'],
    ['wal', 'length', 'wal'],
  ] as const)('%s as a %s: %s', (text, kind, shown) => expect(reading(text, kind, names)).toBe(shown))
  it('is its size, its fit and what they come to where another part goes in', () => {
    expect(reading('8 slide', 'length', names, 'round')).toBe('8 slide = 8.4')
    expect(reading('wall  slide ', 'length', names, 'round')).toBe('wall 6 slide = 6.4')
    expect(reading('8 slide', 'length', names)).toBe('8 slide')
    expect(reading('8 + slide', 'length', names, 'round')).toBe('8.2')
  })
})

describe('where it is measured from', () => {
  it('is one choice that gives back what it was made of', () => {
    for (const onBed of [true, false])
      for (const { value } of offsetWays(levelSides.across, onBed, 'made')) {
        for (const by of ['3', '0']) expect(offsetWay(offsetOf(value, by))).toBe(value)
      }
  })
  it('says of what leans whether its foot or its middle is meant', () => {
    for (const onBed of [true, false])
      for (const { value } of offsetWays(levelSides.across, onBed, undefined, true))
        for (const by of ['3', '0']) expect(offsetWay(offsetOf(value, by))).toBe(value)
    const words = (leans: boolean) => offsetWays(levelSides.across, false, undefined, leans).map(({ label }) => label)
    expect(words(true).slice(0, 2)).toEqual(['its foot centred left to right', 'its middle centred left to right'])
    expect(words(true)).toContain('from the left edge to its foot')
    expect(words(false).filter((label) => /foot|its middle/.test(label))).toEqual([])
  })
  it('names the sides of the seat, and on the bed the datum only', () => {
    const labels = (onBed: boolean) => offsetWays(levelSides.along, onBed).map(({ label }) => label)
    expect(labels(false)).toContain('from the front edge to its centre')
    expect(labels(true).every((label) => !label.includes('front edge to'))).toBe(true)
    expect(labels(true)).toContain('from the datum to its back edge, front to back')
  })
  it('is centred only when nothing is added to it', () => {
    expect(isCentred({ from: 'centre', to: 'centre', by: ' 0 ' })).toBe(true)
    expect(isCentred({ from: 'centre', to: 'centre', by: 'wall' })).toBe(false)
  })
})

it('begins a line with the right article', () => {
  expect(operationWords('add', 'upright')).toBe('An')
  expect(operationWords('cut', 'upright')).toBe('Cut an')
  expect(operationWords('keep', 'plate')).toBe('Keep what lies in a')
})

describe('a distance to another step', () => {
  it('beside it is a gap, typed and read without a sign', () => {
    expect(relationWay({ from: 'low', to: 'far', by: '-3' })).toBe('beside-low')
    expect(relationWay({ from: 'high', to: 'far', by: '0' })).toBe('against-high')
    for (const typed of ['3', 'gap', 'wall * 2', '1/4 in', '(a + b)', 'a + b', '2,5']) {
      const by = relationText('beside-high', typed)
      expect(relationWay({ from: 'high', to: 'far', by })).toBe('beside-high')
      expect(relationText('beside-high', by).replace(/^\((.*)\)$/, '$1')).toBe(typed.replace(/^\((.*)\)$/, '$1'))
    }
    expect([negated('3'), negated('-3'), negated('-(a + b)'), negated('a - b'), negated('0.0')]).toEqual([
      '-3',
      '3',
      'a + b',
      '-(a - b)',
      '0.0',
    ])
  })
  it('no way of it names a far edge', () => {
    expect(relationWays(['left', 'right']).filter(({ label }) => label.includes('far edge'))).toEqual([])
    for (const { value } of relationWays(['left', 'right'], undefined, true))
      expect(relationWay({ ...relationOf(value, '-3'), of: 'x' })).toBe(value)
  })
})

it('tells a face that a curve makes by that, and any other by its name', () => {
  expect(['side l1', 'side c12', 'side', 'top', 'side 2', 'round 1'].map(faceWord)).toEqual([
    ...['side from l1', 'side from c12', 'side', 'top', 'side 2', 'round 1'],
  ])
})

it('tells what a step does, and of a cut never that it adds', () => {
  const told = (mm3: number, cuts: boolean) => effectText(mm3, cuts, 'mm')
  expect([told(4188.8, false), told(-37.3, false), told(0.009, false)]).toEqual([
    ...['adds 4.189 cm³', 'removes 0.0373 cm³', 'changes nothing'],
  ])
  expect([told(0.009, true), told(12, true), told(-0.04, true), told(-37.3, true)]).toEqual([
    ...['removes nothing', 'removes nothing', 'removes nothing', 'removes 0.0373 cm³'],
  ])
})
