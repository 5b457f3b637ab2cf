import { describe, expect, it } from 'vitest'
import { attempt, ProblemError } from '../problems/index.ts'
import { codeOf, runs, seed, seeded } from '../testing/index.ts'
import {
  asDifference,
  computeMeasures,
  copyNumbers,
  countsThatFit,
  evaluate,
  evaluateFree,
  expressionLimits,
  filledTemplate,
  holds,
  type Measure,
  type Names,
  readingFigures,
  unfitName,
  type ValueKind,
  withCopyNumbers,
  withoutWrittenUnits,
  withRenamed,
  withWrittenUnits,
} from './index.ts'

const measure = (name: string, expression: string, kind: ValueKind = 'length'): Measure => ({
  id: `m-${name}`,
  name,
  kind,
  expression,
  note: '',
})

const table = computeMeasures(
  [
    measure('wall', '6'),
    measure('tilt', '30', 'angle'),
    measure('count', '4', 'count'),
    measure('share', '0.5', 'ratio'),
  ],
  'mm',
  { slide: 0.2 },
)
const read = (text: string, kind: ValueKind = 'length', names: Names = table.names) => evaluate(text, kind, names).value

function problemOf(work: () => unknown): ProblemError {
  try {
    work()
  } catch (error) {
    if (error instanceof ProblemError) return error
    throw error
  }
  throw new Error('no problem was found')
}

describe('numbers as they are written', () => {
  const { names } = computeMeasures([], 'mm')
  const inMm = (text: string) => evaluateFree(text, names).value.number
  it.each([
    ['2,5', 2.5],
    ['12,75 + 0,25', 13],
    ['(1,5 + 2) * 2', 7],
    ['max(2,5)', 5],
    ['max(2,5; 1)', undefined],
    ['0,125', 0.125],
    ['1234,5', 1234.5],
    ['1,234', undefined],
    ['5 inches', 127],
    ['1 inch', 25.4],
    ["1'", 304.8],
    ['6 feet', 1828.8],
    ['1-1/4 in', 31.75],
    ['1-1/4"', 31.75],
    ['2 - 1/4 in', -4.35],
    ['10-3/2 in', -28.1],
    ['½ in', 12.7],
    ['1½ in', 38.1],
    ['2 ⅜"', 60.325],
    ['1 1/4 in', 31.75],
    ['3/8″', 9.525],
    ['12 millimetres', 12],
    ['45 degrees', 45],
  ] as const)('%s', (text, value) => {
    if (value === undefined) expect(() => inMm(text)).toThrow(ProblemError)
    else expect(inMm(text)).toBeCloseTo(value, 9)
  })
  it('reads 1-1/4 as on a rule where the part is in inches, and keeps it so when that changes', () => {
    const inches = computeMeasures([], 'in').names
    const read = (text: string) => evaluate(text, 'length', inches).value
    expect(read('1-1/4')).toBeCloseTo(31.75, 9)
    expect(read('4-1/3')).toBeCloseTo((13 / 3) * 25.4, 9)
    expect(read('4-5/3')).toBeCloseTo((7 / 3) * 25.4, 9)
    expect([asDifference('4-1/3', 'length', inches), read('4 - 1/3')]).toEqual([
      '4 - 1/3',
      expect.closeTo((11 / 3) * 25.4, 9),
    ])
    for (const [text, kind, unit] of [
      ['4 - 1/3', 'length', 'in'],
      ['4-5/3', 'length', 'in'],
      ['4-1/3', 'length', 'mm'],
      ['4-1/3', 'ratio', 'in'],
    ] as const)
      expect(asDifference(text, kind, { unit })).toBeUndefined()
    expect(read('12-63/64')).toBeCloseTo(25.4 * (12 + 63 / 64), 9)
    expect(withWrittenUnits('1-1/4', 'length', inches, 'in')).toBe('1-1/4\u00a0in')
    // With room round the sign, or with more than a whole behind it, it is taken away; so is everything in millimetres.
    expect(read('1 - 1/4')).toBeCloseTo(0.75 * 25.4, 9)
    expect(read('3-5/4')).toBeCloseTo(1.75 * 25.4, 9)
    expect(read('2-1/3')).toBeCloseTo((7 / 3) * 25.4, 9)
    expect(inMm('12-1/2')).toBe(11.5)
    expect(evaluate('1-1/4', 'ratio', inches).value).toBe(0.75)
  })
  it('offers to make a count of what was typed as a plain number, where the text makes sense then', () => {
    const measures = [
      measure('n', '7'),
      measure('pitch', '9.1'),
      measure('wall', '2 mm'),
      measure('turns', '3', 'count'),
    ]
    const { names } = computeMeasures(measures, 'mm')
    const offered = (text: string, kind: ValueKind = 'length') =>
      countsThatFit(text, kind, names, measures).map(({ name }) => name)
    expect(offered('n*pitch + 8.2')).toEqual(['n'])
    // It is a length with a unit, or has been a count all along, or nothing is wrong.
    expect(offered('wall*pitch')).toEqual([])
    expect(offered('n + pitch')).toEqual([])
    expect(offered('turns*pitch')).toEqual([])
    expect(offered('n', 'count')).toEqual(['n'])
    expect(offered('n*pitch*wall')).toEqual([])
    expect(offered('n*nothing')).toEqual([])
  })
  it('asks back what can be meant in two ways, and leaves names alone', () => {
    expect(() => inMm('1,234')).toThrow(/write 1\.234 or 1234/)
    // "foot" is a unit behind a number, and a name as good as any elsewhere.
    const table = computeMeasures(
      [{ id: 'm', name: 'foot', kind: 'length', expression: '84', note: '' }] as never,
      'mm',
    )
    expect(evaluate('foot / 2', 'length', table.names).value).toBe(42)
  })
})

