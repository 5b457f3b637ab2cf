import { describe, expect, it } from 'vitest'
import { codeOf } from '../testing/index.ts'
import { computeMeasures, holds, type Measure, type MeasureKind, mapCondition } from './index.ts'

const measure = (name: string, kind: MeasureKind, expression: string): Measure => ({
  ...{ id: name, name, kind, expression },
  note: '',
})
const { names, rows } = computeMeasures(
  [
    measure('lid', 'switch', 'yes'),
    measure('drain', 'switch', 'no'),
    measure('wall', 'length', '3'),
    measure('wide', 'length', '1 in'),
    measure('count', 'count', '4'),
    measure('thick', 'switch', 'wall > 2 and not drain'),
  ],
  'mm',
)

describe('conditions', () => {
  it.each([
    ['yes', true],
    ['no', false],
    ['lid', true],
    ['not lid', false],
    ['drain', false],
    ['lid and drain', false],
    ['lid or drain', true],
    ['not drain and wall >= 3', true],
    ['wall < 3', false],
    ['wall ≤ 3', true],
    ['wide = 25.4', true],
    ['wide > 1 in', false],
    ['wall != 3 mm', false],
    ['count = 4 and wall + 1 > 3.5', true],
    ['drain and lid or count > 3', true],
    ['count - 4', false],
    ['thick', true],
  ])('%s: %s', (text, expected) => expect(holds(text, names)).toBe(expected))
  it.each([
    ['', 'expression-empty'],
    ['lid and', 'expression-empty'],
    ['lidd', 'unknown-name'],
    ['1 < 2 < 3', 'condition-unclear'],
    ['wall > 30°', 'mixed-kinds'],
    ['wall >', 'expression-syntax'],
  ])('%s: %s', (text, code) => expect(codeOf(() => holds(text, names))).toBe(code))
  it('a switch counts as 1 or 0 in expressions', () => {
    expect(rows.map(({ value }) => value)).toEqual([1, 0, 3, 25.4, 4, 1])
    const { rows: more } = computeMeasures([measure('a', 'switch', 'no'), measure('b', 'length', '3 + a * 5 mm')], 'mm')
    expect(more[1]!.value).toBe(3)
  })
  it('are rewritten value by value, and the words between stay', () => {
    const seen: (string | undefined)[][] = []
    const out = mapCondition('not lid and wall >= 2 or count=4', (value, other) => {
      seen.push([value, other])
      return value.toUpperCase()
    })
    expect(out).toBe('not LID and WALL >= 2 or COUNT=4')
    expect(seen).toEqual([
      ['lid', undefined],
      ['wall', '2'],
      ['2', 'wall'],
      ['count', '4'],
      ['4', 'count'],
    ])
  })
})
