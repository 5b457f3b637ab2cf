import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checks } from './index.ts'
import { type Clause, clause, mm, mm2, mm3, phrased, plainValues, sentences } from './phrase.ts'

const texts = {
  gap: '{pieces} are {gap} apart over {area}; {shared} are shared, of {size}.{more}',
  more: ' {count} of {steps} more.',
} as const

const told = (more: readonly Clause[] = []) =>
  clause(texts, 'gap', {
    pieces: ['Lid', '5 mm'],
    gap: mm(25.4 / 3),
    area: mm2(1234.5),
    shared: mm3(16.387064),
    size: mm(84.1, 25.4, 1 / 3),
    more: sentences(...more),
  })

describe('what is said in words', () => {
  it('has its sizes in the unit that is asked for, and names as they are, even one that is a size', () => {
    expect(phrased(told(), 'mm')).toBe(
      'Lid and 5 mm are 8.467 mm apart over 1,230 mm²; 16.39 mm³ are shared, of 84.1 × 25.4 × 0.333 mm.',
    )
    expect(phrased(told(), 'in')).toBe(
      'Lid and 5 mm are 0.3333 in apart over 1.91 in²; 0.001 in³ are shared, of 3.311 × 1 × 0.0131 in.',
    )
  })
  it('has clauses one after the other, and lists in a row', () => {
    const more = (count: number) => clause(texts, 'more', { count, steps: ['one', 'two', mm(25.4)] })
    expect(phrased(told([more(1200), more(7)]), 'in')).toMatch(
      / in\. 1,200 of one, two and 1 in more\. 7 of one, two and 1 in more\.$/,
    )
  })
  it('says whatever a name is, and nothing of it is taken for a place or a size', () => {
    fc.assert(
      fc.property(fc.string(), fc.constantFrom('mm' as const, 'in' as const), (name, unit) => {
        const one = { pattern: 'The {piece} is {high} high.', code: 'high', values: { piece: name, high: mm(50.8) } }
        expect(phrased(one, unit)).toBe(`The ${name} is ${unit === 'in' ? '2 in' : '50.8 mm'} high.`)
      }),
    )
  })
  it('is given to programs as numbers in mm', () => {
    expect(plainValues(told([clause(texts, 'more', { count: 3, steps: ['a'] })]).values)).toEqual({
      pieces: ['Lid', '5 mm'],
      gap: 25.4 / 3,
      area: 1234.5,
      shared: 16.387064,
      size: [84.1, 25.4, 1 / 3],
      more: ' 3 of a more.',
    })
  })
})

describe('what checks may say', () => {
  const all = checks.flatMap((check) => Object.entries(check.texts).map(([code, text]) => ({ check, code, text })))
  it('has a code of its own for each', () => {
    const codes = all.map(({ code }) => code)
    expect(codes.filter((code, i) => codes.indexOf(code) !== i)).toEqual([])
  })
  it('has no size in its words: those are in the unit of the part', () => {
    expect(all.filter(({ text }) => /\bmm\b|\bin[²³.;,]/.test(text))).toEqual([])
  })
})