describe('reading values', () => {
  it.each([
    ['12.5', 12.5],
    ['.5', 0.5],
    ['1e1', 10],
    ['12 mm', 12],
    ['2 cm + 0.4', 20.4],
    ['1/4 in + 0.2', 6.55],
    ['1 1/4 in', 31.75],
    ['3/8"', 9.525],
    ['1 ft', 304.8],
    ['-wall + 10', 4],
    ['2 − -3', 5],
    ['10 + 1/2*wall', 13],
    ['wall × 2 ÷ 3', 4],
    ['2^3', 8],
    ['2^3^2', 512],
    ['-2^2', 4],
    ['max(wall, 3, 1/2 in)', 12.7],
    ['round(7.3 mm, 0.5 mm)', 7.5],
    ['10 * sin(30)', 5],
    ['10 * sin(tilt)', 5],
    ['wall * share', 3],
    ['wall + 2 * slide', 6.4],
    ['hypot(3, 4)', 5],
    ['count * wall', 24],
  ])('%s is %d mm', (text, mm) => expect(read(text)).toBeCloseTo(mm, 12))

  it('takes bare numbers in the unit of the part', () => {
    const inches = computeMeasures([measure('wall', '6 mm')], 'in').names
    expect(read('1/4', 'length', inches)).toBeCloseTo(6.35, 12)
    expect(read('wall + 1', 'length', inches)).toBeCloseTo(31.4, 12)
    expect(read('2 * wall', 'length', inches)).toBeCloseTo(12, 12)
  })

  it('reads angles in degrees and whole counts', () => {
    expect(read('360 / 6', 'angle')).toBe(60)
    expect(read('1 rad', 'angle')).toBeCloseTo(57.29577951308232, 12)
    expect(read('atan(1)', 'angle')).toBeCloseTo(45, 12)
    expect(read('2 * 3', 'count')).toBe(6)
    expect(read('wall / 2 mm', 'ratio')).toBe(3)
  })

  it('agrees with the numbers it is made of, for random sums and products', () => {
    const random = seeded(7)
    const number = () => Math.round(random() * 1000) / 100 + 0.01
    for (let i = 0; i < 200; i++) {
      const [a, b, c, d] = [number(), number(), number(), number()]
      expect(read(`(${a} + ${b}) * ${c} - ${d} mm / 2`)).toBeCloseTo((a + b) * c - d / 2, 9)
    }
  })
})

describe('what cannot be read', () => {
  it.each([
    ['', 'expression-empty'],
    ['1 +', 'expression-syntax'],
    ['(1 + 2', 'expression-syntax'],
    ['1 2', 'expression-syntax'],
    [')', 'expression-syntax'],
    ['wall = 3', 'expression-syntax'],
    ['wall > 2', 'expression-syntax'],
    ['a.b', 'expression-not-arithmetic'],
    ['wall[0]', 'expression-not-arithmetic'],
    ['"text"', 'expression-not-arithmetic'],
    ['this', 'unknown-name'],
    ['constructor', 'unknown-name'],
    ['toString()', 'unknown-function'],
    ['12 mn', 'unknown-unit'],
    ['2wall', 'unknown-unit'],
    ['1/0', 'division-by-zero'],
    ['1/0 in', 'division-by-zero'],
    ['1 / (wall - wall)', 'division-by-zero'],
    ['sqrt(-1)', 'not-finite'],
    ['9^999', 'not-finite'],
    ['wall + tilt', 'mixed-kinds'],
    ['wall + count', 'mixed-kinds'],
    ['wall * wall', 'wrong-kind'],
    ['tilt', 'wrong-kind'],
    ['count', 'wrong-kind'],
    ['sin(wall)', 'wrong-kind'],
    ['min()', 'wrong-argument-count'],
    ['sin(1, 2)', 'wrong-argument-count'],
    ['1'.repeat(expressionLimits.characters + 1), 'expression-too-long'],
    [`${'('.repeat(60)}1${')'.repeat(60)}`, 'expression-too-deep'],
    [`${'-'.repeat(60)}1`, 'expression-too-deep'],
  ])('%s: %s', (text, code) => expect(problemOf(() => read(text)).code).toBe(code))

  it('points at the offending word', () => {
    expect(problemOf(() => read('wall + wal * 2')).at).toEqual([7, 10])
    expect(problemOf(() => read('wall + wal * 2')).message).toContain('Did you mean “wall”?')
    expect(problemOf(() => read('12 mm + 3 mn')).at).toEqual([10, 12])
    expect(problemOf(() => read('6 / (2 - 2) + 1')).at).toEqual([4, 11])
    expect(problemOf(() => read('wall + tilt')).at).toEqual([7, 11])
  })

  it('answers any text with a number or a problem, never with a crash', () => {
    const random = seeded(42)
    const pieces = [
      '1',
      '2.5',
      ' ',
      '+',
      '-',
      '*',
      '/',
      '^',
      '(',
      ')',
      ',',
      'wall',
      'tilt',
      'sin',
      'max',
      'mm',
      'in',
      '"',
      '°',
      '.',
      '[',
      ']',
      '=',
      '?',
      ':',
      '{',
      '\\',
      '`',
      '1/2',
      'é',
      '²',
      "'",
    ]
    for (let i = 0; i < 3000; i++) {
      const text = Array.from(
        { length: 1 + Math.floor(random() * 9) },
        () => pieces[Math.floor(random() * pieces.length)],
      ).join('')
      try {
        expect(Number.isFinite(read(text))).toBe(true)
      } catch (error) {
        expect(error, text).toBeInstanceOf(ProblemError)
      }
    }
  })

  it('refuses fractions where whole numbers are counted', () => {
    expect(problemOf(() => read('2.5', 'count')).code).toBe('not-whole')
  })
})

describe('the table of measures', () => {
  const rows = (...measures: Measure[]) => computeMeasures(measures, 'mm', { slide: 0.2 }).rows

  it('computes in the order of dependencies, whatever the order of the rows', () => {
    const [c, b, a] = rows(measure('c', 'a + b'), measure('b', '2 * a'), measure('a', '5'))
    expect([a!.value, b!.value, c!.value]).toEqual([5, 10, 15])
    expect(c!.uses).toEqual(['a', 'b'])
  })

  it('tells every member of a ring about the ring, and those outside that they depend on it', () => {
    const all = rows(
      measure('a', 'b + 1'),
      measure('b', 'c'),
      measure('c', 'a'),
      measure('d', 'a * 2'),
      measure('e', '3'),
    )
    expect(all.map((row) => row.problem?.code)).toEqual(['cycle', 'cycle', 'cycle', 'depends-on-broken', undefined])
    expect(all[0]!.problem!.text).toContain('→')
    expect(all[0]!.problem!.at).toEqual([0, 1])
    expect(rows(measure('a', 'a'))[0]!.problem!.code).toBe('cycle')
  })

  it('refuses names that mean something else, and a name used twice', () => {
    expect(unfitName('mm')).toBeDefined()
    expect(unfitName('sin')).toBeDefined()
    expect(unfitName('slide', ['slide'])).toBeDefined()
    expect(unfitName('2wide')).toBeDefined()
    expect(unfitName('größe_2')).toBeUndefined()
    // What every object of the language has by itself is a name like any other.
    for (const name of ['constructor', 'toString', 'hasOwnProperty', '__proto__', 'valueOf'])
      expect(unfitName(name)).toBeUndefined()
    const [first, second] = computeMeasures([measure('a', '1'), { ...measure('a', '2'), id: 'other' }], 'mm').rows
    expect(first!.problem).toBeUndefined()
    expect(second!.problem!.code).toBe('name-taken')
  })
})

describe('rewriting', () => {
  const table = computeMeasures([measure('wall', '6 mm'), measure('n', '3', 'count')], 'mm')
  const names = withCopyNumbers(table.names, { copy: 1, copies: 4 })
  const shown = (text: string) => text.replaceAll('\u00a0', '~')
  it.each([
    ['84', '84~mm'],
    ['-84', '-84~mm'],
    ['2,5', '2,5~mm'],
    ['1 1/4', '1 1/4~mm'],
    ['½', '½~mm'],
    ['wall + 0.2', 'wall + 0.2~mm'],
    ['2 * wall', '2 * wall'],
    ['84 / 2', '(84 / 2) * 1~mm'],
    ['wall + (2 * 5)', 'wall + ((2 * 5)) * 1~mm'],
    ['80 - (10 + 5)', '80~mm - (10~mm + 5~mm)'],
    ['80 - (10)', '80~mm - ((10)) * 1~mm'],
    ['((2 + 3))', '((2~mm + 3~mm))'],
    ['-(10 - wall)', '-(10~mm - wall)'],
    ['7.28 + copy * 0.1', '7.28~mm + (copy * 0.1) * 1~mm'],
    ['4 + copy', '4~mm + (copy) * 1~mm'],
    ['10 / (copy - 1)', '(10 / (copy - 1)) * 1~mm'],
    ['max(wall, 3) + 1 in', 'max(wall, 3~mm) + 1 in'],
    ['max(2, (3)) ', '(max(2, (3))) * 1~mm '],
    ['round(wall, 0.5)', 'round(wall, 0.5~mm)'],
    ['floor(7.3)', '(floor(7.3)) * 1~mm'],
    ['pick(n, 4, 5, 6)', '(pick(n, 4, 5, 6)) * 1~mm'],
    ['2^2 + 1', '(2^2) * 1~mm + 1~mm'],
    ['80 mm - 5 mm', '80 mm - 5 mm'],
  ])('writes the unit behind bare lengths, and takes it away again: %s -> %s', (text, expected) => {
    const written = withWrittenUnits(text, 'length', names, 'mm')
    expect(shown(written)).toBe(expected)
    expect(withoutWrittenUnits(written, 'mm')).toBe(text)
    // In inches it means what it meant, and stays as it is.
    expect(withoutWrittenUnits(written, 'in')).toBe(written)
    expect(withWrittenUnits(written, 'length', { ...names, unit: 'in' }, 'in')).toBe(written)
    if (text.includes('copy - 1')) return
    const before = evaluate(text, 'length', names).value
    expect(Math.abs(evaluate(written, 'length', { ...names, unit: 'in' }).value - before)).toBeLessThan(1e-9)
  })
  it.each(['wall +', 'wal + 2', 'wall * wall', '1,234'])('tells what it cannot read: %s', (text) => {
    expect(() => withWrittenUnits(text, 'length', names, 'mm')).toThrow(ProblemError)
  })
  it('tells what would become too long, or too deep, to be read', () => {
    const long = `1 + ${Array.from({ length: 97 }, () => '2').join(' + ')}`
    expect(evaluate(long, 'length', names).value).toBe(195)
    expect(() => withWrittenUnits(long, 'length', names, 'mm')).toThrow(/longer than 400/)
    const deep = `${'('.repeat(32)}2 * 5${')'.repeat(32)}`
    expect(evaluate(deep, 'length', names).value).toBe(10)
  })
  it('keeps every value of what is put together at random, and every text when it comes back', () => {
    const random = seeded(seed)
    const among = <T>(...all: readonly T[]): T => all[Math.floor(random() * all.length)]!
    const bare = () => among('3', '12.7', '85.1', '0.05', '1 1/4', '½')
    const sized = () => among('wall', '3 mm', '1/4 in', '2 * wall', 'wall / n')
    const some = (depth: number): string => {
      if (depth === 0) return random() < 0.6 ? bare() : sized()
      const [a, b] = [some(depth - 1), some(depth - 1)]
      return among(
        `${a} + ${b}`,
        `${a} - ${b}`,
        `(${a})`,
        `-(${a})`,
        `(${a} + ${b}) * 2`,
        `(${a} - ${b}) / n`,
        `max(${a}, ${b})`,
        `abs(${a}) + copy`,
        `pick(2, ${a}, ${b})`,
        `10 * sin(30) + ${a}`,
      )
    }
    let lengths = 0
    const tries = runs(3000)
    for (let run = 0; run < tries; run++) {
      const text = some(1 + Math.floor(random() * 3))
      const read = attempt([], () => evaluate(text, 'length', names).value)
      if (!read.ok) continue
      lengths++
      const written = withWrittenUnits(text, 'length', names, 'mm')
      const there = evaluate(written, 'length', { ...names, unit: 'in' }).value
      expect(Math.abs(there - read.value), text).toBeLessThan(1e-9 * Math.max(1, Math.abs(read.value)))
      expect(withoutWrittenUnits(written, 'mm')).toBe(text)
    }
    expect(lengths).toBeGreaterThan(tries / 2)
  })
  it('renames whole words only', () => {
    expect(withRenamed('wall + wall2 * max(wall, 3)', 'wall', 'side')).toBe('side + wall2 * max(side, 3)')
    expect(withRenamed('wall +', 'wall', 'side')).toBe('wall +')
  })
})

describe('measures that hold words', () => {
  const table = computeMeasures(
    [
      { id: 's', name: 'size', kind: 'choice', expression: 'M5', note: '', choices: ['M4', 'M5', 'M6'] },
      { id: 'l', name: 'label', kind: 'text', expression: 'Bay {bay}', note: '' },
      { id: 'b', name: 'bay', kind: 'count', expression: '7', note: '' },
      { id: 'd', name: 'bore', kind: 'length', expression: 'pick(size, 4.3, 5.3, 6.4)', note: '' },
      { id: 'n', name: 'third', kind: 'length', expression: 'pick(3, 1, 2, 8 mm)', note: '' },
      { id: 'x', name: 'odd', kind: 'choice', expression: 'M9', note: '', choices: ['M4'] },
    ],
    'mm',
  )
  const { names } = table
  it('are what was chosen, or the words with their values', () => {
    expect(table.rows.slice(0, 5).map(({ value, word }) => word ?? value)).toEqual(['M5', 'Bay 7', 7, 5.3, 8])
    expect(table.rows[5]!.problem).toMatchObject({ code: 'choice-unknown', path: ['measures', 'x', 'expression'] })
    expect(filledTemplate('{label}, {size}', names)).toBe('Bay 7, M5')
  })
  it.each([
    ['size = M5', true],
    ['size != M5', false],
    ['size = “M6” or label = "Bay 7"', true],
    ['not size = M4', true],
  ])('compare: %s', (text, expected) => expect(holds(text, names)).toBe(expected))
  it.each([
    ['size > M4', 'words-unordered'],
    ['size = M7', 'choice-unknown'],
  ])('refuse %s', (text, code) => expect(codeOf(() => holds(text, names))).toBe(code))
  it.each([
    ['size * 2', 'word-in-arithmetic'],
    ['label', 'word-in-arithmetic'],
    ['pick(size, 1, 2)', 'pick-unlike'],
    ['pick(bay, 1, 2)', 'pick-outside'],
    ['pick(size)', 'wrong-argument-count'],
  ])('are no numbers: %s', (text, code) => expect(codeOf(() => evaluate(text, 'length', names))).toBe(code))
})

describe('readings', () => {
  const taken = (...values: number[]) => values.map((value) => ({ value, at: '2026-03-14T09:00:00Z' }))
  it('come to their mean, spread and scatter', () => {
    const figures = readingFigures(taken(12.4, 12.46, 12.43))!
    expect(figures.count).toBe(3)
    expect(figures.mean).toBeCloseTo(12.43, 12)
    expect(figures.spread).toBeCloseTo(0.06, 12)
    expect(figures.deviation).toBeCloseTo(0.03, 12)
    expect(readingFigures(taken(9))).toEqual({ count: 1, mean: 9, spread: 0, deviation: 0 })
    expect(readingFigures([])).toBeUndefined()
  })
})

it('a copy knows its number among all, and within each repeat', () => {
  expect(copyNumbers([3, 2], 4)).toEqual({ copy: 5, copies: 6, copy1: 2, copy2: 2 })
  expect(copyNumbers([3, 2], 0)).toEqual({ copy: 1, copies: 6, copy1: 1, copy2: 1 })
})
